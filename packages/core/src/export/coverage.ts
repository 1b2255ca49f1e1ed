import { XMLBuilder } from 'fast-xml-parser';
import type { ProjectIndex } from '../project/index-project.js';
import type { Places } from './located.js';
import { xmlText } from './junit.js';

/** How often authored bindings have served, by asset and binding: `quay/opens`. */
export type ServedCounts = ReadonlyMap<string, number>;

/** Where bindings are written; without it each asset counts as a file, and its bindings as the lines of it. */
export interface CoverageOptions {
  /** The document or folder, as the repository names it. */
  artifact: string;
  places: Places;
}
interface Line {
  line: number;
  count: number;
}

/**
 * Which bindings have served, as LCOV for build servers: a line for each binding that is not muted, where it is written. Linear in
 * bindings.
 */
export function coverageLcov(index: ProjectIndex, served: ServedCounts, options?: CoverageOptions): string {
  const out: string[] = [];
  for (const [file, lines] of linesOf(index, served, options)) {
    out.push('TN:', `SF:${file}`);
    for (const { line, count } of lines) out.push(`DA:${line},${count}`);
    out.push(`LF:${lines.length}`, `LH:${hits(lines)}`, 'end_of_record');
  }
  return out.map((line) => `${line}\n`).join('');
}

/** The same as Cobertura XML (coverage-04). `at`: milliseconds since 1970. */
export function coverageCobertura(
  index: ProjectIndex,
  served: ServedCounts,
  at: number,
  options?: CoverageOptions,
): string {
  const files = [...linesOf(index, served, options)];
  const all = files.flatMap(([, lines]) => lines);
  const totals = { '@_line-rate': rate(all), '@_branch-rate': '0' };
  const document = {
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    coverage: {
      ...totals,
      '@_lines-covered': hits(all),
      '@_lines-valid': all.length,
      '@_branches-covered': 0,
      '@_branches-valid': 0,
      '@_complexity': '0',
      '@_version': '0',
      '@_timestamp': Math.floor(at),
      sources: { source: '.' },
      packages: {
        package: {
          '@_name': xmlText(index.project.name),
          ...totals,
          '@_complexity': '0',
          classes: {
            class: files.map(([file, lines]) => ({
              '@_name': xmlText(file),
              '@_filename': xmlText(file),
              '@_line-rate': rate(lines),
              '@_branch-rate': '0',
              '@_complexity': '0',
              methods: '',
              lines: { line: lines.map(({ line, count }) => ({ '@_number': line, '@_hits': count })) },
            })),
          },
        },
      },
    },
  };
  return new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true }).build(document);
}

/** The lines of each file; two bindings on one line count together, and it has served if one of them has. */
function linesOf(
  { project }: ProjectIndex,
  served: ServedCounts,
  options: CoverageOptions | undefined,
): Map<string, Line[]> {
  const files = new Map<string, Map<number, number>>();
  for (const { id: asset, bindings = [] } of project.assets) {
    bindings.forEach((b, i) => {
      if (b.enabled === false) return;
      const place = options?.places.ofBinding({ asset, binding: b.id });
      const file = !options ? asset : joined(options.artifact, place?.file ?? '');
      const line = place?.region.line ?? i + 1;
      const own = files.get(file) ?? new Map<number, number>();
      files.set(file, own);
      own.set(line, (own.get(line) ?? 0) + (served.get(`${asset}/${b.id}`) ?? 0));
    });
  }
  return new Map(
    [...files].map(([file, lines]) => [
      file,
      [...lines].sort(([a], [b]) => a - b).map(([line, count]) => ({ line, count })),
    ]),
  );
}
function joined(artifact: string, file: string): string {
  return file === '' ? artifact : `${artifact.replace(/\/+$/, '')}/${file}`;
}
function hits(lines: readonly Line[]): number {
  return lines.filter((l) => l.count > 0).length;
}
function rate(lines: readonly Line[]): string {
  return lines.length === 0 ? '1' : (hits(lines) / lines.length).toFixed(4);
}
