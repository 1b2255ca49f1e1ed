import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Effect } from '../project/types.js';

export type SpawnEffect = Extract<Effect, { spawn: string }>;
/** What a holder spawns: one stand-in for all copies of an asset, with the overrides of the first effect that names it. */
export interface StandIn {
  asset: number;
  effect: SpawnEffect;
  /** What spawns it first: the holder (null), or a stand-in by its place in the list and the way inside it. */
  spawner: { standIn: number; slots: readonly number[] } | null;
}

/** The prefab or widget of that id; what cannot be spawned is told by its own finding. */
export function spawnable(index: ProjectIndex, id: string): AssetIndex | undefined {
  const asset = index.assets[index.assetAt.get(id) ?? -1] as AssetIndex | undefined;
  return asset?.decl.kind === 'scene' ? undefined : asset;
}

/**
 * For each asset, the stand-ins that an instance of it holds when it is not itself spawned: what its own effects
 * spawn, and what that and everything inside that spawns in turn, in order of discovery (breadth first; things inside
 * in expansion order; actions and effects in theirs). Endless respawning adds nothing new, so the list is finite.
 * Cost: assets × what is reachable by spawning.
 */
export function findStandIns(index: ProjectIndex): StandIn[][] {
  return index.assets.map((holder) => {
    const found: StandIn[] = [];
    const seen = new Set<number>();
    const scan = (asset: AssetIndex, spawner: StandIn['spawner']): void => {
      for (const { effect } of asset.effects) {
        if (!('spawn' in effect)) continue;
        const to = spawnable(index, effect.spawn)?.at;
        if (to === undefined || seen.has(to)) continue;
        seen.add(to);
        found.push({ asset: to, effect, spawner });
      }
    };
    scan(holder, null);
    for (let i = 0; i < found.length; i++) {
      for (const { at, slots } of containedAssets(index, found[i].asset)) {
        scan(index.assets[at], { standIn: i, slots });
      }
    }
    return found;
  });
}

/** The asset and every asset inside it, each once, in the order in which expansion first meets it. */
function containedAssets(index: ProjectIndex, root: number): Contained[] {
  const order: Contained[] = [];
  const seen = new Set<number>();
  const stack: Contained[] = [{ at: root, slots: [] }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { at, slots } = next;
    if (seen.has(at)) continue;
    seen.add(at);
    order.push(next);
    const { placed } = index.assets[at];
    for (let i = placed.length - 1; i >= 0; i--) {
      if (placed[i] >= 0 && !seen.has(placed[i])) stack.push({ at: placed[i], slots: [...slots, i] });
    }
  }
  return order;
}
interface Contained {
  at: number;
  /** Slots from the root to it. */
  slots: readonly number[];
}
