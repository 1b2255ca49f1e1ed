import type { Finding } from './finding.js';

/** What an edit did to the findings. */
export interface FindingChange {
  /** Not there before, or with an occurrence that was not there. */
  added: Finding[];
  gone: Finding[];
}

/** Compares two audits by fingerprint and occurrences. Linear. */
export function compareFindings(before: readonly Finding[], after: readonly Finding[]): FindingChange {
  const old = new Map(before.map((f) => [f.fingerprint, f]));
  const now = new Set(after.map((f) => f.fingerprint));
  return {
    added: after.filter((f) => isNew(f, old.get(f.fingerprint))),
    gone: before.filter((f) => !now.has(f.fingerprint)),
  };
}

/** Whether a finding was not there before, or has an occurrence that was not. */
export function isNew(f: Finding, old: Finding | undefined): boolean {
  if (!old) return true;
  if (
    f.occurrences.length === old.occurrences.length &&
    f.occurrences.every((o, i) => o === old.occurrences[i])
  ) {
    return false;
  }
  const known = new Set(old.occurrences);
  return f.occurrences.some((o) => !known.has(o));
}
