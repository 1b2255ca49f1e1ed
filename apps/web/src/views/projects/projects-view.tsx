import './projects.css';
import { Button } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { importDocument, listProjects } from '../../api/client.js';
import { IncomingReport, UnfitReport } from '../../parts/incoming/incoming-report.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';
import { keptEntries } from '../../session/queue/browser-store.js';
import { countText } from '../../parts/ui/severity-mark.js';
import { readFile } from '../../parts/incoming/read-file.js';

/** All projects, and the way in for a new one. */
export function ProjectsView(): ReactNode {
  const { data, error, refetch, isPending } = useQuery({
    queryKey: ['projects'],
    queryFn: listProjects,
    retry: 1,
  });
  const kept = useQuery({ queryKey: ['kept'], queryFn: keptEntries, staleTime: 0 }).data;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [file, setFile] = useState('');
  useEffect(() => {
    document.title = 'Projects · Oquel';
  }, []);
  const cancel = useRef<AbortController | null>(null);
  const [came, setCame] = useState<{ incoming: Incoming } | { unfit: Unfit } | null>(null);
  const reading = useMutation({
    mutationFn: async (chosen: File) => {
      setFile(chosen.name);
      setCame(null);
      importing.reset();
      cancel.current = new AbortController();
      return readFile(chosen, cancel.current.signal);
    },
    onSuccess: (read) => setCame('problems' in read ? { unfit: read } : { incoming: read }),
  });
  const importing = useMutation({
    mutationFn: importDocument,
    onSuccess: async ({ id }) => {
      await queries.invalidateQueries({ queryKey: ['projects'] });
      await navigate(`/p/${id}/wire`);
    },
  });
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    setOver(false);
    const [dropped] = e.dataTransfer.files;
    if (dropped) reading.mutate(dropped);
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
        <div className="row" style={{ borderBottom: '1px solid var(--ink)', paddingBottom: 8 }}>
          <h1>
            <span style={{ letterSpacing: '0.22em' }}>OQUEL</span>{' '}
            <span className="soft" style={{ fontWeight: 400, fontSize: 18 }}>
              projects
            </span>
          </h1>
          <span className="grow" />
          <input
            ref={input}
            type="file"
            accept=".json,.zip,application/json"
            hidden
            aria-label="Project document to import"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              if (chosen) reading.mutate(chosen);
            }}
          />
          <Button
            variant="contained"
            disabled={reading.isPending || importing.isPending}
            onClick={() => input.current?.click()}
          >
            {importing.isPending ? 'Importing ...' : reading.isPending ? 'Reading ...' : 'Import a document'}
          </Button>
          {reading.isPending && <Button onClick={() => cancel.current?.abort()}>Cancel</Button>}
        </div>
        {reading.error && (
          <UnfitReport file={file} unfit={{ message: reading.error.message, problems: [] }} />
        )}
        {importing.error && (
          <UnfitReport file={file} unfit={{ message: importing.error.message, problems: [] }} />
        )}
        {came && 'unfit' in came && <UnfitReport file={file} unfit={came.unfit} />}
        {came && 'incoming' in came && (
          <div className="came">
            <IncomingReport file={file} incoming={came.incoming} comparison={null}>
              <Button
                variant="contained"
                disabled={importing.isPending}
                onClick={() => importing.mutate(came.incoming.text)}
              >
                Store it as a new project
              </Button>
              <Button onClick={() => setCame(null)}>Leave it</Button>
              {data?.some((p) => p.name === came.incoming.project.name) && (
                <span className="soft">
                  There is a project of that name; to compare this one with it, open it and go to Exchange.
                </span>
              )}
            </IncomingReport>
          </div>
        )}
        {isPending && <p className="soft">Looking for projects ...</p>}
        {error && (
          <div className="notice" role="alert">
            <b>The projects cannot be listed:</b> {error.message}.{' '}
            <button type="button" className="word" onClick={() => void refetch()}>
              Try again
            </button>
          </div>
        )}
        {data?.length === 0 && (
          <p className="soft">
            There is no project yet. Import a document or a zip of its folder form, or drop one anywhere on
            this page.
          </p>
        )}
        {data?.map((p) => (
          <div className="projectrow" key={p.id}>
            <Link className="name" to={`/p/${p.id}/wire`}>
              {p.name}
            </Link>
            <span className="soft">
              {kept?.has(p.id) && (
                <Link className="unstored" to={`/p/${p.id}/wire`}>
                  {countText(kept.get(p.id)!, 'edit')} not stored
                </Link>
              )}{' '}
              version {p.version}, changed {new Date(p.updatedAt).toLocaleString('en-GB')}
            </span>
            <Link to={`/p/${p.id}/audit`}>Audit</Link>
          </div>
        ))}
      </div>
    </main>
  );
}
