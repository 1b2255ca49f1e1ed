import { useEffect, useState, type ReactNode } from 'react';
import { Link, NavLink, Outlet, useLocation, useParams } from 'react-router';
import { Button } from '@mui/material';
import { leftAt } from '../session/last-place.js';
import { SessionProvider, useSession, useSessionState } from '../session/session-context.js';
import { AuditStrip } from './audit-strip.js';
import { useColorMode } from './color-mode.js';
import { ConflictPanel } from './conflict-panel.js';
import { GoTo } from './goto/go-to.js';
import { Shortcuts } from './goto/shortcuts.js';
import { History } from './history.js';
import { KeptEdits } from './kept-edits.js';
import { NameField } from './name-field.js';
import { Present } from './present.js';
import { Toasts } from './ui/toasts.js';

const VIEWS = ['Plan', 'Wire', 'Ripple', 'Crossings', 'Catalogue', 'Rehearse', 'Audit', 'Builds'] as const;

/** An open project: the title line, the view, and the audit strip. */
export function ProjectFrame(): ReactNode {
  const { id = '' } = useParams();
  return (
    <SessionProvider
      id={id}
      waiting={<div className="middle">Opening the project ...</div>}
      failed={(error, retry) => (
        <div className="middle" role="alert">
          <h1>This project cannot be opened</h1>
          <p>{error.message}</p>
          <p>
            <Button variant="contained" onClick={retry}>
              Try again
            </Button>{' '}
            <Button component={Link} to="/">
              All projects
            </Button>
          </p>
        </div>
      )}
    >
      <Frame />
    </SessionProvider>
  );
}

function Frame(): ReactNode {
  const session = useSession();
  const { id, project, undo, redo } = useSessionState();
  const { mode, toggle } = useColorMode();
  const [open, setOpen] = useState<'goto' | 'shortcuts' | 'history' | null>(null);
  useEffect(() => {
    document.title = `${project.name} · Oquel`;
  }, [project.name]);
  const { pathname, search } = useLocation();
  useEffect(() => leftAt(id, pathname + search), [id, pathname, search]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const key = e.key.toLowerCase();
      const ctrl = e.ctrlKey || e.metaKey;
      if (ctrl && key === 'k') {
        e.preventDefault();
        setOpen('goto');
      }
      if (isTextField(e.target)) return;
      if (e.key === '?') setOpen('shortcuts');
      if (!ctrl) return;
      if (key !== 'z' && key !== 'y') return;
      e.preventDefault();
      session.step(key === 'y' || e.shiftKey ? 'redo' : 'undo');
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [session]);
  return (
    <div className="frame">
      <header className="titleline">
        <a className="skip" href="#view">
          Skip to the view
        </a>
        <Link className="brand" to="/" title="All projects">
          OQUEL
        </Link>
        <span className="project" title={project.name}>
          {project.name}
        </span>
        <nav className="views" aria-label="Views">
          {VIEWS.map((view) => (
            <NavLink key={view} to={`/p/${id}/${view.toLowerCase()}`}>
              {view}
            </NavLink>
          ))}
        </nav>
        <div className="tools">
          <button type="button" className="word" title="Ctrl+K" onClick={() => setOpen('goto')}>
            Go to
          </button>
          <button
            type="button"
            className="word"
            title="Shortcuts"
            aria-label="Shortcuts"
            onClick={() => setOpen('shortcuts')}
          >
            ?
          </button>
          <button
            type="button"
            className="word"
            disabled={undo === null}
            title={undo ? `Undo: ${undo} (Ctrl+Z)` : 'Nothing to undo'}
            onClick={() => session.step('undo')}
          >
            Undo
          </button>
          <button
            type="button"
            className="word"
            disabled={redo === null}
            title={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
            onClick={() => session.step('redo')}
          >
            Redo
          </button>
          <button type="button" className="word" onClick={() => setOpen('history')}>
            History
          </button>
          <NavLink
            to={`/p/${id}/exchange`}
            title="Import and export: documents, folders, tables, lines, the graph"
          >
            Exchange
          </NavLink>
          <Present />
          <NameField />
          <button
            type="button"
            className="word"
            onClick={toggle}
            aria-label={`Use the ${mode === 'dark' ? 'light' : 'dark'} ground`}
          >
            {mode === 'dark' ? 'Light' : 'Dark'}
          </button>
        </div>
      </header>
      <main id="view" style={{ minHeight: 0, display: 'grid' }}>
        <Outlet />
      </main>
      <KeptEdits />
      <AuditStrip />
      {open === 'goto' && <GoTo onClose={() => setOpen(null)} />}
      {open === 'history' && <History onClose={() => setOpen(null)} />}
      {open === 'shortcuts' && <Shortcuts onClose={() => setOpen(null)} />}
      <ConflictPanel />
      <Toasts />
    </div>
  );
}

/** A text field has its own undo. */
function isTextField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
  );
}
