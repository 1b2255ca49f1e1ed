import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  audit,
  AnalysisInputs,
  buildGraph,
  fixAlike,
  expand,
  figuresOf,
  indexProject,
  mutingAll,
  patternFault,
  readProjectText,
  waiverStates,
  type Finding,
  type Project,
  type Waiver,
} from '../src/index.js';
import { isChannel, isEvent } from '../src/graph/graph.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-25';
const demo = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;
const reported = (fs: readonly Finding[]): string[] => fs.map((f) => f.fingerprint);

describe('fixing all of a kind', () => {
  const { findings } = audit(demo, { today: TODAY });
  const kinds = ['dangling-target', 'dangling-sender', 'duplicate-binding', 'shared-key', 'broadcast-spill'];
  it.each(kinds)('%s: what it tells is what the audit says afterwards, and no error is new', (rule) => {
    const like = findings.find((f) => f.rule === rule)!;
    const fix = fixAlike(demo, like, TODAY);
    const after = audit(applyChanges(demo, fix.changes).project, { today: TODAY }).findings;
    const now = new Set(reported(after));
    expect(reported(fix.gone)).toEqual(reported(findings).filter((f) => !now.has(f)));
    expect(fix.added.filter((f) => f.severity === 'error')).toEqual([]);
    expect(fix.steps.length).toBeGreaterThan(0);
    const alike = findings.filter((f) => f.rule === rule && f.class === like.class);
    expect(fix.left).toBe(alike.filter((f) => now.has(f.fingerprint)).length);
  });
  it('changes nothing where no list of changes fixes it', () => {
    const like = findings.find((f) => f.rule === 'nesting-loop')!;
    expect(fixAlike(demo, like, TODAY)).toMatchObject({
      changes: [],
      steps: [],
      left: 1,
      added: [],
      gone: [],
    });
  });
  it('leaves what is waived alone', () => {
    const like = findings.find((f) => f.rule === 'dangling-target')!;
    const waivers = findings
      .filter((f) => f.rule === 'dangling-target')
      .map((f): Waiver => ({ fingerprint: f.fingerprint, reason: 'later', by: 'ines' }));
    expect(fixAlike({ ...demo, waivers }, like, TODAY).steps).toEqual([]);
  });
});

describe('how waivers stand', () => {
  const finding = (fingerprint: string, more: Partial<Finding> = {}): Finding =>
    ({ fingerprint, occurrences: ['ridge:a'], ...more }) as Finding;
  const waiver = (fingerprint: string, more: Partial<Waiver> = {}): Waiver => ({
    fingerprint,
    reason: 'r',
    by: 'ines',
    ...more,
  });
  it.each<[string, Finding[], Waiver, string]>([
    ['its finding is waived', [finding('a', { waived: true })], waiver('a'), 'in force'],
    ['its last day', [finding('a', { waived: true })], waiver('a', { until: TODAY }), 'in force'],
    ['the day after', [finding('a')], waiver('a', { until: '2026-11-24' }), 'stale'],
    ['stale and idle at once', [], waiver('a', { until: '2026-11-24' }), 'stale'],
    ['its finding is gone', [finding('b')], waiver('a'), 'idle'],
    [
      'its finding now occurs in more places',
      [finding('a')],
      waiver('a', { occurrences: ['ridge:b'] }),
      'partial',
    ],
  ])('%s', (_, findings, w, state) => {
    const [reported] = waiverStates(findings, [w], TODAY);
    expect([reported.waiver, reported.state]).toEqual([w, state]);
    expect(reported.finding).toBe(findings.find((f) => f.fingerprint === 'a'));
  });
});

describe('distributions', () => {
  it('count every outside event that brings something about, and every fan-out, over random projects', () => {
    let buckets = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const g = buildGraph(expand(indexProject(randomProject(seed))));
      const ctx = new AnalysisInputs(g, TODAY);
      const { chains, fanOuts } = figuresOf(ctx);
      // Distinct actions one step away, channels walked through, by plain sets.
      const plain = new Map<number, number>();
      for (let n = 0; n < g.nodes; n++) {
        if (!isEvent(g, n)) continue;
        const reached = new Set<number>();
        for (let e = g.first[n]; e < g.end[n]; e++) {
          const to = g.head[e];
          if (!isChannel(g, to)) reached.add(to);
          else for (let h = g.first[to]; h < g.end[to]; h++) reached.add(g.head[h]);
        }
        if (reached.size > 0) plain.set(reached.size, (plain.get(reached.size) ?? 0) + 1);
      }
      expect(fanOuts.map((b) => [b.value, b.count])).toEqual([...plain].sort((a, b) => a[0] - b[0]));
      const longest = audit(g.x.index.project, { today: TODAY }).metrics.longestChain;
      expect(Math.max(0, ...chains.map((b) => b.value))).toBe(longest);
      for (const b of [...chains, ...fanOuts]) {
        buckets++;
        expect(b.events).toHaveLength(Math.min(b.count, 40));
        for (const e of b.events) expect(e.at).toContain(':');
      }
    }
    expect(buckets).toBeGreaterThan(50);
  });
  it('name the first forty of more events', () => {
    const many = 45;
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Bells',
      assets: [
        {
          id: 'yard',
          kind: 'scene',
          placements: Array.from({ length: many }, (_, i) => ({ id: `bell-${i}`, asset: 'Bell' })),
          bindings: Array.from({ length: many }, (_, i) => ({
            id: `b${i}`,
            from: { at: `bell-${i}`, event: 'onRing' },
            to: { at: 'bell-0', action: 'sound' },
          })),
        },
        {
          id: 'Bell',
          kind: 'prefab',
          events: [{ name: 'onRing', cause: { type: 'code' } }],
          actions: [{ name: 'sound' }],
        },
      ],
    };
    const { chains, fanOuts } = figuresOf(
      new AnalysisInputs(buildGraph(expand(indexProject(project))), TODAY),
    );
    const first = Array.from({ length: 40 }, (_, i) => ({ at: `yard:bell-${i}`, name: 'onRing' }));
    expect(chains).toEqual([{ value: 1, count: many, events: first }]);
    expect(fanOuts).toEqual(chains);
  });
});

describe('putting bindings off', () => {
  const index = indexProject(demo);
  it('leaves out what is off already or not there, and keeps all else of a binding', () => {
    const changes = mutingAll(index, [
      { asset: 'pylon-ridge', binding: 'gust-2a' },
      { asset: 'pylon-ridge', binding: 'nobody' },
      { asset: 'nowhere', binding: 'gust-2a' },
    ]);
    expect(changes).toHaveLength(1);
    const after: Project = applyChanges(demo, changes).project;
    const of = (p: Project): object =>
      p.assets.find((a) => a.id === 'pylon-ridge')!.bindings!.find((b) => b.id === 'gust-2a')!;
    expect(of(after)).toEqual({ ...of(demo), enabled: false });
    expect(mutingAll(indexProject(after), [{ asset: 'pylon-ridge', binding: 'gust-2a' }])).toEqual([]);
  });
});

it.each([
  ['^on[A-Z]', true],
  ['(', false],
  ['(?=x)', false],
  ['(a+)+$', true],
])('a naming pattern %s is one: %s', (pattern, sound) => {
  expect(patternFault(pattern) === null).toBe(sound);
});
