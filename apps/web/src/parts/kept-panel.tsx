import { Dialog } from '@mui/material';
import type { ReactNode } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';

/** Edits that wait for a decision: each can be sent again or discarded. */
export function KeptPanel({ onClose }: { onClose: () => void }): ReactNode {
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
