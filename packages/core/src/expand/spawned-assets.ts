import type { ProjectIndex } from '../project/index-project.js';
import { spawnable } from './stand-ins.js';

/** Assets that may stand in something spawned. Cost: effects and placements. */
export function assetsSpawned(index: ProjectIndex): Set<number> {
  const found = new Set<number>();
  for (const { effects } of index.assets) {
    for (const { effect } of effects) {
      const at = 'spawn' in effect ? spawnable(index, effect.spawn)?.at : undefined;
      if (at !== undefined) found.add(at);
    }
  }
  for (const at of found) for (const placed of index.assets[at].placed) if (placed >= 0) found.add(placed);
  return found;
}
