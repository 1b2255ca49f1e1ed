import './present.css';
import { Popover } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSessionState } from '../session/session-context.js';
import { placeText } from './place-text.js';
import { countText } from './ui/severity-mark.js';

/** Who else has the project open, and where; leads to what they look at. */
export function Present(): ReactNode {
  const { id, present } = useSessionState();
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
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        transitionDuration={0}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { className: 'present', role: 'dialog', 'aria-label': 'Also here' } }}
      >
        <h2>Also here</h2>
        {present.length === 0 && <p>Nobody else is here now.</p>}
        <ul>
          {present.map((w) => (
            <li key={w.client}>
              <b>{w.who}</b>
              <Link to={`/p/${id}/${w.place}`} onClick={() => setAnchor(null)}>
                {placeText(w.place)}
              </Link>
            </li>
          ))}
        </ul>
      </Popover>
    </>
  );
}
