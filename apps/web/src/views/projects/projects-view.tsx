import './projects.css';
import { Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState, type DragEvent, type ReactNode } from 'react';
import { Link } from 'react-router';
import { listProjects, type ProjectLine } from '../../api/client.js';
import { AccountLinks } from '../../parts/team/page.js';
import { signedHere } from '../../session/signed.js';
import { keptEntries } from '../../session/queue/browser-store.js';
import { NewProject } from './new-project.js';
import { useProjectImport } from './project-import.js';
import { ProjectRow } from './project-row.js';
import { SORTS, sortProjects, type Sort } from './sort-projects.js';
import { useGates } from './use-gates.js';
import { copyName, useProjectActions } from './use-project-actions.js';

const STATES = { open: 'Projects', archived: 'Archived', deleted: 'Bin' } as const;
/** Who has a project open changes without anybody here doing anything. */
const AGAIN_MS = 10_000;

/** All projects: which needs work, who changed it last, who is in it; and every way to a new one. */
export function ProjectsView(): ReactNode {
  const { data, error, refetch, isPending } = useQuery({
    queryKey: ['projects'],
    queryFn: listProjects,
    retry: 1,
    refetchInterval: AGAIN_MS,
  });
  const kept = useQuery({ queryKey: ['kept'], queryFn: keptEntries, staleTime: 0 }).data;
  const [state, setState] = useState<keyof typeof STATES>('open');
  const [text, setText] = useState('');
  const [sort, setSort] = useState<Sort>('changed');
  const [making, setMaking] = useState(false);
  const [over, setOver] = useState(false);
  const names = useMemo(() => new Set(data?.map((p) => p.name)), [data]);
  const actions = useProjectActions();
  const incoming = useProjectImport(names);
  useGates(data);
  useEffect(() => {
    document.title = 'Projects · Oquel';
  }, []);
  const count = (s: keyof typeof STATES): number => data?.filter((p) => p.state === s).length ?? 0;
  const shown = useMemo(() => sortProjects(data ?? [], state, text, sort), [data, state, text, sort]);
  const open = data?.filter((p) => p.state === 'open') ?? [];
  const failed = actions.rename.error ?? actions.duplicate.error ?? actions.state.error;
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    setOver(false);
    const [dropped] = e.dataTransfer.files;
    if (dropped) incoming.read(dropped);
  };
  return (
    <main
      style={{ minHeight: '100%', boxShadow: over ? 'inset 0 0 0 4px var(--accent)' : undefined }}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <div className="pagecard">
        <div className="row projectshead">
          <h1>
            <span style={{ letterSpacing: '0.22em' }}>OQUEL</span>
          </h1>
          {(Object.keys(STATES) as (keyof typeof STATES)[]).map((s) => (
            <button
              key={s}
              type="button"
              className="tick"
              aria-pressed={state === s}
              onClick={() => setState(s)}
            >
              {STATES[s]} {count(s)}
            </button>
          ))}
          <input
            className="line"
            type="search"
            aria-label="Search projects"
            placeholder="Search"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <label className="soft">
            Sort by{' '}
            <select className="line" value={sort} onChange={(e) => setSort(e.target.value as Sort)}>
              {Object.entries(SORTS).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <span className="grow" />
          {incoming.button}
          <Button variant="contained" onClick={() => setMaking(true)}>
            New project
          </Button>
          <a href="/guide/first-hour.html" target="_blank" rel="noreferrer">
            Guide
          </a>
          <AccountLinks />
        </div>
        {making && (
          <NewProject
            projects={open}
            making={actions.make.isPending}
            fault={actions.make.error?.message ?? ''}
            onMake={(beginning) => actions.make.mutate(beginning)}
            onClose={() => setMaking(false)}
          />
        )}
        {incoming.report}
        {failed && (
          <div className="notice" role="alert">
            <b>This could not be done:</b> {failed.message}.
          </div>
        )}
        <Done action={actions.state} />
        {isPending && <p className="soft">Loading projects ...</p>}
        {error && (
          <div className="notice" role="alert">
            <b>The projects cannot be listed:</b> {error.message}.{' '}
            <button type="button" className="word" onClick={() => void refetch()}>
              Try again
            </button>
          </div>
        )}
        <ul className="projectlist" aria-label={STATES[state]}>
          {shown.map((p) => (
            <ProjectRow
              key={p.id}
              project={p}
              unsaved={kept?.get(p.id) ?? 0}
              onRename={(name) => actions.rename.mutate({ project: p, name })}
              onDuplicate={() => actions.duplicate.mutate({ project: p, name: copyName(p.name, names) })}
              onState={(to) => actions.state.mutate({ project: p, state: to })}
            />
          ))}
        </ul>
        {state === 'deleted' && mayThin() && (
          <p>
            <Link to="/retention">Remove old history and builds, too</Link>
          </p>
        )}
        {data && shown.length === 0 && (
          <EmptyList state={state} searched={text.trim() !== ''} onNew={() => setMaking(true)} />
        )}
      </div>
    </main>
  );
}

/** Where nobody signs in, whoever is here looks after the server. */
function mayThin(): boolean {
  const { team, account } = signedHere();
  return !team || account?.isAdministrator === true;
}

function EmptyList({
  state,
  searched,
  onNew,
}: {
  state: keyof typeof STATES;
  searched: boolean;
  onNew: () => void;
}): ReactNode {
  if (searched) return <p className="soft">No project has that name.</p>;
  if (state === 'archived') return <p className="soft">Nothing is archived.</p>;
  if (state === 'deleted') {
    return <p className="soft">The bin is empty. Deleted projects can be restored from here.</p>;
  }
  return (
    <p className="soft">
      No projects yet.{' '}
      <button type="button" className="word" onClick={onNew}>
        Start a new one
      </button>
      , or import a document: drop one anywhere on this page.
    </p>
  );
}

/** What was done to a project last, and the way back. */
function Done({ action }: { action: ReturnType<typeof useProjectActions>['state'] }): ReactNode {
  const { variables, isSuccess, mutate } = action;
  if (!isSuccess || !variables) return null;
  const { project, state } = variables;
  const words: Record<ProjectLine['state'], string> = {
    open: 'was restored',
    archived: 'is archived',
    deleted: 'is in the bin',
  };
  return (
    <div className="notice" role="status">
      <b>{project.name}</b> {words[state]}.{' '}
      {state !== 'open' && (
        <button type="button" className="word" onClick={() => mutate({ project, state: 'open' })}>
          Undo
        </button>
      )}
    </div>
  );
}
