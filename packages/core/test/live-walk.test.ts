import { describe, expect, it } from '@jest/globals';
import {
  expand,
  finish,
  indexProject,
  LiveWalk,
  readProject,
  rehearse,
  statesAfter,
  traceText,
  Walker,
  walkScene,
  walkSteps,
  walkWiring,
  type Area,
  type Project,
  type Rehearsal,
  type Vec2,
  type WalkScene,
  type WalkSetting,
  type WalkWiring,
} from '../src/index.js';
import { canonicalJson } from '../src/project/canonical.js';
import { projectOf } from './naive-rehearsal/project-of.js';
import { Random, seeds } from './random.js';

interface Ready {
  project: Project;
  wiring: WalkWiring;
  ground: WalkScene;
}
function ready(project: Project, scene = project.assets.find((a) => a.kind === 'scene')!.id): Ready {
  const x = expand(indexProject(project));
  return { project, wiring: finish(walkWiring(x.index, undefined))!, ground: walkScene(x.index, scene)! };
}
function walkIn(project: Project, setting: Partial<WalkSetting> = {}, from?: Vec2): LiveWalk {
  const { wiring, ground } = ready(project);
  return new LiveWalk(wiring, ground, { speed: 2, ...setting }, from);
}
/** What the core says of a rehearsal of the project, line by line. */
function byCore(project: Project, rehearsal: Rehearsal): string[] {
  const lines: string[] = [];
  rehearse(expand(indexProject(project)), [rehearsal], (l) => {
    if (l.kind !== 'coverage') lines.push(traceText(l).trimEnd());
  });
  return lines;
}

const yard = (more: object = {}): Project =>
  readProject({
    format: 'oquel.project/1',
    name: 'Yard',
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        size: [40, 20],
        placements: [
          { id: 'in', asset: 'Rescuer', at: [0, 10], entry: true },
          { id: 'mat', asset: 'Mat', at: [10, 10] },
          { id: 'lamp', asset: 'Lamp', at: [12, 4] },
          { id: 'lever', asset: 'Lever', at: [20, 10] },
        ],
        bindings: [
          { id: 'on', from: { at: 'mat', event: 'onStep' }, to: { at: 'lamp', action: 'light' }, delay: 0.5 },
          { id: 'off', from: { at: 'mat', event: 'onOff' }, to: { at: 'lamp', action: 'darken' } },
        ],
      },
      {
        id: 'Mat',
        kind: 'prefab',
        area: { circle: 2 },
        events: [
          { name: 'onStep', cause: { type: 'area-enter', activators: ['Rescuer'] } },
          { name: 'onOff', cause: { type: 'area-leave' } },
        ],
      },
      { id: 'Lever', kind: 'prefab', events: [{ name: 'onPull', cause: { type: 'use' } }] },
      {
        id: 'Lamp',
        kind: 'prefab',
        properties: [{ name: 'on', type: 'bool', default: false }],
        actions: [
          { name: 'light', effects: [{ set: 'on', to: true }] },
          { name: 'darken', effects: [{ set: 'on', to: false }] },
        ],
      },
      { id: 'Rescuer', kind: 'prefab' },
    ],
    ...more,
  }).project;

describe('a walk that somebody steers', () => {
  it('begins at the entry, enters at the border at the walking speed, and what follows comes in its time', () => {
    const walk = walkIn(yard(), { activator: 'Rescuer' });
    expect(walk.at).toEqual([0, 10]);
    for (let i = 0; i < 50; i++) walk.pass(0.1, [10, 10]);
    expect(walk.at).toEqual([10, 10]);
    expect([...walk.inside]).toEqual(['mat']);
    expect(walk.records.map((r) => [r.kind, r.t])).toEqual([
      ['raise', 4_000_000],
      ['performed', 4_500_000],
      ['change', 4_500_000],
    ]);
    expect(walk.now).toBe(5_000_000);
  });
  it('goes on to what is due next, and says when nothing is', () => {
    const walk = walkIn(yard(), { activator: 'Rescuer' }, [8, 10]);
    expect(walk.records.map((r) => r.kind)).toEqual(['raise']);
    expect(walk.toNext(0.1)).toBe(false);
    expect(walk.toNext(10)).toBe(true);
    expect(walk.records.map((r) => r.kind)).toEqual(['raise', 'performed', 'change']);
    expect(walk.toNext(10)).toBe(false);
  });
  it('who walks decides what admits it', () => {
    const walk = walkIn(yard(), {}, [10, 10]);
    expect(walk.records).toMatchObject([{ kind: 'refused', at: 'yard:mat', reason: 'filtered' }]);
  });
  it('goes back to an earlier moment, and on from there another way', () => {
    const walk = walkIn(yard(), { activator: 'Rescuer' });
    for (let i = 0; i < 60; i++) walk.pass(0.1, [10, 10]);
    walk.back(4_200_000);
    expect(walk.at[0]).toBeCloseTo(8.4, 6);
    expect(walk.records.map((r) => r.kind)).toEqual(['raise']);
    walk.raise('yard:lever', 'onPull');
    for (let i = 0; i < 30; i++) walk.pass(0.1, [0, 10]);
    expect(walk.records.map((r) => r.kind)).toEqual([
      'raise',
      'raise',
      'raise',
      'performed',
      'performed',
      'change',
    ]);
    expect(walk.inside.size).toBe(0);
  });
  it('edited wiring is that of the walk so far as well, and what came out otherwise is reported', () => {
    const walk = walkIn(yard(), { activator: 'Rescuer' });
    for (let i = 0; i < 50; i++) walk.pass(0.1, [10, 10]);
    const edited = yard();
    edited.assets[0].bindings![0].enabled = false;
    const { wiring, ground } = ready(edited);
    const { gone, added } = walk.rewire(wiring, ground);
    expect(gone.map((r) => r.kind)).toEqual(['performed', 'change']);
    expect(added).toEqual([]);
    expect(walk.now).toBe(5_000_000);
    expect(walk.at).toEqual([10, 10]);
  });
  it('an area that is put where it stands is entered, and one that is taken away is left', () => {
    const walk = walkIn(yard(), { activator: 'Rescuer' }, [30, 10]);
    const edited = yard();
    edited.assets[0].placements![1].at = [30, 10];
    const moved = ready(edited);
    walk.rewire(moved.wiring, moved.ground);
    expect(walk.records).toMatchObject([{ kind: 'raise', at: 'yard:mat', event: 'onStep' }]);
    const back = ready(yard());
    walk.rewire(back.wiring, back.ground);
    expect(walk.records.at(-2)).toMatchObject({ kind: 'raise', at: 'yard:mat', event: 'onOff' });
  });
  it('kept, it ends with what has changed last, and passes', () => {
    const project = yard();
    const walk = walkIn(project, { activator: 'Rescuer' });
    for (let i = 0; i < 50; i++) walk.pass(0.1, [10, 10]);
    const kept = walk.kept('over the mat');
    expect(kept.steps.at(-1)).toEqual({ at: 5, expect: { at: 'yard:lamp', property: 'on', is: true } });
    const lines = byCore(project, kept);
    expect(JSON.parse(lines.at(-1)!)).toMatchObject({ kind: 'verdict', pass: true, held: 1 });
  });
  it('a walk in which nothing changed expects that the scene is awake', () => {
    const walk = walkIn(yard());
    walk.pass(1, null);
    expect(walk.kept('still').steps).toEqual([{ at: 1, expect: { at: 'yard:.', asleep: false } }]);
  });
  it('a loop ends it with its reason, and back before the loop it goes on', () => {
    const loop = yard();
    const lamp = loop.assets.find((a) => a.id === 'Lamp')!;
    lamp.events = [{ name: 'onLit', cause: { type: 'raised' } }];
    lamp.actions![0].effects = [{ raise: 'onLit' }];
    lamp.bindings = [{ id: 'again', from: { at: '.', event: 'onLit' }, to: { at: '.', action: 'light' } }];
    const walk = walkIn(loop, { activator: 'Rescuer' });
    for (let i = 0; i < 80; i++) walk.pass(0.1, [10, 10]);
    expect(walk.end).toBe('runaway');
    expect(walk.now).toBe(4_500_000);
    walk.back(4_100_000);
    expect(walk.end).toBeNull();
    walk.pass(0.1, null);
    expect(walk.now).toBe(4_200_000);
  });
  it('a load set that is not there ends it before it begins', () => {
    const { wiring, ground } = ready(yard());
    expect(new LiveWalk(wiring, ground, { speed: 1, loadSet: 'night' }).end).toBe('load-set');
    expect(finish(walkWiring(indexProject(yard()), 'night'))).toBeNull();
  });
});

/** Gives a random project places, areas and what can be touched. */
function placed(seed: number): Project {
  const project = projectOf(seed);
  const r = new Random(seed + 11_000_000);
  for (const asset of project.assets) {
    for (const p of asset.placements ?? []) p.at = [r.int(30), r.int(30)];
    if (asset.kind === 'scene') continue;
    asset.area = r.pick<() => Area>([
      () => ({ circle: 1 + r.int(6) }),
      () => ({ rect: [1 + r.int(9), 1 + r.int(9)] }),
      () => ({
        polygon: [
          [-3, -3],
          [4, -2],
          [0, 1],
          [3, 5],
          [-4, 4],
        ],
      }),
    ])();
    for (const event of asset.events ?? []) {
      if (event.cause.type !== 'code' || r.chance(0.3)) continue;
      event.cause = r.pick([
        { type: 'area-enter' as const },
        { type: 'area-leave' as const },
        { type: 'area-enter' as const, activators: ['P0'] },
      ]);
    }
  }
  return project;
}

/** Does anything that can be done to a walk, and returns the project as it is at the end. */
function steer(walk: LiveWalk, first: Ready, r: Random): Ready {
  let now = first;
  const { places } = now.ground;
  for (let i = 0; i < 25 && !walk.end; i++) {
    const what = r.int(20);
    if (what < 10) {
      const to: Vec2 = [r.int(300) / 10, r.int(300) / 10];
      for (let k = 0; k < 8; k++) walk.pass(r.pick([0.016, 0.02, 0.1, 0.5]), to);
    } else if (what < 12) walk.toNext(r.pick([0.5, 5]));
    else if (what < 15 && places.length > 0) {
      const place = r.pick([...places]);
      walk.raise(place.address, r.pick(['onA', 'onB', 'onC', 'nothing']), r.chance(0.2) ? { n: 1 } : {});
    } else if (what === 15) walk.pause(r.chance(0.5));
    else if (what === 16)
      walk.publish(r.pick(['tension', 'weather', 'lost']), {}, r.pick([undefined, 1, 'east']));
    else if (what === 17) {
      const aside = walk.back(Math.floor(walk.now * (r.int(100) / 100)));
      if (r.chance(0.3)) walk.restore(aside);
    } else if (what === 18) {
      const [change] = statesAfter(walk.records, Infinity).filter((s) => s.what === 'asleep');
      const time = r.chance(0.5) ? walk.now : Math.floor(walk.now * (r.int(100) / 100));
      walk.expect(
        change ? { at: change.at, asleep: change.now === true } : { at: 'S0:.', asleep: false },
        time,
      );
    } else {
      const bindings = now.project.assets.flatMap((a) => a.bindings ?? []);
      if (bindings.length === 0) continue;
      const project = structuredClone(now.project);
      const all = project.assets.flatMap((a) => a.bindings ?? []);
      r.pick(all).enabled = r.chance(0.5);
      now = ready(project, now.ground.scene);
      walk.rewire(now.wiring, now.ground);
    }
  }
  return now;
}

describe('a kept walk', () => {
  it.each(Array.from({ length: seeds(10) }, (_, i) => i))(
    'gives, run by the core, the trace that was walked, byte for byte: batch %i',
    (batch) => {
      let walked = 0;
      for (let seed = batch * 40; seed < batch * 40 + 40; seed++) {
        const project = placed(seed);
        if (expand(indexProject(project)).count > 400) continue;
        const r = new Random(seed + 12_000_000);
        const first = ready(project);
        const activator = r.pick([undefined, 'P0', 'P1']);
        const by = r.pick([undefined, 'host', 'guest']);
        const walk = new LiveWalk(first.wiring, first.ground, { speed: 4, activator, by }, [15, 15]);
        const last = steer(walk, first, r);
        const kept = walk.kept('walk');
        const trace = byCore(last.project, kept);
        expect({ seed, trace: walk.trace('walk').map(canonicalJson) }).toEqual({ seed, trace });
        // What was seen is what stands there, up to where what is under way runs out.
        const seen = walk.records.map(canonicalJson);
        expect({ seed, seen }).toEqual({ seed, seen: trace.slice(1, 1 + seen.length) });
        walked += seen.length;
      }
      expect(walked).toBeGreaterThan(100);
    },
  );
});

describe('walking leg by leg', () => {
  it('touches what the whole way touches, wherever it is cut', () => {
    let touched = 0;
    for (let seed = 0; seed < seeds(400); seed++) {
      const project = placed(seed);
      const scene = project.assets.find((a) => a.kind === 'scene')!.id;
      const index = indexProject(project);
      const ground = walkScene(index, scene)!;
      const r = new Random(seed + 13_000_000);
      const points = Array.from({ length: 4 }, (): Vec2 => [r.int(3000) / 97, r.int(3000) / 89]);
      const walker = new Walker(ground, points[0]);
      const got = walker.stand().map(({ address, event }) => `${address} ${event}`);
      for (const to of points.slice(1)) {
        const from = walker.at;
        const cuts = 1 + r.int(40);
        for (let k = 1; k <= cuts; k++) {
          const part = k / cuts;
          const [x, y] = [from[0] + (to[0] - from[0]) * part, from[1] + (to[1] - from[1]) * part];
          for (const { address, event } of walker.walk(k === cuts ? to : [x, y]))
            got.push(`${address} ${event}`);
        }
      }
      const whole = walkSteps(index, { scene, points, speed: 1, start: 0 }).map((s) =>
        'raise' in s ? `${s.raise.at} ${s.raise.event}` : '',
      );
      // Things in one another may stand at one place, and are touched at one moment then.
      expect({ seed, got: [...got].sort() }).toEqual({ seed, got: [...whole].sort() });
      touched += got.length;
    }
    expect(touched).toBeGreaterThan(seeds(300));
  });
});
