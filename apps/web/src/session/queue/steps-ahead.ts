import type { HistoryStep } from '../../api/client.js';
import { labelOf, type Entry } from './entry.js';

/** An edit that undo or redo would take next: stored, or waiting. */
export interface StepAhead {
  label: string;
  version: number | null;
  of: string | null;
}
export interface StepsAhead {
  undo: StepAhead[];
  redo: StepAhead[];
}

/** What undo and redo would take once all that waits is stored, the next one first. */
export function stepsAhead(
  stored: { undo: readonly HistoryStep[]; redo: readonly HistoryStep[] },
  waiting: readonly Entry[],
): StepsAhead {
  const ofStored = ({ version, label }: HistoryStep): StepAhead => ({ version, label, of: null });
  const ahead = { undo: stored.undo.map(ofStored), redo: stored.redo.map(ofStored) };
  for (const entry of waiting) {
    const { way } = entry.job;
    if (way === 'undo' || way === 'redo') {
      const step = ahead[way].shift();
      if (step) ahead[way === 'undo' ? 'redo' : 'undo'].unshift(step);
      continue;
    }
    ahead.redo = [];
    ahead.undo.unshift({ label: labelOf(entry), version: null, of: entry.key });
  }
  return ahead;
}
