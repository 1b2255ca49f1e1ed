import './kept-edits.css';
import { Dialog } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';
import { countText } from './ui/severity-mark.js';

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
      {open && <Panel onClose={() => setOpen(false)} />}
    </>
  );
}

function Panel({ onClose }: { onClose: () => void }): ReactNode {
  const session = useSession();
  const { aside, found } = useSessionState();
  return (
    <Dialog
      open
      onClose={onClose}
      transitionDuration={0}
      maxWidth={false}
      slotProps={{ paper: { className: 'kept', 'aria-label': 'Unsaved edits' } }}
    >
      <h2>Unsaved edits</h2>
      {found.length > 0 && (
        <section aria-label="From a closed window">
          <p>A window was closed before the server had {found.length === 1 ? 'this edit' : 'these edits'}:</p>
          <Labels labels={found} />
          <div className="row">
            <button type="button" className="tick" autoFocus onClick={() => session.takeFound('send')}>
              {found.length === 1 ? 'Store it' : 'Store them'}
            </button>
            <button type="button" className="tick" onClick={() => session.takeFound('drop')}>
              Discard {found.length === 1 ? 'it' : 'them'}
            </button>
          </div>
        </section>
      )}
      {aside.map(({ group, labels, words }) => (
        <section key={group} aria-label={`Set aside: ${labels.join('; ')}`}>
          <Labels labels={labels} />
          <p className="soft">{words}</p>
          <div className="row">
            <button type="button" className="tick" onClick={() => session.retryAside(group)}>
              Try again
            </button>
            <button type="button" className="tick" onClick={() => session.dropAside(group)}>
              Discard
            </button>
          </div>
        </section>
      ))}
      <div className="row">
        <span className="grow" />
        <button type="button" className="tick" onClick={onClose}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
function Labels({ labels }: { labels: readonly string[] }): ReactNode {
  return (
    <ul>
      {labels.slice(0, 20).map((label, i) => (
        <li key={i}>{label}</li>
      ))}
      {labels.length > 20 && <li className="soft">and {labels.length - 20} more</li>}
    </ul>
  );
}
