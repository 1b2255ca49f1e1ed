import type { Expansion } from '../expand/expansion.js';
import { MISSING, PathPlan } from '../expand/resolve.js';
import type { Binding } from '../project/types.js';
import { judgeEnds } from './faults.js';

/** An authored binding made ready to be resolved in every copy of its owner. */
export class BindingPlan {
  readonly from: PathPlan | null;
  readonly to: PathPlan | null;
  // The assets at the ends rarely differ between copies, so the last verdict is kept.
  private lastSender = -3;
  private lastReceiver = -3;
  private lastFaults = 0;

  constructor(
    private readonly x: Expansion,
    scenes: ReadonlyMap<number, number>,
    readonly binding: Binding,
    private readonly ownerAsset: number,
  ) {
    this.from = 'at' in binding.from ? new PathPlan(x, scenes, binding.from.at) : null;
    this.to = 'at' in binding.to ? new PathPlan(x, scenes, binding.to.at) : null;
  }

  /** Faults of the binding when its paths lead to these instances (or are missing or blocked). */
  judge(sender: number, receiver: number): number {
    const { x } = this;
    const senderAsset = sender < 0 ? sender : x.asset[sender];
    const receiverAsset = receiver < 0 ? receiver : x.asset[receiver];
    if (senderAsset !== this.lastSender || receiverAsset !== this.lastReceiver) {
      this.lastSender = senderAsset;
      this.lastReceiver = receiverAsset;
      const owner = x.index.assets[this.ownerAsset];
      this.lastFaults = judgeEnds(x.index, owner, this.binding, senderAsset, receiverAsset);
    }
    return this.lastFaults;
  }
  sender(owner: number): number {
    return this.from ? this.from.resolve(owner) : MISSING;
  }
  receiver(owner: number): number {
    return this.to ? this.to.resolve(owner) : MISSING;
  }
}

/** Every binding of every asset that is enabled, made ready; null for one that is disabled. */
export function planBindings(x: Expansion): (BindingPlan | null)[][] {
  const scenes = new Map<number, number>();
  for (let i = 0; i < x.count; i = x.end[i]) scenes.set(x.asset[i], i);
  return x.index.assets.map((asset) =>
    asset.bindings.map((b) => (b.enabled === false ? null : new BindingPlan(x, scenes, b, asset.at))),
  );
}

/** For an instance, which of its own bindings its placement mutes; null for none. */
export function mutedBindings(x: Expansion, instance: number): ReadonlySet<string> | null {
  const muted = x.placementOf(instance)?.muted;
  return muted && muted.length > 0 ? new Set(muted) : null;
}
