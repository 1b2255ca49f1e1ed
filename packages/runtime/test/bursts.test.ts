import { describe, expect, it } from '@jest/globals';
import { expand, indexProject, type Project } from '@oquel/core';
import { projectOf } from '../../core/test/naive-rehearsal/project-of.js';
import { Random, seeds } from '../../core/test/random.js';
import { createWorld, type EventOf, type Game, type World } from '../src/index.js';
import { compiled } from './compiled.js';

/** A bell whose three lamps are lit at once by one raise. */
function bellProject(bindings: object[]): Project {
  return {
    format: 'oquel.project/1',
    name: 'Quay',
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        placements: [
          { id: 'bell', asset: 'Bell' },
          { id: 'lamp-1', asset: 'Lamp' },
          { id: 'lamp-2', asset: 'Lamp' },
          { id: 'lamp-3', asset: 'Lamp' },
        ],
        bindings: bindings as never,
      },
      {
        id: 'Bell',
        kind: 'prefab',
        events: [{ name: 'onRung', cause: { type: 'code' } }],
      },
      {
        id: 'Lamp',
        kind: 'prefab',
        events: [{ name: 'onLit', cause: { type: 'raised' } }],
        actions: [{ name: 'light', effects: [{ raise: 'onLit' }] }],
      },
    ],
  };
}
const LIGHT_ALL = [1, 2, 3].map((n) => ({
  id: `light-${n}`,
  from: { at: 'bell', event: 'onRung' },
  to: { at: `lamp-${n}`, action: 'light' },
}));

/** A world beside the same one that is watched, in which each delivery is queued and written by itself. */
function both(project: Project, during: (world: World, performed: string[]) => void): (() => World)[] {
  const { wiring, scenes } = compiled(project);
  return [true, false].map((watched) => () => {
    const performed: string[] = [];
    const game: Game = {
      perform: ({ address }, action, args) => {
        performed.push(`${world.now} ${address} ${action} ${JSON.stringify(args)}`);
        during(world, performed);
      },
      limits: { atOnce: 40 },
    };
    if (watched) game.record = () => undefined;
    const world = createWorld(wiring, game);
    world.load(...scenes);
    (world as World & { performed: string[] }).performed = performed;
    return world;
  });
}
function came(world: World): object {
  // Records are only counted where somebody takes them.
  const { deliveries, runaway, now } = world;
  return {
    performed: (world as World & { performed: string[] }).performed,
    deliveries,
    runaway,
    now,
  };
}

const FIRST = 'quay:lamp-1 light';
describe.each<[string, (world: World) => void]>([
  ['nothing', () => undefined],
  ['another one put to sleep', (w) => w.setAsleep('quay:lamp-2', true)],
  ['another one destroyed', (w) => w.destroy('quay:lamp-3')],
  ['the sender destroyed', (w) => w.destroy('quay:bell')],
  ['the game paused', (w) => w.pause(true)],
  ['the scene unloaded', (w) => w.unload('quay')],
  ['the same raised again', (w) => void w.raise('quay:bell', 'onRung')],
])('while the first of three is performed, %s', (what, act) => {
  it('comes to the same as where each delivery is queued by itself', () => {
    const [watched, plain] = both(bellProject(LIGHT_ALL), (world, performed) => {
      if (performed.length === 1 && performed[0].includes(FIRST)) act(world);
    }).map((make) => {
      const world = make();
      for (let i = 0; i < 2; i++) {
        world.raise('quay:bell', 'onRung');
        world.advance(0.5);
        world.pause(false);
      }
      return came(world);
    });
    expect(plain).toEqual(watched);
    // The first raise lights all three where nothing comes between.
    if (what === 'nothing') expect(plain).toMatchObject({ deliveries: 6 });
  });
});

it('goes on after the game has thrown, or has moved time on in the midst of it', () => {
  const { wiring, scenes } = compiled(bellProject(LIGHT_ALL));
  const performed: string[] = [];
  let upset = true;
  const world = createWorld(wiring, {
    perform: ({ address }) => {
      world.advance(1);
      if (upset) throw new Error('the lamp is broken');
      performed.push(address);
    },
  });
  world.load(...scenes);
  world.raise('quay:bell', 'onRung');
  expect(() => world.advance(0.5)).toThrow('the lamp is broken');
  upset = false;
  world.raise('quay:bell', 'onRung');
  world.advance(0.5);
  expect(performed).toEqual(['quay:lamp-1', 'quay:lamp-2', 'quay:lamp-3']);
  expect(world.now).toBe(500_000);
});

it('an event that a game holds is raised as by its address, whatever has changed since', () => {
  const { wiring, scenes } = compiled(bellProject(LIGHT_ALL));
  const performed: string[] = [];
  const world = createWorld(wiring, {
    perform: ({ address }) => performed.push(address),
  });
  world.load(...scenes);
  expect(world.event('quay:bell', 'onGone')).toBeNull();
  expect(world.event('quay:nothing', 'onRung')).toBeNull();
  const rung = world.event('quay:bell', 'onRung')!;
  const ring = (): number => {
    const before = performed.length;
    rung.raise();
    world.advance(1);
    return performed.length - before;
  };
  expect([ring(), ring()]).toEqual([3, 3]);
  world.setAsleep('quay:lamp-2', true);
  expect([ring(), ring()]).toEqual([2, 2]);
  world.setAsleep('quay:lamp-2', false);
  world.destroy('quay:lamp-1');
  expect([ring(), ring()]).toEqual([2, 2]);
  world.pause(true);
  expect(ring()).toBe(0);
  world.pause(false);
  world.unload('quay');
  expect(ring()).toBe(0);
});

describe('what is done without a look at each delivery', () => {
  it('ends in a runaway like everything else', () => {
    const loop = [
      ...LIGHT_ALL,
      {
        id: 'back',
        from: { at: 'lamp-1', event: 'onLit' },
        to: { at: 'lamp-1', action: 'light' },
      },
    ];
    const [watched, plain] = both(bellProject(loop), () => undefined).map((make) => {
      const world = make();
      world.raise('quay:bell', 'onRung');
      world.settle();
      return came(world);
    });
    expect(plain).toMatchObject({ runaway: true, deliveries: 42 });
    expect(plain).toEqual(watched);
  });

  it.each(Array.from({ length: seeds(10) }, (_, i) => i))(
    'is the same for random games, batch %i',
    (batch) => {
      let performances = 0;
      for (let seed = batch * 60; seed < batch * 60 + 60; seed++) {
        const project = projectOf(seed);
        const x = expand(indexProject(project));
        if (x.count > 400) continue;
        const all = Array.from({ length: Math.min(x.count, 60) }, (_, i) => x.address(i));
        // What much is wired to is meant more often.
        const hubs = all.filter((a) => /^S0:(hub|w\d)$/.test(a));
        const addresses = [
          ...all,
          ...Array.from({ length: all.length }, (_, i) => hubs[i % hubs.length] ?? all[i]),
        ];
        const outcomes = both(project, (world, performed) => {
          // The game meddles, in both worlds at the same moments.
          const r = new Random(seed * 1000 + performed.length);
          if (performed.length < 200 && r.chance(0.1)) meddle(r, world, addresses);
        }).map((make) => {
          const world = make();
          const r = new Random(seed + 5_000_000);
          for (let i = 0; i < 60; i++) meddle(r, world, addresses);
          world.advance(3);
          return came(world);
        });
        expect({ seed, ...outcomes[1] }).toEqual({ seed, ...outcomes[0] });
        performances += (outcomes[0] as { performed: string[] }).performed.length;
      }
      expect(performances).toBeGreaterThan(50);
    },
  );
});

/** Events that a game holds, from when it first asks for them. */
const held = new WeakMap<World, Map<string, EventOf | null>>();
function heldBy(world: World, at: string, event: string): EventOf | null {
  let events = held.get(world);
  if (!events) held.set(world, (events = new Map<string, EventOf | null>()));
  const key = `${at} ${event}`;
  if (!events.has(key)) events.set(key, world.event(at, event));
  return events.get(key)!;
}

/** One thing that a game may do. */
function meddle(r: Random, world: World, addresses: readonly string[]): void {
  const at = r.pick(addresses);
  const events = world.instance(at)?.table.decl.events ?? [];
  const event = events.length > 0 ? r.pick(events).name : 'onA';
  r.pick<() => unknown>([
    () => world.raise(at, event),
    () => world.raise(at, event),
    () => heldBy(world, at, event)?.raise(),
    () => heldBy(world, at, event)?.raise(),
    () => world.raise(at, event),
    () => world.raise(at, event, { n: 1 }, { activator: 'P0' }),
    () => world.publish('tension', {}, 'east'),
    () => world.setAsleep(at, r.chance(0.5)),
    () => r.chance(0.2) && world.destroy(at),
    () => world.spawn(at, r.pick(['P0', 'P1'])),
    () => world.pause(r.chance(0.1)),
    () => world.advance(r.int(3) / 2),
  ])();
}
