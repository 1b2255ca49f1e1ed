import './conflict-panel.css';
import { Dialog } from '@mui/material';
import { useMemo, type ReactNode } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';
import { conflictVersionsOf } from './conflict-versions.js';
import { countText } from '../format.js';
import { Cell, DataTable, Row } from './ui/data-table.js';

/** Both sides of an edit that met somebody else's, and the choice between them. */
export function ConflictPanel(): ReactNode {
  const session = useSession();
  const { conflicts } = useSessionState();
  const conflict = conflicts.at(0);
  const sides = useMemo(() => (conflict ? conflictVersionsOf(conflict) : []), [conflict]);
  if (!conflict) return null;
  const { label, theirs } = conflict;
  const last = theirs[theirs.length - 1];
  return (
    <Dialog
      open
      transitionDuration={0}
      maxWidth={false}
      slotProps={{ paper: { className: 'conflict', 'aria-label': 'Edit conflict' } }}
    >
      <h2>
        {last.who} changed the same thing{theirs.length > 1 && ` (${countText(theirs.length, 'edit')})`}
      </h2>
      <p>
        Your edit is not stored: <b>{label}</b>. Meanwhile there was: <b>{last.label}</b>.
      </p>
      {sides.length > 0 ? (
        <div className="scroll" tabIndex={0} role="group" aria-label="Both sides">
          <DataTable heads={['what', `${last.who}’s`, 'yours']}>
            {sides.map((s) => (
              <Row key={`${s.asset}/${s.id}`}>
                <Cell className="mono">
                  {s.asset} {s.id}
                </Cell>
                <Cell>{s.theirs ?? <i>not there</i>}</Cell>
                <Cell>{s.yours ?? <i>not there</i>}</Cell>
              </Row>
            ))}
          </DataTable>
        </div>
      ) : (
        <p className="soft">
          What yours was about has gone or changed so that it cannot be shown beside theirs. It may not be
          possible to do it again.
        </p>
      )}
      <div className="row">
        <button type="button" className="tick" autoFocus onClick={() => session.settle('theirs')}>
          Keep {last.who}’s
        </button>
        <button type="button" className="tick" onClick={() => session.settle('mine')}>
          Use mine
        </button>
        <span className="soft">If you keep {last.who}’s, your edit is set aside and can be tried again.</span>
        {conflicts.length > 1 && <span className="soft">{conflicts.length - 1} more after this one.</span>}
      </div>
    </Dialog>
  );
}
