import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import {
  coverageCobertura,
  coverageLcov,
  indexProject,
  locate,
  readProject,
  toFolder,
  type CoverageOptions,
  type ServedCounts,
} from '../src/index.js';

const DEMO = new URL('../../../demo/storm-over-veyra.json', import.meta.url);
const { project } = readProject(JSON.parse(readFileSync(DEMO, 'utf8')));
const index = indexProject(project);
const bindings = project.assets.flatMap((a) =>
  (a.bindings ?? []).map((b) => ({ asset: a.id, binding: b.id })),
);
const muted = project.assets.flatMap((a) => (a.bindings ?? []).filter((b) => b.enabled === false)).length;
/** Every third binding has served, some of them often. */
const served: ServedCounts = new Map(
  bindings.flatMap((b, i) => (i % 3 === 0 ? [[`${b.asset}/${b.binding}`, i + 1]] : [])),
);
const files = toFolder(project);
const [, ...assets] = files.keys();
const options: CoverageOptions = {
  artifact: 'wiring/',
  places: locate(index, [], { assets, file: (path) => files.get(path) ?? null }, bindings),
};

/** Lines of a file with their counts, read from LCOV. */
function read(lcov: string): Map<string, Map<number, number>> {
  const found = new Map<string, Map<number, number>>();
  for (const record of lcov.split('end_of_record\n').filter((r) => r !== '')) {
    const [, file] = /^SF:(.*)$/m.exec(record)!;
    const lines = [...record.matchAll(/^DA:(\d+),(\d+)$/gm)].map(
      ([, line, n]) => [Number(line), Number(n)] as const,
    );
    expect(Number(/^LF:(\d+)$/m.exec(record)![1])).toBe(lines.length);
    expect(Number(/^LH:(\d+)$/m.exec(record)![1])).toBe(lines.filter(([, n]) => n > 0).length);
    found.set(file, new Map(lines));
  }
  return found;
}

describe('coverage of bindings', () => {
  it('stands at the lines where they are written, each with its count', () => {
    const found = read(coverageLcov(index, served, options));
    let lines = 0;
    for (const [file, counts] of found) {
      const text = files.get(file.replace('wiring/', ''))!.split('\n');
      const own = JSON.parse(text.join('\n')) as {
        id: string;
        bindings: { id: string; enabled?: boolean }[];
      };
      const starts = [...counts.keys()];
      const wanted = own.bindings.filter((b) => b.enabled !== false);
      expect(starts.length).toBe(wanted.length);
      wanted.forEach(({ id }, i) => {
        // A binding begins at its line, and its id stands before the next one begins.
        const until = starts[i + 1] ?? text.length;
        expect(text.slice(starts[i] - 1, until).join('')).toContain(`"id": "${id}"`);
        expect(counts.get(starts[i])).toBe(served.get(`${own.id}/${id}`) ?? 0);
      });
      lines += starts.length;
    }
    expect(lines).toBe(bindings.length - muted);
  });
  it('has an asset for a file and a number for a line where no text is known', () => {
    const found = read(coverageLcov(index, served));
    expect([...found.keys()]).toEqual(project.assets.filter((a) => a.bindings?.length).map((a) => a.id));
  });
  it('is the same as Cobertura', () => {
    const xml = coverageCobertura(index, served, Date.UTC(2026, 10, 29), options);
    expect(XMLValidator.validate(xml)).toBe(true);
    const list = (name: string): boolean => name === 'class' || name === 'line';
    const parser = new XMLParser({ ignoreAttributes: false, parseAttributeValue: true, isArray: list });
    interface Line {
      '@_number': number;
      '@_hits': number;
    }
    const { coverage } = parser.parse(xml) as {
      coverage: {
        '@_line-rate': number;
        '@_lines-valid': number;
        '@_lines-covered': number;
        packages: { package: { classes: { class: { '@_filename': string; lines: { line: Line[] } }[] } } };
      };
    };
    const found = read(coverageLcov(index, served, options));
    const classes = coverage.packages.package.classes.class;
    expect(
      new Map(
        classes.map((c) => [c['@_filename'], new Map(c.lines.line.map((l) => [l['@_number'], l['@_hits']]))]),
      ),
    ).toEqual(found);
    const all = [...found.values()].flatMap((counts) => [...counts.values()]);
    expect(coverage['@_lines-valid']).toBe(all.length);
    expect(coverage['@_lines-covered']).toBe(all.filter((n) => n > 0).length);
    expect(coverage['@_line-rate']).toBeCloseTo(all.filter((n) => n > 0).length / all.length, 3);
  });
});
