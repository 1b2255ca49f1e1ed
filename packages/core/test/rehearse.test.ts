import { describe, expect, it } from '@jest/globals';
import { expand, indexProject, rehearse, runRehearsals, traceText, type Step } from '../src/index.js';

import { gust, lines, raise, records, ridge, verdict, type Draft } from './ridge.js';

const PEERS = {
  peers: [
    { name: 'host', role: 'server' },
    { name: 'guest', role: 'client' },
  ],
};

describe('why a raise is refused', () => {
  const cases: [string, Step[], Draft[], Draft][] = [
    [
      'gone',
      [raise('onOnce'), raise('onGust', 1)],
      [{ id: 'b', from: { at: 'mast', event: 'onOnce' }, to: { at: 'mast', action: 'fall' } }],
      {},
    ],
    ['asleep', [{ at: 0, raise: { at: 'ridge:snug', event: 'onHeld' } }], [], {}],
    ['limit', [raise('onOnce'), raise('onOnce', 1)], [], {}],
    ['filtered', [raise('onNear')], [], {}],
    ['filtered', [raise('onNear', 0, { activator: 'Mast' })], [], {}],
    ['barred', [raise('onBarred')], [], PEERS],
    ['barred', [raise('onSteer', 0, { by: 'guest' })], [], PEERS],
    ['paused', [{ at: 0, pause: true }, raise('onGust')], [], {}],
    ['dangling', [raise('onNothing')], [], {}],
    ['dangling', [{ at: 0, raise: { at: 'ridge:nobody', event: 'onGust' } }], [], {}],
    ['dangling', [raise('onGust', 0, { by: 'gest' })], [], PEERS],
    ['dangling', [raise('onNear', 0, { activator: 'Nobody' })], [], {}],
    [
      'unloaded',
      [{ at: 0, raise: { at: 'far:.', event: 'onX' } }],
      [],
      { loadSets: [{ name: 'near', scenes: ['ridge'] }], rehearsals: undefined },
    ],
  ];
  it.each(cases)('%s', (reason, steps, bindings, more) => {
    const far = { id: 'far', kind: 'scene', events: [{ name: 'onX', cause: { type: 'code' } }] };
    const loadSet = 'loadSets' in more ? { rehearsals: [{ name: 'try', loadSet: 'near', steps }] } : {};
    const refused = records(ridge(bindings, steps, { ...more, ...loadSet }, [far])).filter(
      (r) => r.kind === 'refused',
    );
    expect(refused.map((r) => r.reason)).toEqual([reason]);
  });
  it('an activator is let in by its id, and by a tag that the list has', () => {
    const project = ridge(
      [],
      [raise('onNear', 0, { activator: 'Brake' }), raise('onNear', 1, { activator: 'Crew' })],
      {},
      [{ id: 'Crew', kind: 'prefab', tags: ['crew'] }],
    );
    expect(records(project).map((r) => r.kind)).toEqual(['raise', 'raise']);
  });
});

describe('why a delivery is lost', () => {
  const cases: [string, Draft, Step[], Draft][] = [
    ['gone', gust({ at: 'mast', action: 'fall' }, { delay: 1 }), [raise('onGust'), raise('onGust', 0.5)], {}],
    ['asleep', gust({ at: 'snug', action: 'hold' }), [raise('onGust')], {}],
    [
      'paused',
      gust({ at: 'brake', action: 'hold' }, { delay: 1 }),
      [raise('onGust'), { at: 0.5, pause: true }],
      {},
    ],
    ['dangling', gust({ at: 'brake', action: 'let-go' }), [raise('onGust')], {}],
    ['dangling', gust({ every: 'Horn', action: 'sound' }), [raise('onGust')], {}],
    ['dangling', gust({ channel: 'wind' }), [raise('onGust')], {}],
    ['nobody', gust({ at: 'log', action: 'write' }), [raise('onSteer', 0, { by: 'guest' })], PEERS],
  ];
  it.each(cases)('%s', (reason, binding, steps, more) => {
    const peers = more === PEERS;
    const project = ridge(
      [peers ? { ...binding, from: { at: 'mast', event: 'onSteer' } } : binding],
      steps,
      more,
      [{ id: 'Log', kind: 'prefab', existsOn: 'authority', actions: [{ name: 'write' }] }],
    );
    if (peers) {
      project.assets[0].placements![0].operator = 'guest';
      project.assets[0].placements!.push({ id: 'log', asset: 'Log' });
    }
    expect(
      records(project)
        .filter((r) => r.kind === 'lost')
        .map((r) => r.reason),
    ).toEqual([reason]);
  });
  it('what can be done while asleep is done, and wakes', () => {
    const project = ridge([gust({ at: 'snug', action: 'rouse' })], [raise('onGust')]);
    expect(records(project).map((r) => r.kind)).toEqual(['raise', 'performed', 'wake']);
  });
});

describe('why an effect is lost', () => {
  const cases: [string, Draft | undefined, string][] = [
    ['no argument', undefined, 'misfit'],
    ['a number that is not whole', { force: 1.5 }, 'misfit'],
    ['a text', { force: 'much' }, 'misfit'],
  ];
  it.each(cases)('%s', (_name, args, reason) => {
    const project = ridge([gust({ at: 'brake', action: 'engage' }, args ? { args } : {})], [raise('onGust')]);
    expect(records(project).find((r) => r.kind === 'lost')).toMatchObject({ effect: 'set:force', reason });
  });
});

describe('why a binding lets nothing through', () => {
  it('its limit is spent, and a raise that selects nothing spends it too', () => {
    const project = ridge(
      [
        gust({ at: 'brake', action: 'hold' }, { limit: 1 }),
        { ...gust({ every: 'Log', action: 'write' }, { limit: 1 }), id: 'none' },
      ],
      [raise('onGust'), raise('onGust', 1)],
      {},
      [{ id: 'Log', kind: 'prefab', actions: [{ name: 'write' }] }],
    );
    const stopped = records(project).filter((r) => r.kind === 'stopped');
    expect(stopped.map((r) => [r.binding, r.reason])).toEqual([
      ['none', 'empty'],
      ['b', 'limit'],
      ['none', 'limit'],
    ]);
  });
});

describe('the end of a run', () => {
  it('what is due a minute after the last step is left off, and does not fail it', () => {
    const project = ridge([gust({ at: 'brake', action: 'hold' }, { delay: 61 })], [raise('onGust')]);
    expect(records(project).at(-1)).toMatchObject({
      kind: 'cut',
      due: 61e6,
      at: 'ridge:brake',
      action: 'hold',
      t: 0,
    });
    expect(verdict(project)).toMatchObject({ pass: true, cut: 1, deliveries: 0 });
  });
  it('a load set that is not there fails it without a record', () => {
    const project = ridge([], [], { rehearsals: [{ name: 'try', loadSet: 'nowhere', steps: [] }] });
    expect(lines(project).map((l) => traceText(l))).toEqual([
      '{"error":"load-set","kind":"verdict","name":"try","pass":false}\n',
      '{"kind":"coverage","served":0,"total":0,"unserved":[]}\n',
    ]);
  });
  it('expectations hold or fail by state, sleep, being there and counts; one that names nothing is a broken step', () => {
    const at = 'ridge:brake';
    const project = ridge(
      [gust({ at: 'brake', action: 'hold' })],
      [
        raise('onGust'),
        { at: 1, expect: { at, property: 'held', is: true } },
        { at: 1, expect: { at, property: 'held', is: false } },
        { at: 1, expect: { at: 'ridge:snug', asleep: true } },
        { at: 1, expect: { at, gone: true } },
        { at: 1, expect: { at, action: 'hold', times: 1 } },
        { at: 1, expect: { at, property: 'hold', is: true } },
      ],
    );
    const judged = records(project).filter((r) => r.kind === 'expect');
    expect(judged.map((r) => r.ok)).toEqual([true, false, true, false, true, false]);
    expect(verdict(project)).toMatchObject({ pass: false, held: 3, failed: 3, steps: 1, unjudged: 0 });
  });
  it('a timer that nothing answers does not run for ever', () => {
    const beat = {
      id: 'Beat',
      kind: 'prefab',
      events: [{ name: 'onBeat', cause: { type: 'timer', every: 0.000001 } }],
    };
    const project = ridge([], [{ at: 1e6, pause: false }], {}, [beat]);
    project.assets[0].placements!.push({ id: 'beat', asset: 'Beat' });
    const result = rehearse(expand(indexProject(project)), project.rehearsals!);
    expect(result.verdicts[0]).toMatchObject({ runaway: true, pass: false });
  });
  it('a run can be given up between slices', () => {
    const loop = gust({ at: 'brake', action: 'hold' }, { delay: 0.0001 });
    const back = {
      id: 'back',
      from: { at: 'brake', event: 'onHeld' },
      to: { at: 'brake', action: 'hold' },
      delay: 0.0001,
    };
    const project = ridge([loop, back], [raise('onGust'), { at: 50, pause: false }]);
    const run = runRehearsals(expand(indexProject(project)), project.rehearsals!, null, false);
    expect(run.next().done).toBe(false);
    expect(
      run.return({
        verdicts: [],
        byBinding: [],
        coverage: { kind: 'coverage', served: 0, total: 0, unserved: [] },
        pass: false,
      }).done,
    ).toBe(true);
  });
});
