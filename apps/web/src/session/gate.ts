import type { SessionState } from './session-state.js';

/** What the gate says now, rehearsals included where the policy counts them. */
export interface GateNow {
  gate: 'pass' | 'stop';
  /** Rehearsals that fail and count for it. */
  failing: readonly string[];
}
export function gateNow({ audit, rehearsed, project }: SessionState): GateNow {
  const counts = project.policy?.rehearsals === true;
  const failing = counts ? (rehearsed?.verdicts ?? []).filter((v) => !v.pass).map((v) => v.name) : [];
  return { gate: failing.length > 0 ? 'stop' : (audit?.gate ?? 'pass'), failing };
}
