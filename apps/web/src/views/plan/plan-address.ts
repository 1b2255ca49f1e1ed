import type { ProjectIndex } from '@oquel/core';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useChangeQuery } from '../../parts/use-query.js';

/** What Plan shows, as the address says it. */
export interface PlanAddress {
  /** The asset whose placements are shown. */
  scope: string;
  /** Placements that are chosen. */
  chosen: readonly string[];
  go: (part: { scope?: string; chosen?: readonly string[] }) => void;
}

/** Reads the address, with the first scene where it is silent; `go` changes parts of it. */
export function usePlanAddress(index: ProjectIndex): PlanAddress {
  const [params] = useSearchParams();
  const changeQuery = useChangeQuery();
  const first = index.assets.find((a) => a.decl.kind === 'scene') ?? index.assets[0];
  const go = useCallback<PlanAddress['go']>(
    ({ scope, chosen }) => {
      changeQuery((next) => {
        if (scope !== undefined) {
          next.set('scope', scope);
          next.delete('chosen');
        }
        if (chosen) {
          if (chosen.length > 0) next.set('chosen', chosen.join(','));
          else next.delete('chosen');
        }
      }, scope === undefined);
    },
    [changeQuery],
  );
  const text = params.get('chosen') ?? '';
  const chosen = useMemo(() => text.split(',').filter(Boolean), [text]);
  return { scope: params.get('scope') ?? first?.decl.id ?? '', chosen, go };
}
