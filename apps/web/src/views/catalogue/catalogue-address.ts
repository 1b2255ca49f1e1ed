import {
  CATALOGUE_KINDS,
  CATALOGUE_MARKS,
  type CatalogueKind,
  type CatalogueMark,
  type EntryRef,
} from '@oquel/core';
import { useMemo } from 'react';
import { useQuery, type GoTo } from '../../parts/use-query.js';

/** What the catalogue shows, as the address says it. */
export interface CatalogueAddress {
  kind: CatalogueKind | '';
  mark: CatalogueMark | '';
  asset: string;
  q: string;
  /** The entry that is looked at, by {@link entryKey}. */
  entry: string;
  /** Whether what nothing uses is looked at instead. */
  unused: boolean;
  go: GoTo;
}

export function useCatalogueAddress(): CatalogueAddress {
  const { params, go } = useQuery();
  return useMemo(
    () => ({
      kind: CATALOGUE_KINDS.find((k) => k === params.get('kind')) ?? '',
      mark: CATALOGUE_MARKS.find((m) => m === params.get('mark')) ?? '',
      asset: params.get('asset') ?? '',
      q: params.get('q') ?? '',
      entry: params.get('entry') ?? '',
      unused: params.get('side') === 'unused',
      go,
    }),
    [params, go],
  );
}

/** `event:WindMast/onGust`, `channel:tension`. */
export function entryKey({ kind, asset, name }: EntryRef): string {
  return asset === '' ? `${kind}:${name}` : `${kind}:${asset}/${name}`;
}
