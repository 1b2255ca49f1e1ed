import { PathTable } from '../expand/resolve.js';
import { BindingPlan, sceneInstances } from '../graph/plans.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import type { AuditContext } from './context.js';

/** One resolved copy of an authored binding. */
export interface ResolvedCopy {
  asset: AssetIndex;
  binding: Binding;
  /** The expanded owner. */
  owner: number;
  /** Instances that its paths name; negative where an end has no path. */
  sender: number;
  receiver: number;
}

/** Calls `take` for each resolved copy of the bindings that a rule wants. Cost: their copies. */
export function eachResolvedCopy(
  ctx: AuditContext,
  rule: string,
  wanted: (binding: Binding) => boolean,
  take: (copy: ResolvedCopy) => void,
): void {
  const scenes = ctx.oncePlaced('scenes', () => sceneInstances(ctx.x));
  let paths: PathTable | null = null;
  let last: AssetIndex | null = null;
  for (const { owner: asset, at } of ctx.bindingsWhere(rule, (b) => b.enabled !== false && wanted(b))) {
    if (!paths || asset !== last) paths = new PathTable(ctx.x, scenes, asset.at);
    last = asset;
    const binding = asset.bindings[at];
    const plan = new BindingPlan(ctx.x, paths, binding, asset.at);
    for (const owner of ctx.ownersOf(asset.at, at)) {
      const sender = plan.sender(owner);
      const receiver = plan.receiver(owner);
      if (plan.judge(sender, receiver) !== 0) continue;
      take({ asset, binding, owner, sender, receiver });
    }
  }
}
