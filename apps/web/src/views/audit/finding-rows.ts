import type { Finding, Mistake } from '@oquel/core';
import type { FindingGroup } from './grouping.js';

/** A row of the list of findings. */
export type Row =
  | { kind: 'group'; group: FindingGroup }
  | { kind: 'finding'; finding: Finding }
  /** The same mistake in further places, shown or not. */
  | { kind: 'fold'; mistake: string; more: number; isOpen: boolean };
/** So many findings with the same mistake are folded to the first of them. */
const FOLDED = 3;

/** The first of many with the same mistake, and the others where they are asked for or one of them is looked at. */
export function rowsOf(
  { key, findings }: Mistake,
  unfolded: ReadonlySet<string>,
  wanted: string | null,
): Row[] {
  const all = findings.map((finding): Row => ({ kind: 'finding', finding }));
  if (findings.length < FOLDED) return all;
  const isOpen = unfolded.has(key) || findings.slice(1).some((f) => f.fingerprint === wanted);
  const fold: Row = { kind: 'fold', mistake: key, more: findings.length - 1, isOpen };
  return isOpen ? [all[0], fold, ...all.slice(1)] : [all[0], fold];
}
