import type { Finding } from '@oquel/core';
import type { ReactNode } from 'react';

type Severity = Finding['severity'];
export const SEVERITY_WORD: Record<Severity, string> = { error: 'error', warning: 'warning', info: 'note' };

/** A severity by shape and colour; the word stands beside it or in its label. */
export function SeverityMark({ severity, label }: { severity: Severity; label?: string }): ReactNode {
  return (
    <svg
      className={`mark ${severity}`}
      width="13"
      height="13"
      viewBox="0 0 13 13"
      role={label ? 'img' : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      {severity === 'error' && <path d="M1 1 12 12M12 1 1 12" stroke="currentColor" strokeWidth="3" />}
      {severity === 'warning' && (
        <path d="M6.5 1 12.2 6.5 6.5 12 .8 6.5Z" fill="none" stroke="currentColor" strokeWidth="2.2" />
      )}
      {severity === 'info' && <path d="M1 6.5h11" stroke="currentColor" strokeWidth="3.4" />}
    </svg>
  );
}
