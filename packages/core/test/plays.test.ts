import { describe, expect, it } from '@jest/globals';
import { createWorld, type World, type WorldRecord } from '@oquel/runtime';
import {
  compileWiring,
  expand,
  indexProject,
  rehearse,
  traceText,
  type CompiledWiring,
} from '../src/index.js';
import { projectOf } from './naive-rehearsal/project-of.js';
import { randomScript } from './naive-rehearsal/script.js';
import { Random, seeds } from './random.js';
import { compiledOf, observed, reported, NOTHING } from './observed.js';

describe('a play that was written by a runtime', () => {
  it.each(Array.from({ length: seeds(8) }, (_, i) => i))(
    'has nothing told of it, whatever happened in it: batch %i',
    (batch) => {
      let served = 0;
      for (let seed = batch * 50; seed < batch * 50 + 50; seed++) {
        const project = projectOf(seed);
        const x = expand(indexProject(project));
        if (x.count > 400) continue;
        const rehearsal = randomScript(new Random(seed + 7_000_000), project);
        delete rehearsal.loadSet;
        const lines: string[] = [];
        rehearse(x, [rehearsal], (l) => 'n' in l && lines.push(traceText(l)));
        const report = observed(compileWiring(x), lines);
        expect({ seed, ...reported(report) }).toEqual({ seed, ...NOTHING });
        expect(report.broken.count).toBe(0);
        served += report.coverage.served;
      }
      expect(served).toBeGreaterThan(30);
    },
  );
});

/** What is wrong with a runtime, or with the code around it. */
type Fault = 'dropped' | 'doubled' | 'reversed' | 'other code';
interface Inner {
  serving: {
    deliver: (bound: { decl: { id: string }; owner: { address: string } }, ...rest: unknown[]) => void;
  };
  selector: { receivers: (bound: unknown, reader: unknown) => readonly unknown[] | null };
  bound: { on: (instance: { address: string }, event: number) => readonly unknown[] };
}

/** Plays at random with a runtime that has a fault, and says what was done wrong at least once. */
function playBadly(
  compiled: CompiledWiring,
  seed: number,
  fault: Fault,
): { lines: string[]; wrong: ReadonlySet<string> } {
  const r = new Random(seed);
  const records: WorldRecord[] = [];
  const wrong = new Set<string>();
  const world: World = createWorld(compiled.project, { record: (record) => records.push({ ...record }) });
  const inner = world as unknown as Inner;
  const rows = compiled.scenes.flatMap((s) => s.bindings.owner.map((owner, i) => ({ s, owner, i })));
  const chosen = r.pick(rows);
  const { decl, owner } = {
    decl: compiled.project.assets[chosen.s.asset[chosen.owner]].bindings[chosen.s.bindings.binding[chosen.i]],
    owner: chosen.owner,
  };
  const isIt = (bound: { decl: { id: string } }): boolean =>
    bound.decl === (decl as unknown) && (bound as { owner?: { at: number } }).owner?.at === owner;
  const { serving } = inner;
  const deliver = serving.deliver.bind(serving);
  // What selects nothing does nothing, however often.
  const reaches = (bound: { owner: unknown }): boolean =>
    inner.selector.receivers(bound, bound.owner)?.length !== 0;
  if (fault === 'dropped' || fault === 'doubled') {
    serving.deliver = (bound, ...rest) => {
      if (!isIt(bound)) return deliver(bound, ...rest);
      if (reaches(bound)) wrong.add(`${bound.owner.address} ${bound.decl.id}`);
      if (fault === 'dropped') return;
      deliver(bound, ...rest);
      deliver(bound, ...rest);
    };
  }
  if (fault === 'reversed') {
    const on = inner.bound.on.bind(inner.bound);
    inner.bound.on = (instance, event) => {
      const list = on(instance, event);
      return list.length < 2 ? list : [...list].reverse();
    };
  }
  world.load(...compiled.scenes);
  const addresses = compiled.scenes.flatMap((s) => s.name.map((_, i) => ({ s, i })));
  for (let step = 0; step < 14 && !world.runaway; step++) {
    world.advance(r.pick([0.25, 0.5, 1]));
    const { s, i } = r.pick(addresses);
    const asset = compiled.project.assets[s.asset[i]];
    const names: string[] = [];
    for (let at = i; at > 0; at = s.parent[at]) names.push(s.name[at]);
    const at = `${s.scene}:${names.reverse().join('/') || '.'}`;
    if (asset.events.length > 0) world.raise(at, r.pick(asset.events).name);
    if (fault === 'other code' && r.chance(0.3) && asset.actions.length > 0) {
      const instance = world.instance(at);
      const { name } = r.pick(asset.actions);
      if (!instance || instance.gone) continue;
      records.push({
        kind: 'performed',
        at: instance.address,
        action: name,
        args: {},
        times: 1,
        owner: undefined as never,
        binding: undefined as never,
        n: records.length + 1,
        t: world.now,
        cause: 0,
      });
      wrong.add(`${instance.address} ${name}`);
      world.act(instance.address, name);
    }
  }
  world.advance(70);
  return { lines: records.map((record) => JSON.stringify(record)), wrong };
}

describe('what a broken runtime has done is found and named, and nothing else said', () => {
  const faults: [Fault, keyof typeof NOTHING][] = [
    ['dropped', 'missing'],
    ['doubled', 'doubled'],
    ['reversed', 'order'],
    ['other code', 'unexplained'],
  ];
  it.each(faults)('%s', (fault, list) => {
    let found = 0;
    for (let seed = 0; seed < seeds(200); seed++) {
      const project = projectOf(seed);
      if (expand(indexProject(project)).count > 200) continue;
      const compiled = compiledOf(project);
      if (compiled.scenes.every((s) => s.bindings.owner.length === 0)) continue;
      const { lines, wrong } = playBadly(compiled, seed + 21_000_000, fault);
      if (lines.some((l) => l.includes('"runaway"'))) continue;
      const said = reported(observed(compiled, lines)) as Record<string, Record<string, unknown>[]>;
      const others = { ...said, [list]: [] };
      expect({ seed, ...others }).toEqual({ seed, ...NOTHING });
      if (fault === 'dropped' || fault === 'doubled') {
        for (const { owner, binding } of said[list])
          expect(wrong).toContain(`${String(owner)} ${String(binding)}`);
      }
      if (fault === 'other code') {
        for (const { at, action } of said[list]) expect(wrong).toContain(`${String(at)} ${String(action)}`);
        expect({ seed, n: said[list].length }).toEqual({ seed, n: wrong.size });
      }
      found += said[list].length;
      if (fault !== 'reversed' && wrong.size > 0)
        expect({ seed, n: said[list].length }).not.toEqual({ seed, n: 0 });
    }
    expect(found).toBeGreaterThan(seeds(10));
  });
});
