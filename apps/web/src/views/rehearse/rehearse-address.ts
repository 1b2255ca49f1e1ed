import { useMemo } from 'react';
import { useQuery, type GoTo } from '../../parts/use-query.js';

/** What Rehearse shows, as the address says it. */
export interface RehearseAddress {
  /** The rehearsal; empty for the first. */
  name: string;
  /** One of them, or all with what they cover. */
  shows: 'one' | 'all';
  /** The record at which the cursor stands; 0 before all, null at the end whatever comes of it. */
  cursor: number | null;
  /** The scene on the plan; empty for one that takes part. */
  scene: string;
  /** The thing on the plan that is looked at, as a path of the scene. */
  thing: string;
  go: GoTo;
}

export function useRehearseAddress(): RehearseAddress {
  const { params, go } = useQuery();
  return useMemo(() => {
    const cursor = params.has('cursor') ? Number(params.get('cursor')) : null;
    return {
      name: params.get('name') ?? '',
      shows: params.get('shows') === 'all' ? 'all' : 'one',
      cursor: cursor !== null && Number.isInteger(cursor) && cursor >= 0 ? cursor : null,
      scene: params.get('scene') ?? '',
      thing: params.get('thing') ?? '',
      go,
    };
  }, [params, go]);
}
