import type { AssetIndex, ProjectIndex } from './index-project.js';

/**
 * The asset at a path inside an asset, through its placements alone; null where there is none. What is spawned has no values
 * from outside. Cost: the segments.
 */
export function assetInside(index: ProjectIndex, asset: AssetIndex, path: string): AssetIndex | null {
  let at: AssetIndex | null = asset;
  for (const segment of path.split('/')) {
    const slot: number | undefined = at.placementAt.get(segment);
    at = slot === undefined ? null : (index.assets[at.placed[slot]] ?? null);
    if (!at) return null;
  }
  return at;
}
