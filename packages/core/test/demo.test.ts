import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { ALL_RULES, audit, readProjectText, toFolder, type Finding } from '../src/index.js';

const demo = (name: string): string =>
  readFileSync(new URL(`../../../demo/${name}`, import.meta.url), 'utf8');
const { project, unknown } = readProjectText(demo('storm-over-veyra.json'));
const { findings, metrics } = audit(project, { today: '2026-11-25' });
const readme = demo('README.md');

describe('the demo project', () => {
  it('has exactly the findings that its README lists', () => {
    const listed = /```text\n([^]*?)\n```/.exec(readme)![1].split('\n');
    const said = (f: Finding): string => {
      const how = f.waived ? 'waived' : f.severity === 'info' ? 'note' : f.severity;
      return `${how} ${f.rule}${f.class === undefined ? '' : `/${f.class}`}: ${f.message}`;
    };
    expect(findings.map(said)).toEqual(listed);
  });
  it('has a planted fault of every rule and class, each with its story', () => {
    const fired = new Set(findings.flatMap((f) => [f.rule, `${f.rule}/${f.class}`]));
    for (const { meta } of ALL_RULES) {
      expect(fired).toContain(meta.name);
      for (const cls of Object.keys(meta.classes ?? {})) expect(fired).toContain(`${meta.name}/${cls}`);
      expect(readme).toMatch(new RegExp(`^\\| ${meta.name} +\\|`, 'm'));
    }
  });
  it('lies beside its document as a folder, byte for byte: `npm run docs` writes it', () => {
    const folder = new URL('../../../demo/wiring/', import.meta.url);
    const files = toFolder(project);
    const there = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((name) =>
      name.endsWith('.json'),
    );
    expect(there.sort()).toEqual([...files.keys()].sort());
    for (const [name, text] of files) expect(readFileSync(new URL(name, folder), 'utf8')).toBe(text);
  });
  it('is as large as it is meant to be, and holds nothing that the format does not know', () => {
    const placements = project.assets.reduce((n, a) => n + (a.placements?.length ?? 0), 0);
    expect(placements).toBeGreaterThanOrEqual(95);
    expect(metrics.bindings).toBeGreaterThanOrEqual(170);
    expect(metrics.longestChain).toBe(7);
    expect(unknown).toEqual([]);
  });
});
