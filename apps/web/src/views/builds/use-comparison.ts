import { useQuery as useServer } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { buildText, type Build } from '../../api/client.js';
import { useWork, type Work } from '../../parts/ui/use-work.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { Comparison, StateText } from '../../workers/auditor-answers.js';

/** Two builds compared, or one with now (null): the latter again after every edit. Keeps the last while the next is made. */
export function useComparison(
  from: Build,
  to: Build | null,
): { data: Comparison | null; error: Error | null; work: Work; again: (() => void) | null } {
  const session = useSession();
  const { project, audit } = useSessionState();
  const [a, b] = [useTexts(from), useTexts(to)];
  const [data, setData] = useState<Comparison | null>(null);
  const [fault, setFault] = useState<Error | null>(null);
  const [cancelled, setCancelled] = useState(false);
  const [tries, setTries] = useState(0);
  const work = useWork();
  const { begin, cancel } = work;
  const [before, after] = [a.data, b.data];
  // A comparison of two builds does not depend on what is now.
  const now = to === null ? project : null;
  const ready = audit !== null;
  useEffect(() => {
    if (!before || !after || !ready) return;
    let current = true;
    setCancelled(false);
    const { report, signal } = begin();
    signal.addEventListener('abort', () => {
      if (current) setCancelled(true);
    });
    session.compare(before, after, report).then(
      (comparison) => {
        if (!current || signal.aborted) return;
        setData(comparison);
        setFault(null);
      },
      (error: unknown) => {
        if (!current || signal.aborted) return;
        setFault(error instanceof Error ? error : new Error(String(error)));
      },
    );
    return () => {
      current = false;
      cancel();
    };
  }, [session, before, after, now, ready, tries, begin, cancel]);
  const again = cancelled ? (): void => setTries((n) => n + 1) : null;
  return { data, error: a.error ?? b.error ?? fault, work, again };
}

/** What is frozen never changes, so it is fetched once. */
function useTexts(build: Build | null): { data: StateText | undefined; error: Error | null } {
  const { id } = useSessionState();
  return useServer({
    queryKey: ['build', id, build?.id ?? 'now'],
    queryFn: async (): Promise<StateText> => {
      if (!build) return 'now';
      const [document, audit] = await Promise.all([
        buildText(id, build.id, 'document'),
        buildText(id, build.id, 'audit'),
      ]);
      return { document, audit };
    },
    staleTime: Infinity,
    retry: false,
  });
}
