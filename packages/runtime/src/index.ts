export * from './format.js';
export type { LossReason, Performance, RecordBody, Through, WorldRecord } from './records.js';
export { createWorld, World, type Game, type Limits, type RaiseOptions, type Wired } from './world.js';
export type { Instance } from './instance.js';
export { rehearse, type Expectation, type Rehearsal, type Step, type TraceLine } from './rehearse.js';
export { canonicalJson } from './value.js';
