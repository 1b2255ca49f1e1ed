import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';
import type { AuditResult } from '@oquel/core';
import { DEMO, oquel, written } from './harness.js';

const EXAMPLE = fileURLToPath(new URL('../../../docs/examples/own-rules.mjs', import.meta.url));
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-rules-'));
});

const quay = {
  format: 'oquel.project/1',
  name: 'Quay',
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'gate', asset: 'Gate' },
      ],
      bindings: [
        { id: 'slow', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'open' }, delay: 30 },
        { id: 'quick', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'open' }, delay: 2 },
      ],
    },
    {
      id: 'Bell',
      kind: 'prefab',
      note: 'Rung by hand',
      events: [{ name: 'onRung', cause: { type: 'use' } }],
    },
    { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }] },
  ],
};
const rule = (name: string, part: string): string =>
  `{ meta: { name: '${name}', severity: 'error', what: 'W.', why: 'Y.', fix: 'C.' },` +
  ` messages: { it: 'is so' }, parts: [${part}] }`;
const EVERY_ASSET =
  "{ unit: 'asset', check: (_, { decl }, report) => report({ subject: { asset: decl.id }, occurrences: []," +
  " message: 'it', data: () => ({}), evidence: () => ({ kind: 'names', wanted: decl.id, known: [] }) }) }";

describe('rules of a team’s own', () => {
  const own = async (project: object, ...more: string[]): Promise<AuditResult['findings']> => {
    const file = written(folder, 'quay.json', project);
    const { out, err } = await oquel('audit', file, '--rules', EXAMPLE, '--format', 'json', ...more);
    expect(err).toBe('');
    const { findings } = JSON.parse(out) as AuditResult;
    return findings.filter((f) => ['long-wait', 'prefab-note'].includes(f.rule));
  };

  it('report beside the others, as the example does', async () => {
    const findings = await own(quay);
    expect(findings.map((f) => [f.rule, f.severity, f.message, f.subject, f.occurrences])).toEqual([
      [
        'long-wait',
        'warning',
        'when bell.onRung do gate.open waits 30 s; our limit is 10 s',
        { asset: 'quay', binding: 'slow' },
        ['quay:.'],
      ],
      ['prefab-note', 'info', 'Gate has no note', { asset: 'Gate' }, []],
    ]);
  });

  it('have severities by the policy, are waived, and count for the gate', async () => {
    const [wait, note] = await own(quay);
    const policy = { severity: { 'long-wait': 'error' } };
    const waivers = [{ fingerprint: note.fingerprint, reason: 'it is a gate', by: 'ines' }];
    const findings = await own({ ...quay, policy, waivers });
    expect(findings.map((f) => [f.fingerprint, f.severity, f.waived === true])).toEqual([
      [wait.fingerprint, 'error', false],
      [note.fingerprint, 'info', true],
    ]);
    const file = written(folder, 'strict.json', { ...quay, policy });
    expect((await oquel('audit', file)).code).toBe(0);
    expect((await oquel('audit', file, '--rules', EXAMPLE)).code).toBe(1);
  });

  it('stand in SARIF with what they are, and in JUnit as cases', async () => {
    const file = written(folder, 'quay.json', quay);
    const sarif = JSON.parse(
      (await oquel('audit', file, '--rules', EXAMPLE, '--format', 'sarif', '--guide', 'https://a.example/g'))
        .out,
    ) as {
      runs: { tool: { driver: { rules: object[] } }; results: { ruleId: string; ruleIndex: number }[] }[];
    };
    const [{ tool, results }] = sarif.runs;
    const result = results.find((r) => r.ruleId === 'long-wait')!;
    expect(tool.driver.rules[result.ruleIndex]).toMatchObject({
      id: 'long-wait',
      shortDescription: { text: 'A binding waits longer than ten seconds.' },
      properties: { group: 'own' },
    });
    expect(tool.driver.rules[result.ruleIndex]).not.toHaveProperty('helpUri');
    const junit = (await oquel('audit', file, '--rules', EXAMPLE, '--format', 'junit')).out;
    expect(junit).toContain('classname="oquel.long-wait"');
    const clean = (await oquel('audit', DEMO, '--rules', EXAMPLE, '--format', 'junit', '--gate', 'none')).out;
    expect(clean).toContain('name="long-wait"');
  });

  const cases: [string, string, RegExp][] = [
    ['no list', 'export default 3;', /expected a list of rules, or a function/],
    ['nothing', '', /expected a list of rules/],
    ['not JavaScript', 'export default [', /cannot be loaded: /],
    ['a function that throws', 'export default () => { throw new Error("oh"); };', /its function failed: oh/],
    ['a rule without meta', 'export default [{}];', /rule 1: meta is missing/],
    [
      'a name with capitals',
      `export default [${rule('LongWait', EVERY_ASSET)}];`,
      /must be of lower-case words/,
    ],
    [
      'the name of another rule',
      `export default [${rule('long-chain', EVERY_ASSET)}];`,
      /long-chain: there already is/,
    ],
    [
      'one name twice',
      `export default [${rule('a-b', EVERY_ASSET)}, ${rule('a-b', EVERY_ASSET)}];`,
      /a-b: there already is/,
    ],
    ['no parts', `export default [${rule('a-b', '')}];`, /a-b: parts must be a list of 1 to 8/],
    [
      'an unknown unit',
      `export default [${rule('a-b', "{ unit: 'lamp', check() {} }")}];`,
      /a-b: unit "lamp" is none of project, asset, copies, channel/,
    ],
    [
      'a change that the unit does not have',
      `export default [${rule('a-b', "{ unit: 'asset', after: ['sleep'], check() {} }")}];`,
      /about asset can be judged after "name patterns", .* not after "sleep"/,
    ],
    ['no check', `export default [${rule('a-b', "{ unit: 'asset' }")}];`, /a-b: check must be a function/],
    [
      'a check that throws',
      `export default [${rule('a-b', "{ unit: 'asset', check() { throw new Error('oh no'); } }")}];`,
      /the rule a-b failed: oh no/,
    ],
    [
      'a message without its data',
      `export default [${rule('a-b', EVERY_ASSET).replace('is so', '{what} is so')}];`,
      /the rule a-b failed: message "\{what\} is so" has no data for \{what\}/,
    ],
  ];
  it.each(cases)('are refused: %s', async (_, text, words) => {
    const module = written(folder, `r${Math.abs(hash(text))}.mjs`, text);
    const { code, out, err } = await oquel('audit', written(folder, 'quay.json', quay), '--rules', module);
    expect({ code, out }).toEqual({ code: 2, out: '' });
    expect(err).toMatch(words);
  });
  it('are refused: a file that is not there', async () => {
    const { code, err } = await oquel('audit', DEMO, '--rules', join(folder, 'gone.mjs'));
    expect(code).toBe(2);
    expect(err).toMatch(/gone\.mjs cannot be read: it does not exist/);
  });
});

/** Modules are kept by their names. */
function hash(text: string): number {
  let n = 0;
  for (const c of text) n = (n * 31 + c.charCodeAt(0)) | 0;
  return n;
}
