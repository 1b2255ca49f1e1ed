import { assetsWithTag } from '../project/tags.js';
import type { ProjectIndex } from '../project/index-project.js';

/** Whether an entry of an activators list matches an asset: its id, or `#tag` that one has. */
export function activatorMatches(index: ProjectIndex, entry: string): boolean {
  if (index.assetAt.has(entry)) return true;
  return entry.startsWith('#') && assetsWithTag(index, entry.slice(1)).length > 0;
}
