import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import {
  ALL_RULES,
  audit,
  indexProject,
  namesText,
  proofTracks,
  readProject,
  type Finding,
  type PathEvidence,
  type Project,
  type ProjectIndex,
} from '../src/index.js';

const folder = new URL('./cases/', import.meta.url);
const read = (project: unknown): { index: ProjectIndex; findings: Finding[] } => {
  const { project: sound } = readProject(project);
  return { index: indexProject(sound), findings: audit(sound, { today: '2026-11-24' }).findings };
};
const cases = readdirSync(folder).map((file) => {
  const { project } = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as { project: Project };
  return read(project);
});
const demo = JSON.parse(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
) as Project;
cases.push(read(demo));

describe('what a proof draws is what its evidence says', () => {
  const seen = new Set<string>();
  for (const { findings } of cases) {
    for (const { rule, evidence } of findings) if (evidence.kind === 'path') seen.add(rule);
  }

  it.each(ALL_RULES.map((r) => r.meta.name).filter((name) => seen.has(name)))('%s', (rule) => {
    for (const { index, findings } of cases) {
      for (const finding of findings) {
        if (finding.rule === rule && finding.evidence.kind === 'path') compare(index, finding.evidence);
      }
    }
  });
  it('is there for every rule that judges ways', () => {
    for (const rule of ['long-chain', 'relay-cycle']) expect([...seen]).toContain(rule);
    expect(seen.size).toBeGreaterThan(5);
  });
});

/** Every step once and in order, with its whole name, its binding, its delay; hops counted as the actions are. */
function compare(index: ProjectIndex, evidence: PathEvidence): void {
  const { steps, closed, latency, parts = [] } = evidence;
  const [main, ...rounds] = proofTracks(index, evidence);
  expect(main.rows.map((r) => r.node)).toEqual(steps.map((s) => s.node));
  expect(main.rows.map((r) => r.binding)).toEqual(steps.map((s) => s.via?.binding));
  let hop = 0;
  main.rows.forEach((row, i) => {
    const { node, via } = steps[i];
    expect(row.name).toContain(node.name);
    if (node.at !== undefined) expect(row.name).toContain(node.at);
    expect(row.delay).toBe(via?.delay ?? 0);
    expect(row.via === '').toBe(i === 0);
    // The words of the binding hold its delay and its limit.
    const owner = index.assets[index.assetAt.get(via?.binding?.asset ?? '') ?? -1];
    const binding = owner?.bindings.find((b) => b.id === via?.binding?.binding);
    if (binding?.delay) expect(row.via).toContain(`after ${binding.delay}s`);
    if (binding?.limit === 1) expect(row.via).toContain('once');
    expect(row.returns).toBe(closed && i === steps.length - 1);
    if (node.type === 'action' && !row.returns) expect(row.hop).toBe((hop += 1));
  });
  expect(main.hops).toBe(hop);
  const us = main.rows.reduce((sum, r) => sum + Math.round(r.delay * 1e6), 0);
  expect(us).toBe(Math.round(latency * 1e6));
  expect(rounds).toHaveLength(parts.filter((p) => p.cycle).length);
}

describe('a long chain that runs into a cycle', () => {
  const relay = {
    id: 'Relay',
    kind: 'prefab',
    events: [
      { name: 'onOn', cause: { type: 'raised' } },
      { name: 'onPressed', cause: { type: 'press' } },
    ],
    actions: [{ name: 'on', effects: [{ raise: 'onOn' }] }],
  };
  const names = ['a', 'b', 'c', 'd', 'e'];
  const next = [...names.slice(1), 'c'];
  const { index, findings } = read({
    format: 'oquel.project/1',
    name: 'Yard',
    policy: { maxChain: 3 },
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        placements: [...names, 'start'].map((id) => ({ id, asset: 'Relay' })),
        bindings: [
          { id: 'begin', from: { at: 'start', event: 'onPressed' }, to: { at: 'a', action: 'on' } },
          ...names.map((id, i) => ({
            id: `on-${id}`,
            from: { at: id, event: 'onOn' },
            to: { at: next[i], action: 'on' },
          })),
        ],
      },
      relay,
    ],
  });
  const long = findings.find((f) => f.rule === 'long-chain' && f.message.includes('start'))!;

  it('says both parts, which add up to what the audit counts', () => {
    expect(long.message).toContain('5 hops');
    const tracks = proofTracks(index, long.evidence as PathEvidence);
    expect(tracks.map((t) => t.title)).toEqual([
      'Chain of 2 hops, then a cycle of 3',
      'The cycle of 3 that it runs into at yard:c on',
    ]);
    expect(tracks[1].rows.map((r) => r.name)).toEqual([
      'yard:c on',
      'yard:c onOn',
      'yard:d on',
      'yard:d onOn',
      'yard:e on',
      'yard:e onOn',
      'yard:c on',
    ]);
    expect(tracks[1].rows.map((r) => r.hop)).toEqual([1, undefined, 2, undefined, 3, undefined, 1]);
  });
});

describe('the proof of a missing name', () => {
  const many = Array.from({ length: 200 }, (_, i) => `thing-${String(i).padStart(3, '0')}`);
  it.each([
    ['lanp', ['lamp', 'bell', 'lamp-2'], ['lamp', 'lamp-2'], '1 other name is less similar.'],
    ['x', [], [], 'Nothing of that kind is declared.'],
    ['opening', ['a', 'b'], ['a', 'b'], ''],
    ['opening', many, [], 'None of the 200 declared names is like it.'],
  ])('%s shows the nearest few', (wanted, known, near, rest) => {
    const text = namesText(wanted, known);
    expect(text.near).toEqual(near);
    expect(text.rest).toBe(rest);
  });
});
