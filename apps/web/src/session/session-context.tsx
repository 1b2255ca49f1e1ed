import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { createContext, use, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { openProject } from '../api/client.js';
import type { Auditor } from '../workers/auditor.js';
import { whoIsIt } from './who.js';
import { ProjectSession, type SessionState } from './project-session.js';

const SessionContext = createContext<ProjectSession | null>(null);

/** Opens a project with its audit worker; both end when the project is left. */
export function SessionProvider({
  id,
  waiting,
  failed,
  children,
}: {
  id: string;
  waiting: ReactNode;
  failed: (error: Error, retry: () => void) => ReactNode;
  children: ReactNode;
}): ReactNode {
  const { data, error, refetch } = useQuery({
    queryKey: ['project', id],
    queryFn: () => openProject(id),
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const [session, setSession] = useState<ProjectSession | null>(null);
  useEffect(() => {
    if (!data) return;
    const worker = new Worker(new URL('../workers/audit.worker.ts', import.meta.url), { type: 'module' });
    const auditor: Remote<Auditor> = wrap<Auditor>(worker);
    const next = new ProjectSession(data, auditor, whoIsIt);
    setSession(next);
    const onFocus = (): void => void next.catchUp();
    window.addEventListener('focus', onFocus);
    return () => {
      window.removeEventListener('focus', onFocus);
      next.close();
      worker.terminate();
      setSession(null);
    };
  }, [data]);
  if (error) return failed(error, () => void refetch());
  if (!session) return waiting;
  return <SessionContext value={session}>{children}</SessionContext>;
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
