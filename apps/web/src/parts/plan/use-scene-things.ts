import { reachableFrom, type AssetIndex, type ProjectIndex, type Reachable } from '@oquel/core';
import { useMemo } from 'react';
import { thingsOf, type Thing } from './thing.js';

/**
 * What stands on the plan of an asset, as it is drawn, and all that can be named from there, the asset itself included.
 * Both are empty where there is no such asset.
 */
export function useSceneThings(
  index: ProjectIndex,
  owner: AssetIndex | undefined,
): { reachable: readonly Reachable[]; things: readonly Thing[] } {
  return useMemo(() => {
    const reachable = owner ? reachableFrom(index, owner) : [];
    const things = thingsOf(
      index,
      reachable.filter((t) => t.depth > 0),
    );
    return { reachable, things };
  }, [index, owner]);
}
