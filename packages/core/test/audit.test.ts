import { describe, expect, it } from '@jest/globals';
import { audit, canonicalJson, readProject, type Finding, type Project } from '../src/index.js';
import { Naive } from './naive.js';
import { Random, seeds } from './random.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-24';
const findings = (p: Project): Finding[] => audit(readProject(p).project, { today: TODAY }).findings;
const prints = (p: Project): string[] =>
  findings(p)
    .map((f) => f.fingerprint)
    .sort();

describe('the audit of random projects', () => {
  it('never fails, is the same each time, is in its order, and names each fault once', () => {
    const rank = { error: 0, warning: 1, info: 2 };
    const seen = new Set<string>();
    for (let seed = 0; seed < seeds(350); seed++) {
      const project = randomProject(seed);
      const first = audit(project, { today: TODAY });
      expect(audit(project, { today: TODAY })).toEqual(first);
      const keys = first.findings.map((f) =>
        [rank[f.severity], f.rule, f.class ?? '', canonicalJson(f.subject)].join('\n'),
      );
      expect(keys).toEqual([...keys].sort());
      expect(new Set(first.findings.map((f) => f.fingerprint)).size).toBe(first.findings.length);
      for (const f of first.findings) {
        seen.add(f.class === undefined ? f.rule : `${f.rule}/${f.class}`);
        expect([...f.occurrences].sort()).toEqual(f.occurrences);
        expect(f.message).not.toMatch(/[{}]|undefined|NaN/);
      }
    }
    // The projects are varied enough to say something: most rules and classes fire somewhere.
    expect(seen.size).toBeGreaterThan(45);
  });

  it('has fingerprints that do not change with the order of properties and declarations', () => {
    for (let seed = 0; seed < 250; seed++) {
      const r = new Random(seed);
      const project = randomProject(seed);
      expect(prints(shuffled(r, project) as Project)).toEqual(prints(project));
    }
  });

  it('has fingerprints that outlive an unrelated edit', () => {
    const beside = {
      id: 'Beside',
      kind: 'scene' as const,
      placements: [{ id: 'x', asset: 'Own' }],
      bindings: [{ id: 'b', from: { at: 'x', event: 'onA' }, to: { at: 'gone', action: 'y' } }],
    };
    const own = {
      id: 'Own',
      kind: 'prefab' as const,
      events: [{ name: 'onA', cause: { type: 'use' as const } }],
    };
    for (let seed = 0; seed < 250; seed++) {
      const project = randomProject(seed);
      // A selection over the whole project could see the new scene's name; the assets of this one are its own.
      const more = { ...project, assets: [...project.assets, beside, own] };
      const after = new Set(prints(more));
      expect(prints(project).filter((p) => !after.has(p))).toEqual([]);
    }
  });

  it('finds a reach that is too large exactly where counting by hand does', () => {
    for (let seed = 0; seed < 300; seed++) {
      const project = { ...randomProject(seed), policy: { maxReach: seed % 5 } };
      const naive = new Naive(project);
      const next = new Map<string, string[]>();
      for (const e of naive.edges()) next.set(e.tail, [...(next.get(e.tail) ?? []), e.head]);
      const actions = new Set(
        naive.instances.flatMap((i) => (i.asset.actions ?? []).map((a) => `${i.address} ${a.name}`)),
      );
      const expected = new Set<string>();
      for (const i of naive.instances) {
        for (const e of i.asset.events ?? []) {
          if (i.spawned || e.cause.type === 'raised') continue;
          const reached = new Set<string>();
          const queue = [`${i.address} ${e.name}`];
          for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
            for (const head of next.get(at) ?? []) {
              if (reached.has(head)) continue;
              reached.add(head);
              queue.push(head);
            }
          }
          const size = [...reached].filter((n) => actions.has(n)).length;
          if (size > project.policy.maxReach) expected.add(`${i.asset.id}/${e.name}/${i.address}`);
        }
      }
      const found = findings(project)
        .filter((f) => f.rule === 'large-reach')
        .flatMap((f) => {
          const s = f.subject as { asset: string; event: string };
          return f.occurrences.map((o) => `${s.asset}/${s.event}/${o}`);
        });
      expect({ seed, found: found.sort() }).toEqual({ seed, found: [...expected].sort() });
    }
  });
});

it('of one rule it lists a bounded number of findings, and the last one says how many there are besides', () => {
  const count = 10_003;
  const events = Array.from({ length: count }, (_, i) => ({
    name: `on${i}`,
    cause: { type: 'use' as const },
    expectsListener: true,
  }));
  const project: Project = {
    format: 'oquel.project/1',
    name: 'Yard',
    assets: [{ id: 'yard', kind: 'scene', events }],
  };
  const unheard = findings(project).filter((f) => f.rule === 'unheard-event');
  expect(unheard).toHaveLength(10_000);
  expect(unheard.at(-1)!.message).toMatch(/ \(and 3 more like it that are not listed\)$/);
  expect(unheard.at(-2)!.message).not.toMatch(/not listed/);
});

/** The same document with its properties, events, actions and property declarations in another order. */
function shuffled(r: Random, value: unknown, key = ''): unknown {
  const mix = <T>(list: T[]): T[] =>
    list
      .map((item) => ({ item, at: r.next() }))
      .sort((a, b) => a.at - b.at)
      .map((x) => x.item);
  if (Array.isArray(value)) {
    const items = value.map((v) => shuffled(r, v));
    return ['events', 'properties', 'enums', 'tables'].includes(key) ? mix(items) : items;
  }
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(mix(Object.entries(value).map(([k, v]) => [k, shuffled(r, v, k)])));
}
