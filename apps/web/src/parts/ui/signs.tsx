import type { ReactNode } from 'react';

/** Signs of our own for what is at hand everywhere, drawn with one pen; their names stand at the buttons. */
const PATHS = {
  undo: 'M4 8h9a4.5 4.5 0 0 1 0 9H8M4 8l4-4M4 8l4 4',
  redo: 'M16 8H7a4.5 4.5 0 0 0 0 9h5M16 8l-4-4M16 8l-4 4',
  history: 'M4 4v12M4 5h3M4 10h3M4 15h3M10 5h7M10 10h5M10 15h6',
  guide:
    'M10 5.500c-2-1.500-4.500-1.800-7-1.500v11.500c2.500-.3 5 0 7 1.500c2-1.500 4.500-1.800 7-1.500V4c-2.500-.3-5 0-7 1.500V17',
  find: 'M8.5 3.5a5 5 0 1 1 0 10a5 5 0 0 1 0-10M12.3 12.3l4.7 4.7',
  person:
    'M10 3.5a3.2 3.2 0 1 1 0 6.4a3.2 3.2 0 0 1 0-6.4M3.5 17c.6-3.6 3-5.2 6.500-5.200s5.900 1.600 6.500 5.200',
} as const;

export function Sign({ of }: { of: keyof typeof PATHS }): ReactNode {
  return (
    <svg className="sign" width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
      <path d={PATHS[of]} fill="none" stroke="currentColor" strokeWidth="1.7" strokeLinecap="round" />
    </svg>
  );
}
