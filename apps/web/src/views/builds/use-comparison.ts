import { useQuery as useServer } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { buildText, type Build } from '../../api/client.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { Comparison, StateText } from '../../workers/auditor.js';

/** Two builds compared, or one with now (null): the latter again after every edit. Keeps the last while the next is made. */
export function useComparison(
  from: Build,
  to: Build | null,
): { data: Comparison | null; error: Error | null } {
  const session = useSession();
  const { project, audit } = useSessionState();
  const [a, b] = [useTexts(from), useTexts(to)];
  const [data, setData] = useState<Comparison | null>(null);
  const [fault, setFault] = useState<Error | null>(null);
  const [before, after] = [a.data, b.data];
  // A comparison of two builds does not depend on what is now.
  const now = to === null ? project : null;
  const ready = audit !== null;
  useEffect(() => {
    if (!before || !after || !ready) return;
    let current = true;
    session.compare(before, after).then(
      (comparison) => {
        if (!current) return;
        setData(comparison);
        setFault(null);
      },
      (error: unknown) => current && setFault(error instanceof Error ? error : new Error(String(error))),
    );
    return () => {
      current = false;
    };
  }, [session, before, after, now, ready]);
  return { data, error: a.error ?? b.error ?? fault };
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
