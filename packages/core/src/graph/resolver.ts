import type { Expansion } from '../expand/expansion.js';
import { BLOCKED, MISSING, CompiledPath, PathTable } from '../expand/resolve.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { judgeEnds } from './faults.js';

/** A binding that can be resolved in a copy of its owner and judged there. */
export interface Resolver {
  readonly binding: Binding;
  /** Of the last copy judged that resolves: the event's number in the sender's asset, the action's in the receiver's. */
  readonly event: number;
  readonly action: number;
  sender: (owner: number) => number;
  receiver: (owner: number) => number;
  /** Faults of the binding when its paths lead to these instances (or are missing or blocked). */
  judge: (sender: number, receiver: number) => number;
}

/** An authored binding made ready to be resolved in every copy of its owner. */
export class BindingResolver implements Resolver {
  private readonly from: CompiledPath | null;
  private readonly to: CompiledPath | null;
  // The assets at the ends rarely differ between copies, so the last verdict is kept.
  private lastSender = -3;
  private lastReceiver = -3;
  private lastFaults = 0;
  event = -1;
  action = -1;

  constructor(
    private readonly x: Expansion,
    paths: PathTable,
    readonly binding: Binding,
    private readonly ownerAsset: number,
  ) {
    this.from = 'at' in binding.from ? paths.get(binding.from.at) : null;
    this.to = 'at' in binding.to ? paths.get(binding.to.at) : null;
  }

  judge(sender: number, receiver: number): number {
    const { x } = this;
    const senderAsset = sender < 0 ? sender : x.asset[sender];
    const receiverAsset = receiver < 0 ? receiver : x.asset[receiver];
    if (senderAsset !== this.lastSender || receiverAsset !== this.lastReceiver) {
      this.lastSender = senderAsset;
      this.lastReceiver = receiverAsset;
      const owner = x.index.assets[this.ownerAsset];
      this.lastFaults = judgeEnds(x.index, owner, this.binding, senderAsset, receiverAsset);
      if (this.lastFaults === 0) this.lookUp(senderAsset, receiverAsset);
    }
    return this.lastFaults;
  }
  private lookUp(sender: number, receiver: number): void {
    this.event = eventNumber(this.x, this.binding, sender);
    this.action = actionNumber(this.x, this.binding, receiver);
  }
  sender(owner: number): number {
    return this.from ? this.from.resolve(owner) : MISSING;
  }
  receiver(owner: number): number {
    return this.to ? this.to.resolve(owner) : MISSING;
  }
}

function eventNumber(x: Expansion, { from }: Binding, sender: number): number {
  return 'event' in from ? x.index.assets[sender].eventAt.get(from.event)! : -1;
}
function actionNumber(x: Expansion, { to }: Binding, receiver: number): number {
  if ('channel' in to) return -1;
  const target = 'every' in to ? x.index.assetAt.get(to.every)! : receiver;
  return x.index.assets[target].actionAt.get(to.action)!;
}

/** Resolves the bindings of an owner of which there is one copy only: nothing is kept for a second one. */
export class SingleResolver implements Resolver {
  binding!: Binding;
  event = -1;
  action = -1;

  constructor(
    private readonly x: Expansion,
    private readonly scenes: ReadonlyMap<number, number>,
  ) {}
  sender(owner: number): number {
    return 'at' in this.binding.from ? this.resolve(owner, this.binding.from.at) : MISSING;
  }
  receiver(owner: number): number {
    return 'at' in this.binding.to ? this.resolve(owner, this.binding.to.at) : MISSING;
  }
  judge(sender: number, receiver: number): number {
    const { x, binding } = this;
    const senderAsset = sender < 0 ? sender : x.asset[sender];
    const receiverAsset = receiver < 0 ? receiver : x.asset[receiver];
    const faults = judgeEnds(x.index, this.owner!, binding, senderAsset, receiverAsset);
    if (faults !== 0) return faults;
    this.event = eventNumber(x, binding, senderAsset);
    this.action = actionNumber(x, binding, receiverAsset);
    return 0;
  }
  private owner: AssetIndex | null = null;
  /** Resolves this binding from now on. */
  setBinding(binding: Binding, owner: AssetIndex): void {
    this.binding = binding;
    this.owner = owner;
  }
  /** Most paths are the name of one placement of the owner. */
  private resolve(owner: number, path: string): number {
    const { x } = this;
    if (path === '.') return owner;
    const slot = x.assetOf(owner).placementAt.get(path);
    if (slot === undefined) return new CompiledPath(x, this.scenes, path, x.asset[owner]).resolve(owner);
    const child = x.children[x.childBase[owner] + slot];
    return child < 0 ? BLOCKED : child;
  }
}

/** Every enabled binding of an asset, made ready for many copies; null for one that is disabled. */
export function bindingResolvers(
  x: Expansion,
  asset: AssetIndex,
  scenes: ReadonlyMap<number, number>,
): (Resolver | null)[] {
  const paths = new PathTable(x, scenes, asset.at);
  return asset.bindings.map((b) => (b.enabled === false ? null : new BindingResolver(x, paths, b, asset.at)));
}

/** For each scene's asset its instance. */
export function sceneInstances(x: Expansion): Map<number, number> {
  const scenes = new Map<number, number>();
  for (let i = 0; i < x.count; i = x.end[i]) scenes.set(x.asset[i], i);
  return scenes;
}

/** For an instance, which of its own bindings its placement mutes; null for none. */
export function mutedBindings(x: Expansion, instance: number): ReadonlySet<string> | null {
  const muted = x.placementOf(instance)?.muted;
  return muted && muted.length > 0 ? new Set(muted) : null;
}
