import { useState, type ReactNode } from 'react';
import { copyText } from '../clipboard.js';

/** A link or token that is shown this once. */
export function NewSecret({
  what,
  text,
  onDone,
}: {
  what: string;
  text: string;
  onDone: () => void;
}): ReactNode {
  const [copied, setCopied] = useState(false);
  return (
    <div className="newsecret" role="status">
      <p>
        <b>{what}</b> It is shown this once; copy it now.
      </p>
      <div className="row">
        <input
          className="line code"
          aria-label={what}
          readOnly
          autoFocus
          value={text}
          onFocus={(e) => e.target.select()}
        />
        <button
          type="button"
          className="tick"
          onClick={() => void copyText(text).then(() => setCopied(true))}
        >
          {copied ? 'Copied' : 'Copy'}
        </button>
        <button type="button" className="word" onClick={onDone}>
          Done
        </button>
      </div>
    </div>
  );
}
/** The link of an invitation. What stands after # is sent to no server and stands in no log. */
export function linkOf(secret: string): string {
  return `${window.location.origin}/join#${secret}`;
}
