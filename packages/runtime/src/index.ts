export * from './format.js';
export type { LossReason, Performance, RecordBody, Through, WorldRecord } from './records.js';
export { createWorld, World } from './world.js';
export type { Game, Limits, Wired } from './game.js';
export type { Bound, Instance } from './instance.js';
export type { EventOf, RaiseOptions } from './event-of.js';
export type { Delivery, Publication, Queued, Raise } from './queued.js';
export { canonicalJson } from './value.js';
