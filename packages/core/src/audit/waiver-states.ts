import type { Waiver } from '../project/types.js';
import type { Finding } from './finding.js';
import { isStale } from './waivers.js';

/** How a waiver stands: `partial` where its finding has come to more places than it lists, `proposed` until it is accepted. */
export interface WaiverState {
  waiver: Waiver;
  state: 'in force' | 'partial' | 'proposed' | 'stale' | 'idle';
  /** The finding that it excuses; undefined if that is gone. */
  finding: Finding | undefined;
}

/** Each waiver of a project with the finding that it speaks of, in their order. Linear. */
export function waiverStates(
  findings: readonly Finding[],
  waivers: readonly Waiver[],
  today: string,
): WaiverState[] {
  const by = new Map(findings.map((f) => [f.fingerprint, f]));
  return waivers.map((waiver) => {
    const finding = by.get(waiver.fingerprint);
    const state = isStale(waiver, today)
      ? 'stale'
      : !finding
        ? 'idle'
        : waiver.proposed
          ? 'proposed'
          : finding.waived === true
            ? 'in force'
            : 'partial';
    return { waiver, state, finding };
  });
}
