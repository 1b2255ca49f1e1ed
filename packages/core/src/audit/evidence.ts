import type { BindingRef, Evidence } from './finding.js';

/**
 * Evidence that is made on demand from what is given here and from nothing else: a report that is kept over edits must
 * not hold on to the graph of its time.
 */
export function bindingsEvidence(bindings: BindingRef[]): () => Evidence {
  return () => ({ kind: 'bindings', bindings });
}
export function namesEvidence(wanted: string, known: string[]): () => Evidence {
  return () => ({ kind: 'names', wanted, known });
}
export function readyEvidence(evidence: Evidence): () => Evidence {
  return () => evidence;
}
