import { useEffect, useState, type ReactNode } from 'react';
import { useSession } from '../../session/session-context.js';
import type { Notice } from '../../session/session-state.js';

/** What the session has to say, until it is put away; the newest three. */
export function Toasts(): ReactNode {
  const session = useSession();
  const [notices, setNotices] = useState<(Notice & { id: number })[]>([]);
  useEffect(
    () =>
      session.onNotice((n) =>
        setNotices((old) => [...old, { ...n, id: Date.now() + Math.random() }].slice(-3)),
      ),
    [session],
  );
  return (
    <div className="toasts" role="status" aria-live="polite">
      {notices.map((n) => (
        <div className="toast" key={n.id}>
          <span>{n.text}</span>
          <button type="button" onClick={() => setNotices((old) => old.filter((o) => o.id !== n.id))}>
            Dismiss
          </button>
        </div>
      ))}
    </div>
  );
}
