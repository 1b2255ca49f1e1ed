import { describe, expect, it } from '@jest/globals';
import { compareRuns, expectationOf, statesAfter, type StateChange, type TraceRecord } from '../src/index.js';

/** Records with their numbers from 1, half a second apart. */
function trace(...records: object[]): TraceRecord[] {
  return records.map((r, i) => ({ n: i + 1, t: i * 500_000, cause: 0, ...r }) as unknown as TraceRecord);
}
const lit = (from: boolean, to: boolean, at = 'quay:lamp'): object => ({
  kind: 'change',
  at,
  property: 'lit',
  from,
  to,
});

describe('states after some records', () => {
  const records = trace(
    lit(false, true),
    { kind: 'wake', at: 'quay:gate' },
    { kind: 'performed', at: 'quay:lamp', action: 'light', times: 1 },
    { kind: 'born', at: 'quay:~Sled#1' },
    { kind: 'refused', at: 'quay:bell', event: 'onRung', reason: 'asleep' },
    lit(true, false),
    { kind: 'performed', at: 'quay:lamp', action: 'light', times: 2 },
    { kind: 'sleep', at: 'quay:gate' },
    { kind: 'gone', at: 'quay:~Sled#1' },
    lit(false, true, 'quay:lamp-2'),
  );
  const on = { at: 'quay:lamp', what: { property: 'lit' }, before: false, now: true };
  const performed = (now: number): object => ({ at: 'quay:lamp', what: { action: 'light' }, before: 0, now });
  const awake = { at: 'quay:gate', what: 'asleep', before: true, now: false };
  const born = { at: 'quay:~Sled#1', what: 'born', before: false, now: true };
  const gone = { at: 'quay:~Sled#1', what: 'gone', before: false, now: true };
  it.each<[number, object[]]>([
    [0, []],
    [1, [on]],
    [5, [on, awake, performed(1), born]],
    // What is as it was at the beginning is no change.
    [6, [awake, performed(1), born]],
    [8, [performed(2), born]],
    [10, [performed(2), born, gone, { ...on, at: 'quay:lamp-2' }]],
    [99, [performed(2), born, gone, { ...on, at: 'quay:lamp-2' }]],
  ])('%d of them', (n, expected) => {
    expect(statesAfter(records, n)).toEqual(expected);
  });

  it.each<[StateChange['what'], StateChange['now'], object]>([
    ['asleep', true, { asleep: true }],
    ['asleep', false, { asleep: false }],
    ['gone', true, { gone: true }],
    ['born', true, { gone: false }],
    [{ property: 'level' }, 3, { property: 'level', is: 3 }],
    [{ action: 'light' }, 2, { action: 'light', times: 2 }],
  ])('%j as %j can be expected to stay so', (what, now, expected) => {
    expect(expectationOf({ at: 'quay:lamp', what, before: 0, now })).toEqual({
      at: 'quay:lamp',
      ...expected,
    });
  });
});

describe('two runs of one script', () => {
  const rung = { kind: 'raise', at: 'quay:bell', event: 'onRung', payload: {} };
  const reported = ({ added, gone }: ReturnType<typeof compareRuns>): number[][] =>
    [gone, added].map((list) => list.map((r) => r.n));
  it.each<[string, TraceRecord[], TraceRecord[], number[], number[]]>([
    ['nothing', trace(rung, lit(false, true)), trace(rung, lit(false, true)), [], []],
    ['what one has at another time', trace(rung, lit(false, true)), trace({}, rung), [1, 2], [1, 2]],
    ['one more of the same moment', trace(rung), [...trace(rung), { ...trace(rung)[0], n: 2 }], [], [2]],
    ['one less of the same moment', [...trace(rung), { ...trace(rung)[0], n: 2 }], trace(rung), [2], []],
    [
      'no numbers, causes or steps',
      trace({ ...rung, cause: 7, step: 3 }),
      trace({ ...rung, n: 5, cause: 1, step: 2 }),
      [],
      [],
    ],
    ['another payload', trace(rung), trace({ ...rung, payload: { n: 1 } }), [1], [1]],
  ])('differ in %s', (_, before, after, gone, added) => {
    expect(reported(compareRuns(before, after))).toEqual([gone, added]);
  });
});
