import type { Waiver } from '../project/types.js';
import type { Finding } from './finding.js';
import { defineRule } from './rule.js';

/** The two findings about waivers themselves. They look at the other findings, so they are judged after them. */
export const staleWaiver = defineRule<'stale'>({
  meta: {
    name: 'stale-waiver',
    severity: 'warning',
    group: 'waivers',
    what: 'A waiver is past its date.',
    why: 'The fault that it accepted counts again.',
    cure: 'Fix the fault, or waive it again with a reason that still holds.',
  },
  messages: { stale: 'The waiver of {by} ("{reason}") ended on {until}' },
  check: () => undefined,
});
export const idleWaiver = defineRule<'idle'>({
  meta: {
    name: 'idle-waiver',
    severity: 'info',
    group: 'waivers',
    what: 'The finding that a waiver accepts is gone.',
    why: 'It would silently accept the same fault if it came back.',
    cure: 'Remove the waiver.',
  },
  messages: { idle: 'The finding accepted by the waiver of {by} ("{reason}") is gone' },
  check: () => undefined,
});

/** A waiver counts up to and including its date. */
export function isStale(waiver: Waiver, today: string): boolean {
  return waiver.until !== undefined && waiver.until < today;
}

/** Marks the findings that a waiver in force covers, not one that is only proposed: all of their occurrences, where the waiver lists any. */
export function applyWaivers(findings: readonly Finding[], waivers: readonly Waiver[], today: string): void {
  const inForce = new Map<string, Waiver[]>();
  for (const w of waivers) {
    if (w.proposed || isStale(w, today)) continue;
    const same = inForce.get(w.fingerprint);
    if (same) same.push(w);
    else inForce.set(w.fingerprint, [w]);
  }
  for (const f of findings) {
    const covers = (inForce.get(f.fingerprint) ?? []).some((w) => {
      const listed = w.occurrences && new Set(w.occurrences);
      return !listed || f.occurrences.every((o) => listed.has(o));
    });
    if (covers) f.waived = true;
  }
}
