import type { Value } from '../project/types.js';

/** What a payload or a list of arguments holds. */
export type Values = Readonly<Record<string, Value>>;

/** Why a raise is refused. */
export type RefusalReason =
  'dangling' | 'unloaded' | 'gone' | 'asleep' | 'limit' | 'filtered' | 'barred' | 'paused';
/** Why a binding lets a raise not through. */
export type StopReason = 'released' | 'not-bound' | 'condition' | 'limit' | 'empty';
/** Why a delivery, a publication or an effect is lost. */
export type LossReason = 'unloaded' | 'gone' | 'asleep' | 'paused' | 'nobody' | 'dangling' | 'misfit';

interface Common {
  /** 1, 2, 3 … in the order written. */
  n: number;
  /** Microseconds. */
  t: number;
  /** The number of the record that caused it; 0 for none. */
  cause: number;
  /** The step that made it, counted from 0. */
  step?: number;
}
/** The expanded binding that a record speaks of. */
interface Through {
  owner: string;
  binding: string;
}

/** The first thing that a binding asked and that was not so; null for what was not there. Not part of the written trace. */
export interface FoundValue {
  asked: string;
  value: Value | null;
}

/** One line of the trace. Addresses carry the numbers of copies. */
export type TraceRecord = Common &
  (
    | { kind: 'raise'; at: string; event: string; payload: Values; by?: string }
    | { kind: 'refused'; at: string; event: string; reason: RefusalReason }
    | ({ kind: 'stopped'; reason: StopReason; found?: FoundValue } & Through)
    | ({ kind: 'publication'; channel: string; key?: Value; payload: Values } & Partial<Through>)
    | ({ kind: 'performed'; at: string; action: string; args: Values; times: number } & Through)
    | ({ kind: 'lost'; at: string; action: string; reason: LossReason } & Through)
    | ({ kind: 'lost'; channel: string; reason: LossReason } & Partial<Through>)
    | { kind: 'lost'; at: string; effect: string; reason: LossReason }
    | { kind: 'change'; at: string; property: string; from: Value; to: Value }
    | { kind: 'wake' | 'sleep' | 'gone'; at: string }
    | { kind: 'born'; at: string; asset: string }
    | { kind: 'pause'; is: boolean }
    | ({
        kind: 'expect';
        ok: boolean;
        at: string;
        got: Value | null;
        reason?: 'dangling' | 'unloaded' | 'gone';
      } & Partial<{
        property: string;
        is: Value;
        asleep: boolean;
        gone: boolean;
        action: string;
        times: number;
      }>)
    | { kind: 'cut'; due: number; at: string; event: string }
    | ({ kind: 'cut'; due: number; channel: string } & Partial<Through>)
    | ({ kind: 'cut'; due: number; at: string; action: string } & Through)
    | { kind: 'runaway'; why: 'loop' | 'total'; cycle: readonly CycleStep[] }
  );

export interface CycleStep {
  action: string;
  at: string;
}

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;
/** A record before it has its number, time and cause. */
export type RecordBody = DistributiveOmit<TraceRecord, 'n' | 't' | 'cause' | 'step'>;

/** What a rehearsal came to. Times in microseconds. */
export interface Verdict {
  kind: 'verdict';
  name: string;
  pass: boolean;
  records: number;
  /** Deliveries that were taken, lost ones too. */
  deliveries: number;
  /** When the last thing was taken. */
  end: number;
  /** Expectations that hold, that fail, and that were not come to. */
  held: number;
  failed: number;
  unjudged: number;
  /** Steps that name something that is not there or not loaded. */
  steps: number;
  cut: number;
  runaway: boolean;
}
/** A rehearsal that cannot be run at all. */
export interface NotRun {
  kind: 'verdict';
  name: string;
  error: 'load-set';
  pass: false;
}
export function wasRun(verdict: Verdict | NotRun): verdict is Verdict {
  return !('error' in verdict);
}
