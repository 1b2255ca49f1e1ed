export * from './format.js';
export type { LossReason, Performance, RecordBody, Through, WorldRecord } from './records.js';
export { createWorld, World, type Game, type Limits, type RaiseOptions, type Wired } from './world.js';
export type { Bound, Instance } from './instance.js';
export type { Delivery, Publication, Queued, Raise } from './queued.js';
export { LiveRehearsal, rehearse } from './rehearse.js';
export type { Expectation, Rehearsal, Step, TraceLine } from './script.js';
export { canonicalJson } from './value.js';
