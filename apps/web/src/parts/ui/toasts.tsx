import './toasts.css';
import { Button, Snackbar, SnackbarContent } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { useSession } from '../../session/session-context.js';
import type { Notice } from '../../session/session-state.js';

/** So many are shown at a time. */
const MOST = 3;

/** What the session has to say, until it is dismissed; the newest three. */
export function Toasts(): ReactNode {
  const session = useSession();
  const [notices, setNotices] = useState<(Notice & { id: number })[]>([]);
  useEffect(() => {
    let last = 0;
    return session.onNotice((n) => setNotices((old) => [...old, { ...n, id: ++last }].slice(-MOST)));
  }, [session]);
  return (
    <Snackbar open={notices.length > 0} anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}>
      <div className="toasts">
        {notices.map((n) => (
          <SnackbarContent
            key={n.id}
            className="toast"
            message={n.text}
            action={
              <Button color="inherit" onClick={() => setNotices((old) => old.filter((o) => o.id !== n.id))}>
                Dismiss
              </Button>
            }
          />
        ))}
      </div>
    </Snackbar>
  );
}
