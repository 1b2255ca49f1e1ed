import { addEffectEdgesOf, compileEffects } from './effect-edges.js';
import type { Edge, EdgeRuns } from './edge-runs.js';
import type { GraphDelta } from './graph-delta.js';

/**
 * Gives instances other effect edges where those that they have do not hold any more; the delta says so, too. Cost: their
 * effect edges.
 */
export function refreshEffects(runs: EdgeRuns, instances: Iterable<number>, delta: GraphDelta): void {
  const { g } = runs;
  const { x } = g;
  for (const i of instances) {
    const asset = x.assetOf(i);
    const now = new Map<number, Edge[]>();
    addEffectEdgesOf(x, i, compileEffects(asset), (tail, head, kind, cls, ref) => {
      const edge = { head, meta: cls | (kind << 2), ref };
      const own = now.get(tail);
      if (own) own.push(edge);
      else now.set(tail, [edge]);
    });
    for (let a = 0; a < asset.actions.length; a++) {
      const tail = x.nodeBase[i] + asset.events.length + a;
      const edges = now.get(tail) ?? [];
      if (runs.holds(tail, edges)) continue;
      runs.remove(tail, () => true, delta.removed);
      runs.add(tail, edges, delta.added);
      delta.tails.add(tail);
    }
  }
}
/**
 * Takes the effect edges from instances and to them, once they have no others; the delta says so, too. Gives the other
 * instances that lost some.
 */
export function dropEffects(runs: EdgeRuns, instances: ReadonlySet<number>, delta: GraphDelta): Set<number> {
  const { g } = runs;
  const { x, instanceOf } = g;
  const others = new Set<number>();
  const drop = (tail: number): void => {
    if (g.first[tail] === g.end[tail]) return;
    runs.remove(tail, () => true, delta.removed);
    delta.tails.add(tail);
  };
  for (const i of instances) {
    for (let n = x.nodeBase[i]; n < x.nodeBase[i + 1]; n++) {
      drop(n);
      for (const tail of runs.incoming.tails(n).slice()) {
        drop(tail);
        others.add(instanceOf[tail]);
      }
    }
  }
  for (const i of instances) others.delete(i);
  return others;
}
