import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { gateOf, type ProjectLine } from '../../api/client.js';

/** Has projects audited whose gate is unknown or of an earlier version, one after the other. */
export function useGates(projects: readonly ProjectLine[] | undefined): void {
  const queries = useQueryClient();
  const stale = (projects ?? []).filter((p) => p.state === 'open' && p.gate?.version !== p.version);
  const key = stale.map((p) => `${p.id}/${p.version}`).join();
  useEffect(() => {
    const left = new AbortController();
    void (async () => {
      for (const wanted of key === '' ? [] : key.split(',')) {
        const [id] = wanted.split('/');
        const gate = await gateOf(id, left.signal).catch(() => null);
        if (left.signal.aborted) return;
        if (!gate) continue;
        queries.setQueryData<ProjectLine[]>(['projects'], (old) =>
          old?.map((p) => (p.id === id ? { ...p, gate } : p)),
        );
      }
    })();
    return () => left.abort();
  }, [key, queries]);
}
