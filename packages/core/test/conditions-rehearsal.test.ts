import { describe, expect, it } from '@jest/globals';
import {
  expand,
  indexProject,
  recordText,
  rehearse,
  traceText,
  type Asset,
  type Rehearsal,
  type TraceRecord,
} from '../src/index.js';
import { index } from './conditions-project.js';

describe('a rehearsal', () => {
  const act = (at: number, deed: string): Rehearsal['steps'][number] => ({
    at,
    raise: { at: 'yard:player', event: 'onActed', payload: { act: deed } },
  });
  const run = (steps: Rehearsal['steps']): TraceRecord[] => {
    const records: TraceRecord[] = [];
    rehearse(expand(index), [{ name: 'r', steps }], (line) => {
      if ('n' in line) records.push(structuredClone(line));
    });
    return records;
  };
  const reported = (records: readonly TraceRecord[]): string[] =>
    records.flatMap((r) =>
      r.kind === 'stopped'
        ? [`${r.binding} ${r.reason}`]
        : r.kind === 'performed'
          ? [`${r.binding} at ${r.t / 1e6}`]
          : [],
    );
  it('lets through what holds, and says of the rest that its condition does not', () => {
    expect(reported(run([act(1, 'duck')]))).toEqual(['jumped condition', 'counted condition', 'heard at 1']);
    expect(reported(run([act(1, 'jump')]))).toEqual([
      'jumped at 1',
      'counted at 1',
      'heard condition',
      'lapse at 3',
    ]);
  });
  it('tells people what was found, and keeps that out of the written trace', () => {
    const stopped = run([act(1, 'duck')]).filter((r) => r.kind === 'stopped');
    expect(stopped.map((r) => recordText(r))).toEqual([
      'binding jumped of yard:. does not trigger: its condition does not hold, because act is "duck"',
      'binding counted of yard:. does not trigger: its condition does not hold, because act is "duck"',
    ]);
    expect(traceText(stopped[0])).toBe(
      '{"binding":"jumped","cause":1,"kind":"stopped","n":2,"owner":"yard:.","reason":"condition","t":1000000}\n',
    );
  });
  it('a binding that is refused by its condition spends nothing of its limit, which is looked at after it', () => {
    const records = reported(run([act(1, 'duck'), act(2, 'jump'), act(3, 'duck'), act(4, 'jump')]));
    expect(records.filter((r) => r.startsWith('jumped'))).toEqual([
      'jumped condition',
      'jumped at 2',
      'jumped condition',
      'jumped limit',
    ]);
  });
  it('coverage tells what was refused by its conditions alone from what was never asked', () => {
    const { byBinding, coverage } = rehearse(expand(index), [
      { name: 'r', steps: [act(1, 'duck')] },
      { name: 's', steps: [act(1, 'wave')] },
    ]);
    expect(Object.fromEntries(byBinding.map((b) => [b.binding, [b.served, b.refused ?? 0]]))).toEqual({
      jumped: [0, 1],
      counted: [1, 0],
      told: [1, 0],
      heard: [1, 0],
      lapse: [1, 0],
    });
    expect(coverage.unserved.map((u) => u.binding)).toEqual(['jumped']);
    const none = rehearse(expand(index), [{ name: 'r', steps: [] }]).byBinding;
    expect(none.every((b) => b.refused === undefined)).toBe(true);
  });
  it('three within two seconds open the gate; a count that lapses does not', () => {
    const opens = (times: number[]): boolean =>
      run(times.map((t) => act(t, 'wave'))).some((r) => r.kind === 'change' && r.property === 'isOpen');
    expect(opens([1, 2.5, 4])).toBe(true);
    expect(opens([1, 2, 4.5])).toBe(false);
  });
  it('the raise that begins again takes the place of the one that waited: there is one lapse, and none is cut', () => {
    const records = run([act(1, 'wave'), act(2, 'wave'), act(3, 'wave')]);
    expect(reported(records).filter((r) => r.startsWith('lapse'))).toEqual(['lapse at 5']);
    expect(records.some((r) => r.kind === 'cut')).toBe(false);
  });
  it('a raise that is started again is raised once, also where something else is due when it was', () => {
    const bell: Asset = {
      id: 'bell',
      kind: 'scene',
      properties: [{ name: 'hums', type: 'int', default: 0 }],
      events: [
        { name: 'onRing', cause: { type: 'code' } },
        { name: 'onDue', cause: { type: 'raised' } },
      ],
      actions: [
        { name: 'arm', effects: [{ raise: 'onDue', delay: 2, restart: true }] },
        { name: 'hum', effects: [{ add: 'hums', by: 1 }] },
      ],
      bindings: [
        { id: 'arm', from: { at: '.', event: 'onRing' }, to: { at: '.', action: 'arm' } },
        { id: 'due', from: { at: '.', event: 'onDue' }, to: { at: '.', action: 'hum' } },
        { id: 'slow', from: { at: '.', event: 'onRing' }, to: { at: '.', action: 'hum' }, delay: 2 },
      ],
    };
    const x = expand(indexProject({ format: 'oquel.project/1', name: 'Bell', assets: [bell] }));
    const ring = (at: number): Rehearsal['steps'][number] => ({
      at,
      raise: { at: 'bell:.', event: 'onRing' },
    });
    const records: TraceRecord[] = [];
    rehearse(x, [{ name: 'r', steps: [ring(0), ring(1)] }], (line) => {
      if ('n' in line) records.push(structuredClone(line));
    });
    expect(reported(records)).toEqual(['arm at 0', 'arm at 1', 'slow at 2', 'slow at 3', 'due at 3']);
  });
  it('a copy that goes takes no other with it', () => {
    const kite: Asset = {
      id: 'Kite',
      kind: 'prefab',
      events: [{ name: 'onCut', cause: { type: 'code' } }],
      actions: [{ name: 'dip' }, { name: 'drop', effects: [{ destroy: true }] }],
      bindings: [{ id: 'cut', from: { at: '.', event: 'onCut' }, to: { at: '.', action: 'drop' } }],
    };
    const hill: Asset = {
      id: 'hill',
      kind: 'scene',
      events: [
        { name: 'onAsk', cause: { type: 'code' } },
        { name: 'onGust', cause: { type: 'code' } },
      ],
      actions: [{ name: 'send', effects: [{ spawn: 'Kite' }] }],
      bindings: [
        { id: 'ask', from: { at: '.', event: 'onAsk' }, to: { at: '.', action: 'send' } },
        { id: 'gust', from: { at: '.', event: 'onGust' }, to: { at: '~Kite', action: 'dip' } },
      ],
    };
    const x = expand(indexProject({ format: 'oquel.project/1', name: 'Hill', assets: [hill, kite] }));
    const raise = (at: number, of: string, event: string): Rehearsal['steps'][number] => ({
      at,
      raise: { at: of, event },
    });
    const asked = [1, 2, 3, 4].map((at) => raise(at, 'hill:.', 'onAsk'));
    const steps = [
      ...asked,
      raise(5, 'hill:~Kite#2', 'onCut'),
      raise(6, 'hill:.', 'onGust'),
      raise(7, 'hill:~Kite', 'onCut'),
      raise(8, 'hill:.', 'onGust'),
      raise(9, 'hill:~Kite', 'onCut'),
    ];
    const dips: string[] = [];
    const gone: string[] = [];
    rehearse(x, [{ name: 'r', steps }], (r) => {
      if (!('n' in r)) return;
      if (r.kind === 'performed' && r.action === 'dip') dips.push(`${r.t / 1e6} ${r.at}`);
      if (r.kind === 'gone') gone.push(r.at);
    });
    const [first, third, fourth] = [1, 3, 4].map((n) => `hill:~Kite#${n}`);
    expect(dips).toEqual([`6 ${first}`, `6 ${third}`, `6 ${fourth}`, `8 ${first}`, `8 ${third}`]);
    expect(gone).toEqual(['hill:~Kite#2', fourth, third]);
  });
});
