import { LIMITS } from '../limits.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Effect } from '../project/types.js';
import { ProjectTooLarge } from './too-large.js';

export type SpawnEffect = Extract<Effect, { spawn: string }>;
/** What a holder spawns: one stand-in for all copies of an asset, with the overrides of the first effect that names it. */
export interface StandIn {
  asset: number;
  effect: SpawnEffect;
  /** What spawns it first: the holder (null), or a stand-in by its place in the list and the way inside it. */
  spawner: { standIn: number; slots: readonly number[] } | null;
}

/** The prefab or widget of that id; what cannot be spawned is reported by its own finding. */
export function spawnable(index: ProjectIndex, id: string): AssetIndex | undefined {
  const asset = index.assets[index.assetAt.get(id) ?? -1] as AssetIndex | undefined;
  return asset?.decl.kind === 'scene' ? undefined : asset;
}

/**
 * For each asset, the stand-ins that an instance of it holds when it is not itself spawned: what its own effects
 * spawn, and what that and everything inside that spawns in turn, in order of discovery (breadth first; things inside
 * in expansion order; actions and effects in theirs). Endless respawning adds nothing new, so the list is finite. Each
 * list is made when it is first asked for. Cost of one: what is reachable by spawning.
 */
export class StandIns {
  private readonly lists: ({ list: StandIn[]; at: Map<number, number> } | undefined)[] = [];
  private work = 0;

  constructor(
    /** Replaced by an edit that leaves the lists as they are. */
    public index: ProjectIndex,
  ) {}

  /** @throws ProjectTooLarge where what assets spawn is too much to be followed */
  of(asset: number): readonly StandIn[] {
    return this.known(asset).list;
  }
  /** The place of an asset in the list of a holder's asset; −1 where it is not spawned there. */
  placeOf(holder: number, asset: number): number {
    return this.known(holder).at.get(asset) ?? -1;
  }

  private known(asset: number): { list: StandIn[]; at: Map<number, number> } {
    return (this.lists[asset] ??= this.find(this.index.assets[asset]));
  }
  private find(holder: AssetIndex): { list: StandIn[]; at: Map<number, number> } {
    const { index } = this;
    const list: StandIn[] = [];
    const at = new Map<number, number>();
    const scan = (asset: AssetIndex, spawner: () => StandIn['spawner']): void => {
      for (const { effect } of asset.effects) {
        if (!('spawn' in effect)) continue;
        const to = spawnable(index, effect.spawn)?.at;
        if (to === undefined || at.has(to)) continue;
        at.set(to, list.length);
        list.push({ asset: to, effect, spawner: spawner() });
      }
    };
    scan(holder, () => null);
    for (let i = 0; i < list.length; i++) {
      for (const inside of this.contained(list[i].asset)) {
        scan(index.assets[inside.at], () => ({ standIn: i, slots: slotsTo(inside) }));
      }
    }
    return { list, at };
  }

  /** The asset and every asset inside it, each once, in the order in which expansion first meets it. */
  private contained(root: number): Contained[] {
    const { assets } = this.index;
    const order: Contained[] = [];
    const seen = new Set<number>();
    const stack: Contained[] = [{ at: root, parent: null, slot: -1 }];
    for (let next = stack.pop(); next; next = stack.pop()) {
      const { at } = next;
      if (seen.has(at)) continue;
      seen.add(at);
      order.push(next);
      const { placed } = assets[at];
      this.work += placed.length + 1;
      if (this.work > LIMITS.expansion.spawning) {
        throw new ProjectTooLarge('spawning', this.work, LIMITS.expansion.spawning, [assets[root].decl.id]);
      }
      for (let i = placed.length - 1; i >= 0; i--) {
        if (placed[i] >= 0 && !seen.has(placed[i])) stack.push({ at: placed[i], parent: next, slot: i });
      }
    }
    return order;
  }
}

interface Contained {
  at: number;
  parent: Contained | null;
  /** Its slot in the parent. */
  slot: number;
}
/** Slots from the root. */
function slotsTo(contained: Contained): number[] {
  const slots: number[] = [];
  for (let c: Contained = contained; c.parent; c = c.parent) slots.push(c.slot);
  return slots.reverse();
}
