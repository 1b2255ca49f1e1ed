import type { ProjectIndex } from '@oquel/core';
import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { useChangeQuery } from '../../parts/use-query.js';

/** What Wire shows, as the address says it. */
export interface WireAddress {
  /** The asset whose bindings are wired. */
  scope: string;
  /** The sender: a path of the scope, or `#channel`. */
  at: string;
  /** The event whose strip is active. */
  event: string;
  /** A binding that was jumped to. */
  binding: string;
}

/** Reads the address, with the first scene and its owner where it is silent; `go` changes parts of it. */
export function useWireAddress(
  index: ProjectIndex,
): WireAddress & { go: (part: Partial<WireAddress>) => void } {
  const [params] = useSearchParams();
  const changeQuery = useChangeQuery();
  const first = index.assets.find((a) => a.decl.kind === 'scene') ?? index.assets[0];
  const go = useCallback(
    (part: Partial<WireAddress>) => {
      changeQuery((next) => {
        if (part.scope !== undefined) for (const name of ['at', 'event', 'binding']) next.delete(name);
        if (part.at !== undefined) for (const name of ['event', 'binding']) next.delete(name);
        for (const [name, value] of Object.entries(part)) {
          if (value === '') next.delete(name);
          else next.set(name, value);
        }
      }, false);
    },
    [changeQuery],
  );
  return {
    scope: params.get('scope') ?? first?.decl.id ?? '',
    at: params.get('at') ?? '',
    event: params.get('event') ?? '',
    binding: params.get('binding') ?? '',
    go,
  };
}
