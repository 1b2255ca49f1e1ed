import { describe, expect, it } from '@jest/globals';
import {
  entryNotes,
  entryText,
  narrowed,
  reachedNames,
  rippleLines,
  rippleOf,
  type Project,
  type Ripple,
  type RippleAsk,
} from '../src/index.js';
import { graphOf, bind } from './ripple-graphs.js';

const storm = {
  format: 'oquel.project/1',
  name: 'Veyra',
  channels: [{ name: 'weather' }],
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast', asset: 'Mast' },
        { id: 'lamp', asset: 'Lamp', asleep: true },
        ...[1, 2, 3, 4, 5].map((n) => ({ id: `horn-${n}`, asset: 'Horn' })),
      ],
      bindings: [
        {
          id: 'all',
          from: { at: 'mast', event: 'onGust' },
          to: { every: 'Horn', action: 'sound' },
          delay: 0.5,
        },
        { id: 'tell', from: { at: 'mast', event: 'onGust' }, to: { channel: 'weather', key: 'storm' } },
        { id: 'hear', from: { channel: 'weather', key: 'storm' }, to: { at: 'lamp', action: 'light' } },
        bind('round', 'lamp.onLit', 'mast.turn'),
        bind('back', 'mast.onTurned', 'lamp.light'),
      ],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      tags: ['wind'],
      events: [
        { name: 'onGust', cause: { type: 'code' } },
        { name: 'onTurned', cause: { type: 'raised' } },
      ],
      actions: [{ name: 'turn', effects: [{ raise: 'onTurned', delay: 0.25 }] }],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      events: [{ name: 'onLit', cause: { type: 'raised' } }],
      actions: [{ name: 'light', whileAsleep: true, effects: [{ raise: 'onLit' }] }],
    },
    { id: 'Horn', kind: 'prefab', tags: ['sound'], actions: [{ name: 'sound' }] },
  ],
} as unknown as Project;

describe('a ripple of the storm', () => {
  const g = graphOf(storm);
  const on: RippleAsk = { start: { at: 'ridge:mast', name: 'onGust' }, direction: 'forward' };
  const said = (r: Ripple): string[] => rippleLines(r).map((l) => `${'  '.repeat(l.depth)}${l.text}`);

  it('says at the line what is asked', () => {
    const [ridge, ...others] = storm.assets;
    const bindings = ridge.bindings!.map((b) => ({ ...b, if: [{ property: 'calm', is: false }] }));
    const asking = graphOf({ ...storm, assets: [{ ...ridge, bindings }, ...others] });
    const r = rippleOf(asking, on)!;
    expect(r.links[0].asks).toEqual(['if @calm = false']);
    expect(rippleLines(r)[1].text).toBe('Horn.sound x 5, after 0.5s, if @calm = false');
  });
  it('reads in order, with copies folded and a cycle as one', () => {
    const ripple = rippleOf(g, on)!;
    expect(said(ripple)).toEqual([
      'ridge:mast.onGust',
      '  Horn.sound x 5, after 0.5s',
      '  #weather["storm"]',
      '    cycle of 2 (Lamp, Mast)',
    ]);
    expect(entryNotes(ripple).map((n) => n.by)).toEqual(['', 'after 0.5 s', '', '']);
  });
  it('opens a cycle, with the return and its class', () => {
    const cycle = rippleOf(g, on)!.entries.find((e) => e.kind === 'cycle')!;
    const opened = rippleOf(g, { ...on, open: [cycle.key] })!;
    expect(opened.entries.filter((e) => e.within === cycle.key).map(entryText)).toEqual([
      'ridge:lamp.light',
      'ridge:mast.turn',
    ]);
    expect(entryNotes(opened).flatMap((n) => n.returns.map((r) => `${r.text}, ${r.class}`))).toEqual([
      'lamp.light, delayed',
    ]);
    expect(said(opened)).toEqual([
      'ridge:mast.onGust',
      '  Horn.sound x 5, after 0.5s',
      '  #weather["storm"]',
      '    ridge:lamp.light, asleep at first',
      '      ridge:mast.turn, by onLit',
      '        returns (delayed) to ridge:lamp.light',
    ]);
  });
  it('runs back to what could have caused it', () => {
    const back = rippleOf(g, { start: { at: 'ridge:lamp', name: 'light' }, direction: 'backward' })!;
    expect(said(back)).toEqual([
      'ridge:lamp.light, asleep at first',
      '  ridge:mast.turn, by onTurned, after 0.25s',
      '    returns (instant) to ridge:lamp.light',
      '  #weather["storm"]',
      '    ridge:mast.onGust, from outside',
    ]);
  });
  it('begins at an asset, an instance or a channel as well; null for what is not there', () => {
    const texts = (start: RippleAsk['start']): string[] | undefined =>
      rippleOf(g, { start, direction: 'forward' })
        ?.entries.filter((e) => e.hop === 0)
        .map(entryText);
    expect(texts({ asset: 'Mast' })).toEqual(['ridge:mast.onGust', 'ridge:mast.onTurned']);
    expect(texts({ at: 'ridge:lamp' })).toEqual(['ridge:lamp.onLit']);
    expect(texts({ channel: 'weather' })).toEqual(['#weather["storm"]']);
    for (const start of [{ at: 'ridge:nobody' }, { at: 'nowhere' }, { asset: 'X' }, { channel: 'x' }]) {
      expect(rippleOf(g, { start, direction: 'forward' })).toBeNull();
    }
  });
  it('marks what falls away in a trial', () => {
    const muted = structuredClone(storm);
    muted.assets[0].bindings![1].enabled = false;
    const kept = reachedNames(graphOf(muted), on);
    const gone = rippleOf(g, on, null, kept)!.entries.filter((e) => e.gone);
    expect(gone.map(entryText)).toEqual(['#weather["storm"]', 'cycle of 2 (Lamp, Mast)']);
  });
  it('is narrowed to an asset, scene or tag, with the ways that lead there', () => {
    const ripple = rippleOf(g, on)!;
    const texts = (filter: Parameters<typeof narrowed>[1]): string[] =>
      narrowed(ripple, filter).entries.map(entryText);
    expect(texts({ asset: 'Lamp' })).toEqual([
      'ridge:mast.onGust',
      '#weather["storm"]',
      'cycle of 2 (Lamp, Mast)',
    ]);
    expect(texts({ tag: 'sound' })).toEqual(['ridge:mast.onGust', 'Horn.sound x 5']);
    expect(texts({ scene: 'refuge' })).toEqual(['ridge:mast.onGust']);
    expect(narrowed(ripple, {})).toBe(ripple);
  });
});
