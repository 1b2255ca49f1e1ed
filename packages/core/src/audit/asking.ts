import { hasConditions } from '../project/condition.js';
import type { AssetIndex } from '../project/index-project.js';
import type { AuditGround } from './ground.js';

/** Numbers of an asset's bindings that ask something before they act. Kept while its bindings are the same. */
export function askingBindings(ctx: AuditGround, owner: AssetIndex): readonly number[] {
  return ctx.perAuthored('asking', owner.decl, () =>
    [...owner.bindings.keys()].filter((at) => hasConditions(owner.bindings[at].if)),
  );
}
