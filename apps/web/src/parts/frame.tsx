import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { leftAt } from '../session/last-place.js';
import { SessionProvider, useSession, useSessionState } from '../session/session-context.js';
import { AuditStrip } from './audit-strip.js';
import { GoToLoading } from './goto/go-to-loading.js';
import { GuideLink } from './guide-link.js';
import { later, loadLater } from './later.js';
import { Present } from './present.js';
import { whoIsIt } from '../session/who.js';
import { Sign } from './ui/signs.js';
import { WorkProgress } from './ui/work-progress.js';

const KeptEdits = later(async () => (await import('./kept-edits.js')).KeptEdits, { isUnasked: true });
const GoTo = later(async () => (await import('./goto/go-to.js')).GoTo, { meanwhile: GoToLoading });
const Shortcuts = later(async () => (await import('./goto/shortcuts.js')).Shortcuts);
const History = later(async () => (await import('./history.js')).History);
const Toasts = later(async () => (await import('./ui/toasts.js')).Toasts, { isUnasked: true });
const PersonMenu = later(async () => (await import('./person-menu.js')).PersonMenu);
const WalkAhead = later(async () => (await import('./walk-ahead.js')).WalkAhead, { isUnasked: true });
const ConflictPanel = later(async () => (await import('./conflict-panel.js')).ConflictPanel);

const VIEWS = ['Plan', 'Wire', 'Ripple', 'Crossings', 'Catalogue', 'Rehearse', 'Audit', 'Builds'] as const;

/** An open project: the title line, the view, and the audit strip. */
export function ProjectFrame(): ReactNode {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  return (
    <SessionProvider
      id={id}
      waiting={(step) => (
        <div className="middle">
          <WorkProgress what="Opening the project" step={step} onCancel={() => void navigate('/')} />
        </div>
      )}
      failed={(error, retry) => (
        <div className="middle" role="alert">
          <h1>This project cannot be opened</h1>
          <p>{error.message}</p>
          <p>
            <button type="button" className="tick" onClick={retry}>
              Try again
            </button>{' '}
            <Link to="/">All projects</Link>
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
  const { id, project, access, undo, redo, conflicts } = useSessionState();
  const [name, setName] = useState(whoIsIt);
  const person = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState<'goto' | 'shortcuts' | 'history' | 'person' | null>(null);
  useEffect(loadLater, []);
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
        {access?.role === 'reader' && (
          <span className="soft" title="You may look, rehearse and export; designers and leads edit">
            reader
          </span>
        )}
        <nav className="views" aria-label="Views">
          {VIEWS.map((view) => (
            <NavLink key={view} to={`/p/${id}/${view.toLowerCase()}`}>
              {view}
            </NavLink>
          ))}
        </nav>
        <div className="tools">
          <button
            type="button"
            className="signbutton"
            title="Find anything (Ctrl+K)"
            aria-label="Go to"
            onClick={() => setOpen('goto')}
          >
            <Sign of="find" />
          </button>
          <button
            type="button"
            className="signbutton"
            aria-label="Undo"
            disabled={undo === null}
            title={undo ? `Undo: ${undo} (Ctrl+Z)` : 'Nothing to undo'}
            onClick={() => session.step('undo')}
          >
            <Sign of="undo" />
          </button>
          <button
            type="button"
            className="signbutton"
            aria-label="Redo"
            disabled={redo === null}
            title={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
            onClick={() => session.step('redo')}
          >
            <Sign of="redo" />
          </button>
          <button
            type="button"
            className="signbutton"
            aria-label="History"
            title="History: who changed what"
            onClick={() => setOpen('history')}
          >
            <Sign of="history" />
          </button>
          <NavLink
            to={`/p/${id}/exchange`}
            title="Import and export: documents, folders, tables, lines, the graph"
          >
            Exchange
          </NavLink>
          <GuideLink path={pathname} />
          <Present />
          <button
            type="button"
            className="person"
            ref={person}
            title="Your name, theme and keyboard shortcuts"
            aria-haspopup="dialog"
            aria-expanded={open === 'person'}
            onClick={() => setOpen('person')}
          >
            <Sign of="person" />
            <span>{name || 'somebody'}</span>
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
      {open === 'person' && person.current && (
        <PersonMenu
          anchor={person.current}
          name={name}
          onName={setName}
          onShortcuts={() => setOpen('shortcuts')}
          onClose={() => setOpen(null)}
        />
      )}
      {conflicts.length > 0 && <ConflictPanel />}
      <Toasts />
      <WalkAhead />
    </div>
  );
}

/** A text field has its own undo. */
function isTextField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
  );
}
