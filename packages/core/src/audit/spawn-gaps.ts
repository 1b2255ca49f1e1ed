import { isEvent } from '../graph/graph.js';
import type { AuditGround } from './ground.js';

/**
 * Events of stand-ins and of what is inside them that are not bound, while the same event of a placed copy is:
 * node numbers, in order. Each placed copy is walked once beside the first stand-in of its asset.
 */
export function spawnGaps(ctx: AuditGround): Int32Array {
  const { g, x } = ctx;
  const standIns: number[] = [];
  for (let i = 0; i < x.count; i++) if (x.isStandIn(i)) standIns.push(i);
  const boundInPlaced = new Map<number, Uint8Array>();
  const gaps: number[] = [];
  for (const s of standIns) {
    const asset = x.asset[s];
    const base = x.nodeBase[s];
    let bound = boundInPlaced.get(asset);
    if (!bound) {
      bound = new Uint8Array(x.nodeBase[x.end[s]] - base);
      for (const p of ctx.instancesOf(asset)) if (!x.isSpawned(p)) mergeBound(ctx, s, p, bound, base);
      boundInPlaced.set(asset, bound);
    }
    for (let n = base; n < x.nodeBase[x.end[s]]; n++) {
      if (bound[n - base] === 1 && ctx.bound[n] === 0 && isEvent(g, n)) gaps.push(n);
    }
  }
  return Int32Array.from(gaps);
}

/** Marks, at the places of the stand-in, what is bound in the placed copy. A placement that stopped there has no pair. */
function mergeBound(
  ctx: AuditGround,
  standIn: number,
  placed: number,
  bound: Uint8Array,
  base: number,
): void {
  const { x } = ctx;
  const pairs: [number, number][] = [[standIn, placed]];
  for (let pair = pairs.pop(); pair; pair = pairs.pop()) {
    const [s, p] = pair;
    const nodes = x.nodeBase[s + 1] - x.nodeBase[s];
    for (let k = 0; k < nodes; k++)
      if (ctx.bound[x.nodeBase[p] + k] === 1) bound[x.nodeBase[s] - base + k] = 1;
    for (let slot = 0; slot < x.assetOf(s).placements.length; slot++) {
      const inS = x.children[x.childBase[s] + slot];
      const inP = x.children[x.childBase[p] + slot];
      if (inS >= 0 && inP >= 0) pairs.push([inS, inP]);
    }
  }
}
