import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSessionState } from '../session/session-context.js';
import { placeText } from './place-text.js';

/** The others who have the project open, each with a link to what they look at. */
export function PresentList({ anchor, onClose }: { anchor: HTMLElement; onClose: () => void }): ReactNode {
  const { id, present } = useSessionState();
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
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
            <Link to={`/p/${id}/${w.place}`} onClick={onClose}>
              {placeText(w.place)}
            </Link>
          </li>
        ))}
      </ul>
    </Popover>
  );
}
