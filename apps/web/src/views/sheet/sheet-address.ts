import { useMemo } from 'react';
import { useQuery, type GoTo } from '../../parts/use-query.js';
import {
  FACETS,
  GROUPS,
  SORTS,
  SWITCHES,
  type Facet,
  type Group,
  type SheetFilter,
  type Sort,
  type Switch,
} from './sheet-rows.js';

/** What the sheet shows, as the address says it. */
export interface SheetAddress {
  /** An asset, or empty for the whole project. */
  scope: string;
  /** Bindings that alone are listed, as `asset/binding`; empty for all. */
  among: readonly string[];
  filter: SheetFilter;
  group: Group;
  sort: Sort;
  go: GoTo;
}

export function useSheetAddress(): SheetAddress {
  const { params, go } = useQuery();
  return useMemo(() => {
    const facets: Partial<Record<Facet, string>> = {};
    for (const f of FACETS) {
      const value = params.get(f);
      if (value) facets[f] = value;
    }
    const only = (params.get('only') ?? '').split(',');
    return {
      scope: params.get('scope') ?? '',
      among: (params.get('among') ?? '').split(',').filter(Boolean),
      filter: {
        q: params.get('q') ?? '',
        facets,
        switches: SWITCHES.filter((s): s is Switch => only.includes(s)),
      },
      group: GROUPS.find((g) => g === params.get('group')) ?? 'none',
      sort: SORTS.find((s) => s === params.get('sort')) ?? 'order',
      go,
    };
  }, [params, go]);
}
