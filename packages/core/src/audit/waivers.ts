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
    fix: 'Fix the fault, or waive it again with a reason that still holds.',
  },
  messages: { stale: 'The waiver of {by} ("{reason}") ended on {until}' },
  parts: [],
});
export const idleWaiver = defineRule<'idle'>({
  meta: {
    name: 'idle-waiver',
    severity: 'info',
    group: 'waivers',
    what: 'The finding that a waiver accepts is gone.',
    why: 'It would silently accept the same fault if it came back.',
    fix: 'Remove the waiver.',
  },
  messages: { idle: 'The finding accepted by the waiver of {by} ("{reason}") is gone' },
  parts: [],
});

/** A waiver counts up to and including its date. */
export function isStale(waiver: Waiver, today: string): boolean {
  return waiver.until !== undefined && waiver.until < today;
}

/** The waivers that hold today, by the findings that they cover. One that is only proposed covers nothing. */
export class WaiversInForce {
  private readonly waivers = new Map<string, Waiver[]>();
  private readonly occurrences = new Map<Waiver, Set<string>>();

  constructor(waivers: readonly Waiver[], today: string) {
    for (const w of waivers) {
      if (w.proposed || isStale(w, today)) continue;
      const same = this.waivers.get(w.fingerprint);
      if (same) same.push(w);
      else this.waivers.set(w.fingerprint, [w]);
    }
  }
  /** Whether all occurrences of a finding are covered: by one waiver that lists them all, or that lists none. */
  covers({ fingerprint, occurrences }: Finding): boolean {
    const waivers = this.waivers.get(fingerprint);
    return waivers !== undefined && waivers.some((w) => this.coversAll(w, occurrences));
  }
  private coversAll(waiver: Waiver, occurrences: readonly string[]): boolean {
    if (!waiver.occurrences) return true;
    let listed = this.occurrences.get(waiver);
    if (!listed) this.occurrences.set(waiver, (listed = new Set(waiver.occurrences)));
    const known = listed;
    return occurrences.every((o) => known.has(o));
  }
}
