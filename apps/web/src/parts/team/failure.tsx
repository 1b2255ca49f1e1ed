import type { ReactNode } from 'react';

/** Why something could not be done; nothing if it could. */
export function Failure({ of }: { of: unknown }): ReactNode {
  if (of === null || of === undefined) return null;
  return (
    <p className="complaint" role="alert">
      {sentence(of instanceof Error ? of.message : 'it could not be done')}
    </p>
  );
}
function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;
}
