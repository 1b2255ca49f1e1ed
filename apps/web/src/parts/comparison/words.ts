import type { DifferenceCounts, DifferenceHow, DifferenceOf } from '@oquel/core';

export const OFS: DifferenceOf[] = ['binding', 'placement', 'declaration'];
export const HOW_WORD: Record<DifferenceHow, string> = {
  added: 'new',
  removed: 'gone',
  changed: 'changed',
  moved: 'moved',
  renamed: 'renamed',
};
export const HOWS = Object.keys(HOW_WORD) as DifferenceHow[];

/** `12 new, 2 changed`; empty for nothing. */
export function countsText(counts: DifferenceCounts[keyof DifferenceCounts]): string {
  return HOWS.filter((how) => counts[how] > 0)
    .map((how) => `${counts[how]} ${HOW_WORD[how]}`)
    .join(', ');
}
