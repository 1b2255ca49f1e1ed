import type {
  AuditDifference,
  BindingFrom,
  BindingRef,
  Difference,
  FindingChange,
  NotRun,
  Ripple,
  RippleAsk,
  RippleAxis,
  RippleFilter,
  RippleLayout,
  RippleLine,
  RunDifference,
  SelectionTarget,
  TraceRecord,
  Verdict,
} from '@oquel/core';

export interface Audited {
  /** To the result that the interface has. */
  difference: AuditDifference;
  /** What the change did to the findings. */
  change: FindingChange;
}
export interface RippleQuestion {
  ask: RippleAsk;
  axis: RippleAxis;
  /** Pixels that the picture may take from left to right. */
  room: number;
  filter: RippleFilter;
  /** Bindings that are off for a trial. */
  muted: readonly BindingRef[];
}
export interface RippleAnswer {
  ripple: Ripple;
  layout: RippleLayout;
  lines: RippleLine[];
  /** Hops that the policy allows. */
  limit: number;
  /** To follow and lay out. */
  milliseconds: number;
}
/** A state of the project: as it is, or a build's document and audit as texts. */
export type StateText = 'now' | { document: string; audit: string };
export interface Comparison {
  difference: Difference;
  findings: FindingChange;
}
export interface SelectionAsk {
  from: BindingFrom;
  to: SelectionTarget;
}

/** One run of one rehearsal, to be looked at. */
export interface Rehearsed {
  verdict: Verdict | NotRun;
  scenes: string[];
  /** The first of them; `left` more were made. */
  records: TraceRecord[];
  left: number;
  /** What this run has otherwise than the one before of that name; null for the first. */
  difference: RunDifference | null;
}
