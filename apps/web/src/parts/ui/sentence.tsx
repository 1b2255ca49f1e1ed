import { printFrom, printOptions, toParts, type Binding } from '@oquel/core';
import type { ReactNode } from 'react';

/** Who does what, and how: the part of a binding's sentence after its event. */
export function SaidSentence({ binding }: { binding: Binding }): ReactNode {
  return (
    <>
      {toParts(binding).map((part, i) =>
        part.role === 'receiver' || part.role === 'channel' ? (
          <span key={i}>
            {part.role === 'channel' && 'publish to '}
            <span className="who">{part.text === '.' ? 'itself' : part.text}</span>{' '}
          </span>
        ) : part.role === 'args' ? (
          <span className="args" key={i}>
            {' '}
            {part.text}
          </span>
        ) : (
          <span key={i}>{part.text}</span>
        ),
      )}
      {printOptions(binding).map((option) => (
        <span className="option" key={option}>
          {option}
        </span>
      ))}
    </>
  );
}

/** The whole of it, with who says what. */
export function WholeSentence({ binding }: { binding: Binding }): ReactNode {
  return (
    <span className="whole">
      <span className="soft">when</span> <span className="mono">{printFrom(binding)}</span>{' '}
      <span className="soft">do</span> <SaidSentence binding={binding} />
    </span>
  );
}
