import type { Value, Values } from './format.js';

/** The binding that a record speaks of: the address of its owner, and its name there. */
export interface Through {
  owner: string;
  binding: string;
}
/** One action of one instance, in the cycle of a runaway. */
export interface Performance {
  action: string;
  at: string;
}
export type RecordBody =
  | { kind: 'raise'; at: string; event: string; payload: Values; by?: string }
  | {
      kind: 'refused';
      at: string;
      event: string;
      reason: RefusalReason;
    }
  | ({ kind: 'stopped'; reason: StopReason } & Through)
  | ({ kind: 'publication'; channel: string; key?: Value; payload: Values } & Partial<Through>)
  | ({ kind: 'performed'; at: string; action: string; args: Values; times: number } & Through)
  | ({ kind: 'lost'; at: string; action: string; reason: LossReason } & Through)
  | ({ kind: 'lost'; channel: string; reason: 'dangling' } & Partial<Through>)
  | { kind: 'lost'; at: string; effect: string; reason: 'dangling' | 'misfit' }
  | { kind: 'change'; at: string; property: string; from: Value; to: Value }
  | { kind: 'wake' | 'sleep' | 'gone'; at: string }
  | { kind: 'born'; at: string; asset: string }
  | { kind: 'pause'; is: boolean }
  | { kind: 'runaway'; why: 'loop' | 'total'; cycle: Performance[] };
export type RefusalReason =
  'dangling' | 'unloaded' | 'gone' | 'asleep' | 'limit' | 'filtered' | 'barred' | 'paused';
export type StopReason = 'released' | 'not-bound' | 'condition' | 'limit' | 'empty';
export type LossReason = 'unloaded' | 'gone' | 'asleep' | 'paused' | 'nobody' | 'dangling' | 'misfit';

/** What happened: numbered from 1, at a time in microseconds, because of the record of that number (0 for none). */
export type WorldRecord = RecordBody & { n: number; t: number; cause: number; step?: number };
