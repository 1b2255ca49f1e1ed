import './present.css';
import { useState, type ReactNode } from 'react';
import { useSessionState } from '../session/session-context.js';
import { later } from './later.js';
import { countText } from '../format.js';

const PresentList = later(async () => (await import('./present-list.js')).PresentList);

/** Who else has the project open, and where; leads to what they look at. */
export function Present(): ReactNode {
  const { present } = useSessionState();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  // An open list stays while the last of the others goes, or only reloads.
  if (present.length === 0 && !anchor) return null;
  return (
    <>
      <button
        type="button"
        className="word others"
        aria-haspopup="dialog"
        title="Who else has this project open"
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        +{present.length}
        <span className="unseen"> {countText(present.length, 'other window')} of this project</span>
      </button>
      {anchor && <PresentList anchor={anchor} onClose={() => setAnchor(null)} />}
    </>
  );
}
