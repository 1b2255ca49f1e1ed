import { describe, expect, it } from '@jest/globals';
import {
  expectedText,
  failsRehearsal,
  recordText,
  verdictText,
  whyNot,
  type NotRun,
  type TraceRecord,
  type Verdict,
} from '../src/index.js';

const record = (body: object): TraceRecord => ({ n: 1, t: 0, cause: 0, ...body }) as unknown as TraceRecord;
const expected = (body: object): object => ({ kind: 'expect', at: 'quay:lamp', ...body });
const performed = (times: number): object => ({
  kind: 'performed',
  binding: 'b',
  owner: 'quay:.',
  at: 'quay:lamp',
  action: 'light',
  args: {},
  times,
});

describe('a record as a sentence', () => {
  const cases: [object, string][] = [
    [{ kind: 'raise', at: 'quay:bell', event: 'onRung', payload: {} }, 'quay:bell raises onRung'],
    [
      { kind: 'raise', at: 'quay:bell', event: 'onRung', payload: { loud: true, n: 2 }, by: 'host' },
      'quay:bell raises onRung (loud = true, n = 2) by host',
    ],
    [
      { kind: 'refused', at: 'quay:bell', event: 'onRung', reason: 'barred' },
      'quay:bell does not raise onRung: this peer is not allowed to raise it',
    ],
    [
      { kind: 'stopped', binding: 'b', owner: 'quay:.', reason: 'limit' },
      'binding b of quay:. does not trigger: its limit is used up',
    ],
    [
      {
        kind: 'stopped',
        binding: 'b',
        owner: 'quay:.',
        reason: 'condition',
        found: { asked: '$n > 2', value: 1 },
      },
      'binding b of quay:. does not trigger: its condition does not hold, because $n > 2 is 1',
    ],
    [
      {
        kind: 'stopped',
        binding: 'b',
        owner: 'quay:.',
        reason: 'condition',
        found: { asked: '$n', value: null },
      },
      'binding b of quay:. does not trigger: its condition does not hold, because $n is not given',
    ],
    [{ kind: 'publication', channel: 'fog', payload: {} }, 'channel fog receives an event'],
    [
      { kind: 'publication', channel: 'fog', key: 'east', payload: { n: 1 } },
      'channel fog ["east"] receives (n = 1)',
    ],
    [performed(1), 'quay:lamp does light'],
    [performed(2), 'quay:lamp does light, for the 2nd time'],
    [performed(3), 'quay:lamp does light, for the 3rd time'],
    [performed(4), 'quay:lamp does light, for the 4th time'],
    [performed(11), 'quay:lamp does light, for the 11th time'],
    [performed(13), 'quay:lamp does light, for the 13th time'],
    [performed(21), 'quay:lamp does light, for the 21st time'],
    [performed(112), 'quay:lamp does light, for the 112th time'],
    [
      { kind: 'lost', at: 'quay:lamp', action: 'light', reason: 'asleep' },
      'quay:lamp does not do light: it is asleep',
    ],
    [
      { kind: 'lost', at: 'quay:lamp', effect: 'set:lit', reason: 'misfit' },
      'quay:lamp: the effect set:lit is lost: the value is missing or of the wrong type',
    ],
    [{ kind: 'lost', channel: 'fog', reason: 'dangling' }, 'channel fog receives nothing: it does not exist'],
    [
      { kind: 'change', at: 'quay:lamp', property: 'lit', from: false, to: true },
      'quay:lamp: lit goes from false to true',
    ],
    [{ kind: 'wake', at: 'quay:lamp' }, 'quay:lamp wakes'],
    [{ kind: 'sleep', at: 'quay:lamp' }, 'quay:lamp goes to sleep'],
    [{ kind: 'gone', at: 'quay:lamp' }, 'quay:lamp is destroyed, with everything in it'],
    [{ kind: 'born', at: 'quay:~Lamp#1' }, 'quay:~Lamp#1 is spawned'],
    [{ kind: 'pause', is: true }, 'the game pauses'],
    [{ kind: 'pause', is: false }, 'the game resumes'],
    [expected({ property: 'lit', is: true, ok: true, got: true }), 'as expected, quay:lamp has lit = true'],
    [
      expected({ property: 'lit', is: true, ok: false, got: false }),
      'expected: quay:lamp has lit = true; it is false',
    ],
    [
      expected({ action: 'light', times: 1, ok: false, got: 3 }),
      'expected: quay:lamp has done light 1 time; it was 3',
    ],
    [expected({ asleep: true, ok: false, got: false }), 'expected: quay:lamp is asleep; it is awake'],
    [expected({ asleep: false, ok: false, got: true }), 'expected: quay:lamp is awake; it is asleep'],
    [expected({ gone: true, ok: false, got: false }), 'expected: quay:lamp is gone; it is there'],
    [expected({ gone: false, ok: false, got: true }), 'expected: quay:lamp is there; it is gone'],
    [
      expected({ gone: false, ok: false, reason: 'unloaded' }),
      'expected: quay:lamp is there; its scene is not loaded',
    ],
    [
      { kind: 'cut', due: 2_500_000, at: 'quay:bell', event: 'onRung' },
      'still pending, due at 2.5 s: quay:bell onRung',
    ],
    [
      { kind: 'cut', due: 1_000_000, at: 'quay:lamp', action: 'light' },
      'still pending, due at 1 s: quay:lamp light',
    ],
    [{ kind: 'cut', due: 10, channel: 'fog' }, 'still pending, due at 0.00001 s: channel fog'],
    [{ kind: 'runaway', why: 'total', cycle: [] }, 'it never settles'],
    [
      {
        kind: 'runaway',
        why: 'loop',
        cycle: [
          { action: 'ring', at: 'quay:bell' },
          { action: 'light', at: 'quay:lamp' },
        ],
      },
      'endless loop within one instant: quay:bell ring > quay:lamp light > quay:bell ring',
    ],
  ];
  it.each(cases)('%j', (body, said) => {
    expect(recordText(record(body))).toBe(said);
  });
  it.each<[object, string]>([
    [{ kind: 'refused', reason: 'paused' }, 'the game is paused'],
    [{ kind: 'stopped', reason: 'empty' }, 'it selects nothing now'],
    [{ kind: 'lost', reason: 'nobody' }, 'no peer that receives the event has this receiver'],
    [{ kind: 'wake', at: 'quay:lamp' }, ''],
  ])('%j: why not', (body, said) => {
    expect(whyNot(record(body))).toBe(said);
  });
  it('an expectation that asks how often something was done', () => {
    expect(expectedText({ action: 'light', times: 2 })).toBe('has done light 2 times');
  });
});

describe('what a rehearsal came to', () => {
  const all: Verdict = {
    name: 'Tide',
    pass: true,
    held: 2,
    failed: 0,
    unjudged: 0,
    steps: 0,
    runaway: false,
    cut: 0,
    deliveries: 1,
    end: 1_500_000,
  } as unknown as Verdict;
  it.each<[Verdict | NotRun, string]>([
    [all, 'Tide passes: 2 of 2 expectations hold, 1 delivery, ends at 1.5 s'],
    [
      { ...all, pass: false, failed: 1, unjudged: 1, steps: 1, cut: 3, deliveries: 4 },
      'Tide FAILS: 2 of 4 expectations hold, 1 step names something that does not exist, 3 still pending at the end, 4 deliveries, ends at 1.5 s',
    ],
    [
      { ...all, pass: false, steps: 2, runaway: true },
      'Tide FAILS: 2 of 2 expectations hold, 2 steps name something that does not exist, it did not settle, 1 delivery, ends at 1.5 s',
    ],
  ])('%j', (verdict, said) => {
    expect(verdictText(verdict)).toBe(said);
  });

  it.each<[object, boolean]>([
    [expected({ ok: true }), false],
    [expected({ ok: false }), true],
    [{ kind: 'runaway', why: 'total', cycle: [] }, true],
    [{ kind: 'lost', reason: 'gone' }, false],
    [{ kind: 'lost', reason: 'gone', step: 0 }, true],
    [{ kind: 'refused', reason: 'dangling' }, false],
    [{ kind: 'refused', reason: 'dangling', step: 1 }, true],
    [{ kind: 'refused', reason: 'unloaded', step: 1 }, true],
    [{ kind: 'refused', reason: 'asleep', step: 1 }, false],
    [{ kind: 'raise', step: 1 }, false],
  ])('%j makes it fail: %s', (body, fails) => {
    expect(failsRehearsal(record(body))).toBe(fails);
  });
});
