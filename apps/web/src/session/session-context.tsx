import type { WorkStep } from '@oquel/core';
import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { createContext, use, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { openedText, type OpenedProject } from '../api/client.js';
import { tenthsText } from '../format.js';
import type { Auditor } from '../workers/auditor.js';
import { LoadingWorker } from '../workers/loading-worker.js';
import { accessTo, NoRole, type Access } from './access.js';
import { beginAudit } from './begun-audit.js';
import { CollaborationHub } from './collaboration/collaboration-hub.js';
import { browserStore } from './queue/browser-store.js';
import { whoIsIt } from './who.js';
import { Watched } from './watched.js';
import { thisAuthor, thisWindow, type ThisWindow } from './windows.js';
import { ProjectSession } from './project-session.js';
import type { SessionState } from './session-state.js';

const SessionContext = createContext<ProjectSession | null>(null);

interface Fetched {
  /** The JSON text of an opened project, until it is parsed. */
  project: string | OpenedProject;
  here: ThisWindow;
  access: Access | null;
}

/** Opens a project with its audit worker; both end when the project is left. */
export function SessionProvider({
  id,
  waiting,
  failed,
  children,
}: {
  id: string;
  /** While it is fetched: how much has come, once that is known. */
  waiting: (step: WorkStep | null) => ReactNode;
  failed: (error: Error, retry: () => void) => ReactNode;
  children: ReactNode;
}): ReactNode {
  const [fetched, setFetched] = useState<WorkStep | null>(null);
  const { data, error, refetch } = useQuery({
    queryKey: ['project', id],
    queryFn: async ({ signal }): Promise<Fetched> => {
      const access = accessTo(id);
      access.catch(() => undefined);
      const project = await openedText(id, thisAuthor(), signal, paced(setFetched));
      return { project, here: await thisWindow(), access: await access };
    },
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const [session, setSession] = useState<ProjectSession | null>(null);
  const [link, setLink] = useState<CollaborationHub | null>(null);
  const [lost, setLost] = useState<Error | null>(null);
  const auditor = useAuditor(id);
  useEffect(() => {
    if (!data || !auditor) return;
    const { here, access } = data;
    let isOpen = true;
    // The worker parses the text at the same time.
    const audit =
      typeof data.project === 'string'
        ? beginAudit(auditor, data.project, new Watched<WorkStep | null>(null), () => isOpen)
        : undefined;
    let opened;
    try {
      opened = openedIn(data);
    } catch (error) {
      setLost(new Error('The server’s answer is not a project.', { cause: error }));
      return;
    }
    const next = new ProjectSession(opened, auditor, {
      audit,
      client: here.id,
      author: thisAuthor(),
      who: whoIsIt,
      store: browserStore(id),
      access,
    });
    // What one may do has changed when the stream of events is ended; or the server is away, and nothing is known.
    const look = (): void => {
      accessTo(id).then(
        (is) => next.heardAccess(is),
        (error: unknown) => error instanceof NoRole && setLost(error),
      );
    };
    setSession(next);
    void next.takeUp(here.isLive);
    const place = (): string => placeNow(id);
    const link = new CollaborationHub(id, here.id, whoIsIt, place, {
      version: (version) => next.heardVersion(version),
      present: (windows) => next.heardPresent(windows),
      builds: () => next.heardBuilds(),
      plays: () => next.heardPlays(),
      connected: (is) => {
        next.heardConnected(is);
        if (!is) look();
      },
    });
    setLink(link);
    const onFocus = (): void => next.newDay();
    const onLeave = (e: BeforeUnloadEvent): void => {
      // What is kept outlives the window and is found again.
      if (next.getState().unkept) e.preventDefault();
    };
    window.addEventListener('focus', onFocus);
    window.addEventListener('beforeunload', onLeave);
    return () => {
      window.removeEventListener('focus', onFocus);
      window.removeEventListener('beforeunload', onLeave);
      link.close();
      setLink(null);
      next.close();
      isOpen = false;
      setSession(null);
    };
  }, [data, id, auditor]);
  const { pathname, search } = useLocation();
  const here = useDebounced(`${pathname}${search}`);
  useEffect(() => link?.moved(), [link, here]);
  if (lost) return failed(lost, () => window.location.reload());
  if (error) return failed(error, () => void refetch());
  if (!session) return waiting(fetched);
  return <SessionContext value={session}>{children}</SessionContext>;
}

/** The audit worker of a project: its program is loaded while the project is fetched. Null before it is there. */
function useAuditor(id: string): Remote<Auditor> | null {
  const [auditor, setAuditor] = useState<Remote<Auditor> | null>(null);
  useEffect(() => {
    const worker = new LoadingWorker(
      () => new Worker(new URL('../workers/audit.worker.ts', import.meta.url), { type: 'module' }),
    );
    const remote: Remote<Auditor> = wrap<Auditor>(worker);
    // A remote can be called: it is not to be taken for a function that makes the next state.
    setAuditor(() => remote);
    return () => {
      worker.terminate();
      setAuditor(null);
    };
  }, [id]);
  return auditor;
}
/** What was fetched, parsed once. */
function openedIn(fetched: Fetched): OpenedProject {
  if (typeof fetched.project === 'string') fetched.project = JSON.parse(fetched.project) as OpenedProject;
  return fetched.project;
}

export function useSession(): ProjectSession {
  const session = use(SessionContext);
  if (!session) throw new Error('no project is open here');
  return session;
}
export function useSessionState(): SessionState {
  const session = useSession();
  return useSyncExternalStore(session.subscribe, session.getState);
}

const MIB = 1024 * 1024;
const SHOWN_EACH_MS = 100;
/** Shows how much of a project has come, not oftener than it can be read. */
function paced(show: (step: WorkStep) => void): (bytes: number, of: number) => void {
  let shown = -Infinity;
  return (bytes, of) => {
    if (of === 0 || performance.now() - shown < SHOWN_EACH_MS) return;
    shown = performance.now();
    const doing = `${tenthsText(bytes / MIB)} of ${tenthsText(of / MIB)} MiB`;
    show({ doing, done: Math.min(bytes, of), of });
  };
}
/** What the window looks at: the address from the project on. */
function placeNow(id: string): string {
  const { pathname, search } = window.location;
  return `${pathname.replace(`/p/${id}/`, '')}${search}`.slice(0, 2000);
}
/** A value once it has not changed for a moment. */
function useDebounced(value: string): string {
  const [calm, setCalm] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(value), 600);
    return () => clearTimeout(timer);
  }, [value]);
  return calm;
}
