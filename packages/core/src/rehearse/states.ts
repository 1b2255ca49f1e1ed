import { canonicalJson } from '../project/canonical.js';
import type { Expectation, Value } from '../project/types.js';
import type { TraceRecord } from './records.js';

/** Something about an instance that is other than at the beginning. */
export interface StateChange {
  at: string;
  /** A property, or what has no value of its own. */
  what: { property: string } | { action: string } | 'asleep' | 'gone' | 'born';
  before: Value;
  now: Value;
}

/** What has changed, record by record. */
export class StateTally {
  private readonly states = new Map<string, StateChange>();

  take(r: TraceRecord): void {
    if (r.kind === 'change') this.put(r.at, { property: r.property }, r.from, r.to);
    else if (r.kind === 'wake' || r.kind === 'sleep')
      this.put(r.at, 'asleep', r.kind === 'wake', r.kind === 'sleep');
    else if (r.kind === 'gone') this.put(r.at, 'gone', false, true);
    else if (r.kind === 'born') this.put(r.at, 'born', false, true);
    else if (r.kind === 'performed') this.put(r.at, { action: r.action }, 0, r.times);
  }
  /** All that is other than at the beginning, in order of first change. */
  changes(): StateChange[] {
    return [...this.states.values()].filter(
      ({ before, now }) => canonicalJson(before) !== canonicalJson(now),
    );
  }
  private put(at: string, what: StateChange['what'], before: Value, now: Value): void {
    const key = typeof what === 'string' ? `${at} ${what}` : `${at} ${Object.entries(what)[0].join(' ')}`;
    const state = this.states.get(key);
    if (state) state.now = now;
    else this.states.set(key, { at, what, before, now });
  }
}

/** All that has changed after the records up to number `n`, in order of first change. Linear in records. */
export function statesAfter(records: readonly TraceRecord[], n: number): StateChange[] {
  const tally = new StateTally();
  for (const r of records) {
    if (r.n > n) break;
    tally.take(r);
  }
  return tally.changes();
}

/** The expectation that a state stays as it is now. */
export function expectationOf({ at, what, now }: StateChange): Expectation {
  if (what === 'asleep') return { at, asleep: now === true };
  if (what === 'gone') return { at, gone: now === true };
  if (what === 'born') return { at, gone: false };
  return 'property' in what
    ? { at, property: what.property, is: now }
    : { at, action: what.action, times: Number(now) };
}

/** What two runs of one script differ in: records of the earlier that the later has not, and the other way round. */
export interface RunDifference {
  gone: TraceRecord[];
  added: TraceRecord[];
}

/** Compares two traces by what happened and when, whatever number it had. Linear in records. */
export function compareRuns(before: readonly TraceRecord[], after: readonly TraceRecord[]): RunDifference {
  return { gone: without(before, after), added: without(after, before) };
}
function without(records: readonly TraceRecord[], others: readonly TraceRecord[]): TraceRecord[] {
  const left = new Map<string, number>();
  for (const r of others) left.set(keyOf(r), (left.get(keyOf(r)) ?? 0) + 1);
  return records.filter((r) => {
    const key = keyOf(r);
    const n = left.get(key) ?? 0;
    if (n > 0) left.set(key, n - 1);
    return n === 0;
  });
}
function keyOf(r: TraceRecord): string {
  return canonicalJson({ ...r, n: 0, cause: 0, step: 0 });
}
