import { isAction } from '../../graph/graph.js';
import { IntList } from '../../util/int-list.js';
import type { AuditContext } from '../context.js';
import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const largeReach = defineRule<'large'>({
  meta: {
    name: 'large-reach',
    severity: 'warning',
    group: 'shape',
    what: 'One event triggers more actions, over any number of hops, than the policy allows.',
    why: 'The effect of a change to it is hard to foresee.',
    cure: 'Split the wiring into parts that are less connected.',
  },
  messages: { large: '{at} {event} reaches more than {limit} actions' },
  check(ctx, report) {
    const { g, x, limits, reachBounds, components } = ctx;
    const walk = new CappedWalk(ctx, limits.maxReach);
    for (const node of ctx.outsideEvents) {
      if (reachBounds[components.of[node]] <= limits.maxReach || !walk.exceeds(node)) continue;
      const i = g.instanceOf[node];
      const asset = x.assetOf(i);
      const event = asset.events[node - x.nodeBase[i]].name;
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: [i],
        message: 'large',
        data: { at: x.address(i), event, limit: limits.maxReach },
        evidence: () => ({
          kind: 'nodes',
          nodes: [...walk.actions.view().subarray(0, 50)].map((n) => nodeRef(g, n)),
          more: Math.max(0, walk.actions.length - 50),
        }),
      });
    }
  },
});

/** Counts distinct actions from a node, and stops past the limit. */
class CappedWalk {
  readonly actions = new IntList();
  private readonly mark: Int32Array;
  private readonly queue = new IntList();
  private stamp = 0;

  constructor(
    private readonly ctx: AuditContext,
    private readonly limit: number,
  ) {
    this.mark = new Int32Array(ctx.g.nodes);
  }
  exceeds(from: number): boolean {
    const { g } = this.ctx;
    const { queue, mark, actions } = this;
    const stamp = ++this.stamp;
    queue.length = actions.length = 0;
    queue.push(from);
    mark[from] = stamp;
    while (queue.length > 0) {
      const n = queue.pop();
      if (isAction(g, n)) actions.push(n);
      if (actions.length > this.limit) return true;
      for (let e = g.first[n]; e < g.first[n + 1]; e++) {
        if (mark[g.head[e]] === stamp) continue;
        mark[g.head[e]] = stamp;
        queue.push(g.head[e]);
      }
    }
    return false;
  }
}
