import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { readProjectText, type Project } from '@oquel/core';
import { createWorld, type Values, type World, type WorldRecord } from '../src/index.js';
import { compiled, type CompiledFiles } from './compiled.js';

/** A quay with a bell that rings a lamp after a while, and a boat that comes and goes in another scene. */
const PROJECT: Project = {
  format: 'oquel.project/1',
  name: 'Quay',
  channels: [{ name: 'fog' }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'lamp-1', asset: 'Lamp' },
        { id: 'lamp-2', asset: 'Lamp', asleep: true },
      ],
      bindings: [
        {
          id: 'ring',
          from: { at: 'bell', event: 'onRung' },
          to: { at: 'lamp-1', action: 'light' },
          delay: 0.5,
        },
        { id: 'all', from: { at: 'bell', event: 'onRung' }, to: { every: 'Lamp', action: 'count' } },
        { id: 'call', from: { at: 'bell', event: 'onRung' }, to: { at: 'bay:boat', action: 'come' } },
        { id: 'loop', from: { at: 'lamp-1', event: 'onLoop' }, to: { at: 'lamp-1', action: 'loop' } },
      ],
    },
    {
      id: 'bay',
      kind: 'scene',
      placements: [{ id: 'boat', asset: 'Boat' }],
      bindings: [
        { id: 'see', from: { at: 'quay:lamp-1', event: 'onLit' }, to: { at: 'boat', action: 'come' } },
      ],
    },
    {
      id: 'Bell',
      kind: 'prefab',
      events: [{ name: 'onRung', cause: { type: 'use' }, limit: 2 }],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      properties: [
        { name: 'lit', type: 'bool', default: false },
        { name: 'n', type: 'int', default: 0 },
      ],
      events: [
        { name: 'onLit', cause: { type: 'change', property: 'lit' } },
        { name: 'onLoop', cause: { type: 'code' } },
        { name: 'onTick', cause: { type: 'timer', every: 2 } },
      ],
      actions: [
        { name: 'light', effects: [{ set: 'lit', to: true }] },
        { name: 'count', effects: [{ add: 'n', by: 1 }] },
        { name: 'loop', effects: [{ raise: 'onLoop' }] },
      ],
    },
    { id: 'Boat', kind: 'prefab', actions: [{ name: 'come' }] },
  ],
};
const files: CompiledFiles = compiled(PROJECT);
const [quay, bay] = files.scenes;

let records: WorldRecord[];
let performed: string[];
let world: World;
beforeEach(() => {
  records = [];
  performed = [];
  world = createWorld(files.wiring, {
    record: (r) => records.push(r),
    perform: ({ address }, action, args: Values) =>
      performed.push(`${address} ${action} ${JSON.stringify(args)}`),
  });
});
const kinds = (): string[] => records.map((r) => ('reason' in r ? `${r.kind} ${r.reason}` : r.kind));

describe('a world in a game’s loop', () => {
  it('performs what follows from a raise when time moves on, and delayed things when they are due', () => {
    world.load(quay, bay);
    world.raise('quay:bell', 'onRung');
    expect(performed).toEqual([]);
    world.advance(0.016);
    expect(performed).toEqual(['quay:lamp-1 count {}', 'bay:boat come {}']);
    world.advance(0.4);
    expect(world.instance('quay:lamp-1')!.get('lit')).toBe(false);
    world.advance(0.2);
    expect(world.instance('quay:lamp-1')!.get('lit')).toBe(true);
    expect(performed.slice(2)).toEqual(['quay:lamp-1 light {}', 'bay:boat come {}']);
    // The other lamp sleeps.
    expect(records.find((r) => r.kind === 'lost')).toMatchObject({ at: 'quay:lamp-2', reason: 'asleep' });
  });
  it('keeps limits and says why a raise is refused', () => {
    world.load(quay);
    for (let i = 0; i < 3; i++) world.raise('quay:bell', 'onRung');
    world.raise('quay:bell', 'onHeard');
    world.raise('quay:gong', 'onRung');
    world.raise('quay:bell', 'onRung', {}, { activator: 'Nothing' });
    expect(kinds()).toEqual([
      'raise',
      'raise',
      'refused limit',
      'refused dangling',
      'refused dangling',
      'refused dangling',
    ]);
  });
  it('loses what is bound for a scene that is not loaded, until it is', () => {
    world.load(quay);
    world.raise('quay:bell', 'onRung');
    world.advance(0.1);
    expect(records.at(-1)).toMatchObject({
      kind: 'lost',
      at: 'bay:boat',
      action: 'come',
      reason: 'unloaded',
    });
    world.load(bay);
    world.raise('quay:bell', 'onRung');
    world.advance(0.1);
    expect(performed.at(-1)).toBe('bay:boat come {}');
    world.unload('bay');
    world.advance(1);
    expect(performed.filter((p) => p.startsWith('bay:'))).toHaveLength(1);
    expect(world.instance('bay:boat')).toBeNull();
  });
  it('ends an endless loop at the instant, and goes on', () => {
    world = createWorld(files.wiring, { record: (r) => records.push(r), limits: { atOnce: 50 } });
    world.load(quay);
    world.raise('quay:lamp-1', 'onLoop');
    world.advance(0.1);
    expect(records.at(-1)).toMatchObject({
      kind: 'runaway',
      why: 'loop',
      cycle: [{ action: 'loop', at: 'quay:lamp-1' }],
    });
    world.raise('quay:bell', 'onRung');
    world.advance(0.1);
    expect(records.at(-1)).toMatchObject({ kind: 'lost', reason: 'unloaded' });
    expect(world.instance('quay:lamp-1')!.get('n')).toBe(1);
  });
  it('ticks timers, also over one long step, and not after the end of what has them', () => {
    world.load(quay);
    world.advance(7);
    world.advance(0);
    const ticks = (): number => records.filter((r) => r.kind === 'raise').length;
    expect(ticks()).toBe(3);
    world.destroy('quay:lamp-1');
    world.advance(10);
    expect(ticks()).toBe(3);
    expect(world.instance('quay:lamp-1')).toMatchObject({ gone: true });
  });
  it('leaves effects to the game where that wants them', () => {
    world = createWorld(files.wiring, { ownEffects: (asset) => asset === 'Lamp' });
    world.load(quay);
    world.raise('quay:bell', 'onRung');
    world.advance(1);
    world.advance(1);
    expect(world.instance('quay:lamp-1')!.get('lit')).toBe(false);
  });
  it('refuses files of another version, and scenes that are loaded already', () => {
    expect(() => createWorld({ ...files.wiring, format: 'oquel.wiring/2' as never })).toThrow(
      'expected oquel.wiring/1',
    );
    expect(() => world.load({ ...quay, hash: 'other' })).toThrow('another version of the wiring');
    world.load(quay);
    expect(() => world.load(quay)).toThrow('loaded already');
  });
  it('tells what is wired, with what limits leave', () => {
    world.load(quay, bay);
    expect(world.wired('quay:bell', 'onRung')).toEqual([
      {
        owner: 'quay:.',
        binding: 'ring',
        to: 'light',
        receivers: ['quay:lamp-1'],
        delay: 500_000,
        left: Infinity,
      },
      {
        owner: 'quay:.',
        binding: 'all',
        to: 'count',
        receivers: ['quay:lamp-1', 'quay:lamp-2'],
        delay: 0,
        left: Infinity,
      },
      { owner: 'quay:.', binding: 'call', to: 'come', receivers: ['bay:boat'], delay: 0, left: Infinity },
    ]);
    expect(world.wired('quay:gong', 'onRung')).toEqual([]);
  });
  it('runs the demo for a minute without a record that is not sound', () => {
    const demo = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));
    const { wiring, scenes } = compiled(readProjectText(readFileSync(demo, 'utf8')).project);
    const all: WorldRecord[] = [];
    const game = createWorld(wiring, { record: (r) => all.push(r) });
    game.load(...scenes);
    for (let i = 0; i < 3600; i++) game.advance(1 / 60);
    expect(all.map((r) => r.n)).toEqual(all.map((_, i) => i + 1));
    expect(all.every((r) => r.cause < r.n)).toBe(true);
  });
});
