import type { Rehearsal } from '../project/types.js';

/** Where something was seen first. */
export interface SeenAt {
  source: string;
  line: number;
  /** Microseconds. */
  t: number;
}
/** How often something was seen, in how many sessions, and where first. */
export interface Tally {
  count: number;
  sessions: number;
  first: SeenAt;
}
/** An expanded binding. */
export interface BindingName {
  owner: string;
  binding: string;
}
/** What a game says that the project does not know. */
export type Unknown = Tally & { what: 'event' | 'action' | 'channel'; name: string };
/** What was performed and no binding explains; `after` is the raise that led to it, as far as is known. */
export type Unexplained = Tally & { at: string; action: string; after?: { at: string; event: string } };
/** What should have followed and did not. */
export type WhatIsMissing =
  | (BindingName & { at: string; action: string })
  | (BindingName & { channel: string })
  | { at: string; event: string };
export type Missing = Tally & WhatIsMissing;
export type Doubled = Tally & BindingName & { at: string; action: string };
/** A delivery that came after one that should come after it. */
export type OutOfOrder = Tally & { late: BindingName & { at: string }; early: BindingName & { at: string } };
/** What happened though the wiring would have refused or lost it. */
export type Despite = Tally & { at: string; name: string; reason: string };
export type Raised = { at: string; event: string; count: number; sessions: number };
export type Served = BindingName & { count: number; sessions: number };

/** What plays say of a project's wiring. `oquel.plays/1` */
export interface PlayReport {
  format: 'oquel.plays/1';
  /** Hash of the wiring that they are judged by. */
  wiring: string;
  /** The build that they are judged by, where it is not the project as it is. */
  build?: string;
  sessions: number;
  /** Of these: sessions that say that they ran other wiring than they are judged by. */
  others: { wiring: string; sessions: number }[];
  records: number;
  /** Of all sessions together, in seconds. */
  seconds: number;
  /** Lines that are no record. */
  broken: { count: number; lines: { source: string; line: number; why: string }[] };
  /** Expanded bindings that have served, of all that could. */
  coverage: { served: number; of: number; bindings: Served[] };
  unknown: Unknown[];
  unexplained: Unexplained[];
  missing: Missing[];
  doubled: Doubled[];
  order: OutOfOrder[];
  despite: Despite[];
  /** The most raised first. */
  raised: Raised[];
  /** The first sessions as rehearsals. */
  rehearsals: Rehearsal[];
  /** What was left out, since a report would have become too long. */
  left: number;
}
