import './history.css';
import type { Change } from '@oquel/core';
import { Dialog } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { editsAfter } from '../api/client.js';
import { useSession, useSessionState } from '../session/session-context.js';
import { momentText } from '../format.js';

const MOST = 300;
const KIND = { edit: '', undo: 'undone: ', redo: 'redone: ' } as const;

/** Who did what, and when, the newest first; filtered by a word of it. */
export function History({ onClose }: { onClose: () => void }): ReactNode {
  const session = useSession();
  const { id, index } = useSessionState();
  const [text, setText] = useState('');
  const [scope, setScope] = useState('');
  const from = Math.max(0, session.storedVersion - MOST);
  const { data, error, refetch } = useQuery({
    queryKey: ['history', id, session.storedVersion],
    queryFn: async () => (await editsAfter(id, from)).edits,
    retry: false,
  });
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = [...(data ?? [])]
    .reverse()
    .filter((e) => scope === '' || e.changes.some((c) => concerns(c, scope)))
    .filter((e) => words.every((w) => `${e.who} ${e.label}`.toLowerCase().includes(w)));
  return (
    <Dialog
      open
      onClose={onClose}
      transitionDuration={0}
      maxWidth={false}
      slotProps={{ paper: { className: 'history', 'aria-label': 'History' } }}
    >
      <div className="row">
        <h2>History</h2>
        <input
          className="line"
          aria-label="Filter the history"
          placeholder="who or what"
          // The dialog is opened to look for something.
          autoFocus
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <select
          className="line"
          aria-label="Edits of"
          value={scope}
          onChange={(e) => setScope(e.target.value)}
        >
          <option value="">everything</option>
          {index.assets.map((a) => (
            <option key={a.decl.id}>{a.decl.id}</option>
          ))}
        </select>
        <span className="grow" />
        <button type="button" className="tick" onClick={onClose}>
          Close
        </button>
      </div>
      {error && (
        <p role="alert">
          The history cannot be read: {error.message}.{' '}
          <button type="button" className="word" onClick={() => void refetch()}>
            Try again
          </button>
        </p>
      )}
      {!error && !data && <p className="soft">Loading the history ...</p>}
      <ol tabIndex={0} aria-label="Edits, the newest first">
        {shown.map((e) => (
          <li key={e.version}>
            <time dateTime={e.at}>{momentText(e.at)}</time>
            <b>{e.who}</b>
            <span>
              {KIND[e.kind]}
              {e.label}
            </span>
            {e.kind === 'edit' && e.inForce && (
              <button
                type="button"
                className="word"
                aria-label={`Undo: ${e.label}`}
                onClick={() => session.takeBack(e.version, e.label)}
              >
                Undo this
              </button>
            )}
          </li>
        ))}
      </ol>
      {data && shown.length === 0 && (
        <p className="soft">{data.length === 0 ? 'Nothing has been edited yet.' : 'No edit matches.'}</p>
      )}
      {from > 0 && <p className="soft">The last {MOST} are shown.</p>}
    </Dialog>
  );
}

function concerns(change: Change, asset: string): boolean {
  return change.op === 'add' ? change.item.id === asset : change.asset === asset;
}
