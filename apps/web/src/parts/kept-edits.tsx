import './kept-edits.css';
import { useEffect, useState, type ReactNode } from 'react';
import { useSessionState } from '../session/session-context.js';
import { later } from './later.js';
import { countText } from '../format.js';

const KeptPanel = later(async () => (await import('./kept-panel.js')).KeptPanel);

/** Unsaved edits and do not wait for the server: a line that says so, and a panel where each can be sent or dropped. */
export function KeptEdits(): ReactNode {
  const { aside, found } = useSessionState();
  const [open, setOpen] = useState(false);
  const count = aside.length + found.length;
  useEffect(() => {
    if (count === 0) setOpen(false);
  }, [count]);
  if (count === 0) return null;
  return (
    <>
      <div className="keptbar" role="status">
        <span>
          {[
            found.length > 0 &&
              `${countText(found.length, 'edit')} from a closed window ${found.length === 1 ? 'is' : 'are'} not stored`,
            aside.length > 0 && `${countText(aside.length, 'edit')} set aside`,
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
        <button type="button" className="word" aria-haspopup="dialog" onClick={() => setOpen(true)}>
          Review
        </button>
      </div>
      {open && <KeptPanel onClose={() => setOpen(false)} />}
    </>
  );
}
