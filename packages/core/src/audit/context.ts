import { boundNodes, reviseBound } from '../graph/bound.js';
import { chainLengths, reviseChains, type Chains } from '../graph/chains.js';
import { componentsHold, stronglyConnected, type Components } from '../graph/components.js';
import { fanOuts, reviseFanOuts } from '../graph/fan-out.js';
import { cycleGroups, type CycleGroup } from '../graph/cycles.js';
import type { Graph } from '../graph/graph.js';
import type { GraphDelta } from '../graph/patch.js';
import { reachBounds, reviseReachBounds } from '../graph/reach-bounds.js';
import { defaultedKeys, type DefaultedKey } from './defaulted-keys.js';
import { endFaults, type EndFault } from './dangling-ends.js';
import { AuditGround } from './ground.js';
import { publishersTo, type Kept } from './kept.js';
import { wrongLiterals, type Literal } from './literals.js';
import { liveness, reviseLiveness, type Liveness } from './live.js';
import { neverRaisedNodes } from './never-raised-nodes.js';
import { peerRolesOf, type PeerRoles } from '../expand/peers.js';
import { spawnGaps } from './spawn-gaps.js';

/** The audit before an edit, and what that did to the graph. */
export interface Before {
  ctx: AuditContext;
  delta: GraphDelta;
}

/**
 * What rules look at. Whatever several rules need is worked out once, when first asked for: from what was known before
 * the last edit where that can be, else anew.
 */
export class AuditContext extends AuditGround {
  constructor(
    g: Graph,
    today: string,
    kept: Kept | null = null,
    private before: Before | null = null,
  ) {
    super(g, today, kept);
  }
  /** Lets go of the audit before, once all is known: otherwise each would hold on to all before it. */
  settle(): void {
    this.before = null;
  }
  /** Takes over what was known, revised, where the components have stayed. */
  private revised<T>(revise: (before: Before) => T | null): T | null {
    return this.before && this.before.ctx.components === this.components ? revise(this.before) : null;
  }

  override get bound(): Uint8Array {
    return this.once('bound', () =>
      this.before ? reviseBound(this.before.ctx.bound, this.before.delta) : boundNodes(this.g),
    );
  }
  get components(): Components {
    return this.once('components', () => {
      const { before } = this;
      const holds = before !== null && componentsHold(before.ctx.components, before.delta);
      return holds ? before.ctx.components : stronglyConnected(this.g);
    });
  }
  get chains(): Chains {
    return this.once('chains', () => {
      const { g, components: c } = this;
      return (
        this.revised(({ ctx, delta }) => reviseChains(g, c, ctx.chains, delta.tails)) ?? chainLengths(g, c)
      );
    });
  }
  get reachBounds(): Float64Array {
    return this.once('reachBounds', () => {
      const { g, components: c } = this;
      const limit = this.limits.maxReach;
      return (
        this.revised(({ ctx, delta }) =>
          ctx.limits.maxReach === limit ? reviseReachBounds(g, c, ctx.reachBounds, delta.tails, limit) : null,
        ) ?? reachBounds(g, c, limit)
      );
    });
  }
  get fanOut(): Int32Array {
    return this.once('fanOut', () => {
      const { g, before } = this;
      if (!before) return fanOuts(g);
      const { tails } = before.delta;
      const events = [...tails.filter((n) => n < g.channelBase), ...publishersTo(g, tails)];
      return reviseFanOuts(g, before.ctx.fanOut, events);
    });
  }
  get cycleGroups(): CycleGroup[] {
    return this.once('cycleGroups', () => cycleGroups(this.g, this.components, this.chains.hasCycle));
  }
  get endFaults(): EndFault[] {
    return this.once('endFaults', () => endFaults(this));
  }
  get spawnGaps(): Int32Array {
    return this.once('spawnGaps', () => spawnGaps(this));
  }
  get wrongLiterals(): Literal[] {
    return this.once('wrongLiterals', () => wrongLiterals(this));
  }
  get defaultedKeys(): DefaultedKey[] {
    return this.oncePlaced('defaultedKeys', () => defaultedKeys(this));
  }
  /** Which peer keeps and which steers each instance. */
  get holding(): PeerRoles {
    return this.oncePlaced('holding', () => peerRolesOf(this.x));
  }
  /** What can be brought about while things sleep; says also who cannot be awake. */
  get awake(): Liveness {
    return this.once('awake', () => {
      const { before } = this;
      return (before && reviseLiveness(before.ctx.awake, before.delta, true)) ?? liveness(this.g, true);
    });
  }
  /** What could be brought about if nothing slept and if what the wiring alone can raise were raised. */
  get livable(): Liveness {
    return this.once('livable', () => {
      const { before } = this;
      const raised = neverRaisedNodes(this);
      return (
        (before && reviseLiveness(before.ctx.livable, before.delta, false, raised)) ??
        liveness(this.g, false, raised)
      );
    });
  }
}
