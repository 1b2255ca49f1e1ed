import { useState, type ReactNode } from 'react';
import { iAm, whoIsIt } from '../session/who.js';

/** The name under which edits are kept in the history. */
export function NameField(): ReactNode {
  const [name, setName] = useState(whoIsIt);
  return (
    <input
      className="line who"
      aria-label="Your name in the history"
      title="Your name in the history"
      value={name}
      maxLength={100}
      onChange={(e) => {
        setName(e.target.value);
        iAm(e.target.value);
      }}
    />
  );
}
