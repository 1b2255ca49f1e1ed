import { useState, type ReactNode } from 'react';

/** An action that the chosen receivers do not have yet: declared and wired by one line. */
export function DeclareAction({ onDeclare }: { onDeclare: (text: string) => string | null }): ReactNode {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  return (
    <div className="part">
      <div className="row">
        <span className="lead">New</span>
        <input
          className="line code"
          style={{ flex: 1 }}
          aria-label="Declare an action and wire it"
          aria-invalid={fault !== null}
          placeholder="light(colour: string)"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setFault(null);
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' || text.trim() === '') return;
            e.preventDefault();
            e.stopPropagation();
            setFault(onDeclare(text.trim()));
          }}
        />
      </div>
      {fault !== null && (
        <div className="complaint" role="alert">
          {fault}
        </div>
      )}
    </div>
  );
}
