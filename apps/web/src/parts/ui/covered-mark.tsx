import type { ReactNode } from 'react';
import { coveredText, coveredWords, isOnlyRefused, type Used } from '../../session/coverage.js';

/** Whether rehearsals, or a play, have used a binding: a slip that is full, half full or empty. */
export function CoveredMark({ used }: { used: Used }): ReactNode {
  const covered = coveredText(used);
  const isRefused = isOnlyRefused(used);
  const label = coveredWords(used);
  return (
    <svg className="coveredmark" width="9" height="13" viewBox="0 0 9 13" role="img" aria-label={label}>
      <title>{label}</title>
      <path d="M1 1h7v11h-7z" fill="none" stroke="currentColor" />
      {isRefused && <path d="M2.5 6.5h4" stroke="currentColor" />}
      {covered !== 'none' && (
        <path d={covered === 'all' ? 'M1 1h7v11h-7z' : 'M1 6.5h7v5.5h-7z'} fill="currentColor" />
      )}
    </svg>
  );
}
