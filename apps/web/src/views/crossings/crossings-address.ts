import { CROSSING_GROUPS, CROSSING_ORDERS, type CrossingGroup, type CrossingOrder } from '@oquel/core';
import { useMemo } from 'react';
import { useQuery, type GoTo } from '../../parts/use-query.js';

export type CellFilter = '' | 'across' | 'channel' | 'code' | 'hand' | 'both' | 'findings' | 'unused';
export const CELL_FILTERS: readonly Exclude<CellFilter, ''>[] = [
  'across',
  'channel',
  'code',
  'hand',
  'both',
  'findings',
  'unused',
];

/** What Crossings shows, as the address says it. */
export interface CrossingsAddress {
  by: CrossingGroup;
  order: CrossingOrder;
  only: CellFilter;
  shows: 'picture' | 'list';
  /** Names of the groups of the cell that is looked at; empty for none. */
  from: string;
  to: string;
  go: GoTo;
}

export function useCrossingsAddress(): CrossingsAddress {
  const { params, go } = useQuery();
  return useMemo(
    () => ({
      by: CROSSING_GROUPS.find((g) => g === params.get('by')) ?? 'asset',
      order: CROSSING_ORDERS.find((o) => o === params.get('order')) ?? 'clusters',
      only: CELL_FILTERS.find((f) => f === params.get('only')) ?? '',
      shows: params.get('shows') === 'list' ? 'list' : 'picture',
      from: params.get('from') ?? '',
      to: params.get('to') ?? '',
      go,
    }),
    [params, go],
  );
}
