import type { AssetIndex, ProjectIndex } from '@oquel/core';
import { useEffect, useRef } from 'react';

/**
 * The asset that a view shows. When it has another name now, the view goes with it; when it is gone, by an undo or by
 * somebody else, the view goes to what there is. Null while it goes there, and where the project has none.
 */
export function useScope(
  index: ProjectIndex,
  scope: string,
  go: (to: { scope: string }) => void,
): AssetIndex | null {
  const at = index.assetAt.get(scope);
  const last = useRef<{ at: number; count: number } | null>(null);
  const { assets } = index;
  useEffect(() => {
    if (at !== undefined) {
      last.current = { at, count: assets.length };
      return;
    }
    const before = last.current;
    const next = before?.count === assets.length ? assets[before.at] : assets[0];
    if (next) go({ scope: next.decl.id });
  });
  return at === undefined ? null : assets[at];
}
