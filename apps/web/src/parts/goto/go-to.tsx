import './go-to.css';
import { Dialog } from '@mui/material';
import { useId, useLayoutEffect, useMemo, useState, type KeyboardEvent, type ReactNode } from 'react';
import { forgetTyped, typedMeanwhile } from './go-to-loading.js';
import { useNavigate } from 'react-router';
import { useSessionState } from '../../session/session-context.js';
import { findNamed, namedThings } from './named-things.js';

const MOST = 60;

/** Goes to anything that has a name, by typing a part of it. */
export function GoTo({ onClose }: { onClose: () => void }): ReactNode {
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const [text, setText] = useState(typedMeanwhile);
  // What was typed until the moment at which this is here, and not again the next time.
  useLayoutEffect(() => {
    setText(typedMeanwhile());
    return forgetTyped;
  }, []);
  const [at, setAt] = useState(0);
  const listId = useId();
  const all = useMemo(() => namedThings(index), [index]);
  const found = useMemo(() => findNamed(all, text, MOST), [all, text]);
  const go = (i: number): void => {
    if (!found[i]) return;
    onClose();
    void navigate(`/p/${id}/${found[i].to}`);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
    else if (e.key === 'ArrowUp') setAt(Math.max(0, at - 1));
    else if (e.key === 'Enter') go(at);
    else return;
    e.preventDefault();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      transitionDuration={0}
      slotProps={{ paper: { className: 'goto', 'aria-label': 'Go to' } }}
    >
      <input
        className="line"
        role="combobox"
        aria-label="Go to"
        aria-expanded={found.length > 0}
        aria-controls={listId}
        aria-activedescendant={found.length > 0 ? `${listId}-${at}` : undefined}
        autoComplete="off"
        spellCheck={false}
        placeholder="Go to: a scene, thing, event, action, channel or binding"
        // The dialog is opened to type here.
        autoFocus
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <ul id={listId} role="listbox" aria-label="What was found">
        {found.map((named, i) => (
          <li
            key={`${named.kind}/${named.to}/${named.name}`}
            id={`${listId}-${i}`}
            role="option"
            aria-selected={i === at}
            ref={i === at ? (node) => node?.scrollIntoView({ block: 'nearest' }) : undefined}
            onClick={() => go(i)}
          >
            <b>{named.name}</b>
            <span className="soft">{named.about}</span>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="soft">No match.</p>}
    </Dialog>
  );
}
