import { namesText } from '@oquel/core';
import type { ReactNode } from 'react';

interface Props {
  rule: string;
  wanted: string;
  known: readonly string[];
}

/** A finding about a name: the few names that are most like the missing one, or what is wrong with the one that is there. */
export function NamesView({ rule, wanted, known }: Props): ReactNode {
  if (rule === 'name-style') {
    return (
      <p>
        The name <b className="mono">{wanted}</b> does not match the pattern{' '}
        <b className="mono">{known.join(', ')}</b>.
      </p>
    );
  }
  if (rule === 'nesting-loop') {
    return (
      <p>
        Each contains the next: <b className="mono">{[...known, wanted].join(' > ')}</b>.
      </p>
    );
  }
  const { near, rest } = namesText(wanted, known);
  return (
    <p>
      <b className="mono">{wanted}</b> is not declared.{' '}
      {near.length > 0 && (
        <>
          {near.length === 1 ? 'The nearest name is' : 'The nearest names are'}{' '}
          <span className="mono">{near.join(', ')}</span>.{' '}
        </>
      )}
      {rest}
    </p>
  );
}
