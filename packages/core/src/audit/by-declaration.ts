import type { AssetIndex } from '../project/index-project.js';
import type { AuditGround } from './ground.js';

/** One authored event or action, with the nodes of its copies that a rule has found, in order. */
export interface DeclaredNodes {
  asset: AssetIndex;
  /** Its number in the asset: events first, then actions. */
  local: number;
  nodes: number[];
}

/** Groups event and action nodes by their declaration, so that a fault in many copies is reported once. Linear. */
export function byDeclaration({ g, x }: AuditGround, nodes: Iterable<number>): Iterable<DeclaredNodes> {
  const groups = new Map<number, DeclaredNodes>();
  const { length: assets } = x.index.assets;
  for (const n of nodes) {
    const i = g.instanceOf[n];
    const local = n - x.nodeBase[i];
    const key = local * assets + x.asset[i];
    const group = groups.get(key);
    if (group) group.nodes.push(n);
    else groups.set(key, { asset: x.assetOf(i), local, nodes: [n] });
  }
  return groups.values();
}
