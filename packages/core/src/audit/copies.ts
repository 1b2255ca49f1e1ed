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

/** Calls `take` for each resolved copy of the bindings that pass the filter. Cost: their copies. */
export function eachResolvedCopy(
  ctx: AuditContext,
  wanted: (binding: Binding) => boolean,
  take: (copy: ResolvedCopy) => void,
): void {
  const plans = ctx.plans;
  for (const asset of ctx.index.assets) {
    plans[asset.at].forEach((plan, at) => {
      if (!plan || !wanted(plan.binding)) return;
      for (const owner of ctx.ownersOf(asset.at, at)) {
        const sender = plan.sender(owner);
        const receiver = plan.receiver(owner);
        if (plan.judge(sender, receiver) !== 0) continue;
        take({ asset, binding: plan.binding, owner, sender, receiver });
      }
    });
  }
}
