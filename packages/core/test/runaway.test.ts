import { describe, expect, it } from '@jest/globals';
import { expand, indexProject, rehearse, type TraceRecord } from '../src/index.js';
import { gust, raise, records, ridge, verdict } from './ridge.js';

describe('a runaway', () => {
  it('of two that set each other off is reported with both, from the nearest performance on', () => {
    const project = ridge(
      [
        gust({ at: 'brake', action: 'hold' }),
        { id: 'there', from: { at: 'brake', event: 'onHeld' }, to: { at: 'second', action: 'hold' } },
        { id: 'back', from: { at: 'second', event: 'onHeld' }, to: { at: 'brake', action: 'hold' } },
      ],
      [raise('onGust')],
    );
    project.assets[0].placements!.push({ id: 'second', asset: 'Brake' });
    expect(records(project).at(-1)).toMatchObject({
      kind: 'runaway',
      why: 'loop',
      cycle: [
        { action: 'hold', at: 'ridge:brake' },
        { action: 'hold', at: 'ridge:second' },
      ],
    });
    expect(verdict(project)).toMatchObject({ runaway: true, pass: false, deliveries: 2000 });
  });
  it('of a copy is reported of that copy, not of another one that does the same', () => {
    const echoes = [
      {
        id: 'Cave',
        kind: 'prefab',
        actions: [{ name: 'call', effects: [{ spawn: 'Echo' }] }],
      },
      {
        id: 'Echo',
        kind: 'prefab',
        events: [
          { name: 'onMade', cause: { type: 'start' } },
          { name: 'onHeard', cause: { type: 'raised' } },
        ],
        actions: [{ name: 'hear', effects: [{ raise: 'onHeard' }] }],
        bindings: [
          { id: 'first', from: { at: '.', event: 'onMade' }, to: { at: '.', action: 'hear' } },
          { id: 'again', from: { at: '.', event: 'onHeard' }, to: { at: '.', action: 'hear' }, limit: 1200 },
        ],
      },
    ];
    const project = ridge(
      [gust({ at: 'cave', action: 'call' })],
      [raise('onGust'), raise('onGust')],
      {},
      echoes,
    );
    project.assets[0].placements!.push({ id: 'cave', asset: 'Cave' });
    const all = records(project);
    const cycle = all.at(-1) as Extract<TraceRecord, { kind: 'runaway' }>;
    expect(cycle).toMatchObject({ kind: 'runaway', why: 'loop' });
    const copy = all.filter((r) => r.kind === 'performed').at(-2)!.at;
    expect(copy).toBe('ridge:cave/~Echo#1');
    expect(cycle.cycle).toEqual([{ action: 'hear', at: copy }]);
  });
  it('over time is ended after a million deliveries', () => {
    const project = ridge(
      [
        gust({ at: 'brake', action: 'hold' }),
        {
          id: 'again',
          from: { at: 'brake', event: 'onHeld' },
          to: { at: 'brake', action: 'hold' },
          delay: 0.00001,
        },
      ],
      [raise('onGust'), { at: 100, pause: false }],
    );
    const { verdicts } = rehearse(expand(indexProject(project)), project.rehearsals!);
    expect(verdicts[0]).toMatchObject({ runaway: true, deliveries: 1_000_000 });
  });
  it('of things that are made is ended after a million of them', () => {
    const stones = Array.from({ length: 999 }, (_, i) => ({ id: `stone-${i}`, asset: 'Stone' }));
    const project = ridge(
      [{ id: 'fall', from: { at: 'cliff', event: 'onHour' }, to: { at: 'cliff', action: 'crumble' } }],
      [{ at: 1500, pause: false }],
      {},
      [
        {
          id: 'Cliff',
          kind: 'prefab',
          events: [{ name: 'onHour', cause: { type: 'timer', every: 1 } }],
          actions: [{ name: 'crumble', effects: [{ spawn: 'Scree' }] }],
        },
        { id: 'Scree', kind: 'prefab', placements: stones },
        { id: 'Stone', kind: 'prefab' },
      ],
    );
    project.assets[0].placements!.push({ id: 'cliff', asset: 'Cliff' });
    expect(verdict(project)).toMatchObject({ runaway: true, pass: false, deliveries: 1001 });
    expect(records(project).at(-1)).toMatchObject({ kind: 'runaway', why: 'total', cycle: [] });
  });
});
