import { eachInside } from '../graph/effect-edges.js';
import { BEGINS_ASLEEP, type Expansion } from '../expand/expansion.js';
import { tailOf, type Graph } from '../graph/graph.js';
import type { GraphDelta } from '../graph/patch.js';
import type { AssetIndex } from '../project/index-project.js';
import type { EventDecl } from '../project/types.js';
import { IntList } from '../util/int-list.js';

export interface Liveness {
  /** For each node 1 if something outside the wiring can bring it about. */
  live: Uint8Array;
  /** For each instance the sleeping things around it (or itself) that nothing live wakes; only where sleep counts. */
  blocked: Int32Array;
  /** For each node 1 if something live leads to it, though it may sleep. */
  reached: Uint8Array;
  /** For each instance 1 if it wakes; if it is a stand-in that something spawns. */
  woken: Uint8Array;
  spawned: Uint8Array;
  /** Nodes that were taken as live besides. */
  extra: readonly number[];
  /** What actions do besides their edges, by asset. */
  plans: readonly (readonly ActionPlan[])[];
}

/**
 * What can happen at all: outside events of what is not spawned, those of stand-ins that a live action spawns, and all
 * that these lead to. With `sleep`, an event counts only where its instance can be awake, an action only there or if it
 * is `whileAsleep`. `extra` nodes are taken as live besides. Each node and edge is looked at once.
 */
export function liveness(g: Graph, sleep: boolean, extra: readonly number[] = []): Liveness {
  return new LiveWalk(g, sleep, extra).run();
}

/** So many nodes that may have lost what brought them about are looked at again, before all are. */
const MAX_DOUBTFUL = 2000;

/**
 * What can happen after edges came or went. What hangs on a removed edge is doubted and all that follows from it; what
 * another live node leads to, or what lies outside the wiring, is brought back ("delete and rederive", Gupta, Mumick and
 * Subrahmanian, 1993). Cost: passes over the nodes, and over the edges if anything is doubted. Null if too much is, or if
 * something doubted wakes or spawns.
 */
export function reviseLiveness(
  old: Liveness,
  delta: GraphDelta,
  sleep: boolean,
  extra: readonly number[] = [],
): Liveness | null {
  return new LiveWalk(delta.graph, sleep, extra, old).revise(old, delta);
}

interface ActionPlan {
  wakes: boolean;
  whileAsleep: boolean;
  spawns: number[];
}

class LiveWalk {
  private readonly x: Expansion;
  private readonly live: Uint8Array;
  private readonly reached: Uint8Array;
  private readonly blocked: Int32Array;
  private readonly woken: Uint8Array;
  private readonly spawned: Uint8Array;
  private readonly plans: Liveness['plans'];
  private readonly queue = new IntList();

  constructor(
    private readonly g: Graph,
    private readonly sleep: boolean,
    private readonly extra: readonly number[],
    from?: Liveness,
  ) {
    this.x = g.x;
    this.live = from?.live.slice() ?? new Uint8Array(g.nodes);
    this.reached = from?.reached.slice() ?? new Uint8Array(g.nodes);
    this.blocked = from?.blocked.slice() ?? new Int32Array(g.x.count);
    this.woken = from?.woken.slice() ?? new Uint8Array(g.x.count);
    this.spawned = from?.spawned.slice() ?? new Uint8Array(g.x.count);
    this.plans = from?.plans ?? g.x.index.assets.map((a) => planActions(a, g.x));
    if (sleep && !from) this.countSleepers();
  }

  run(): Liveness {
    const { x } = this;
    for (let i = 0; i < x.count; i++) if (!x.isSpawned(i)) this.reachOutside(i);
    for (const n of this.extra) this.reach(n);
    this.follow();
    return this.state();
  }
  private follow(): void {
    const { g, queue } = this;
    while (queue.length > 0) {
      const n = queue.pop();
      if (g.action[n] === 1) this.perform(n);
      for (let e = g.first[n]; e < g.first[n + 1]; e++) this.reach(g.head[e]);
    }
  }
  private state(): Liveness {
    const { live, blocked, reached, woken, spawned, extra, plans } = this;
    return { live, blocked, reached, woken, spawned, extra, plans };
  }

  revise(old: Liveness, { removed, added }: GraphDelta): Liveness | null {
    const doubtful = this.doubt(old, removed);
    if (!doubtful) return null;
    const { g } = this;
    if (doubtful.length > 0) {
      const doubted = new Uint8Array(g.nodes);
      for (const n of doubtful) doubted[n] = 1;
      const { head } = g;
      for (let e = 0; e < head.length; e++) {
        if (doubted[head[e]] === 1 && this.live[tailOf(g, e)] === 1) this.reach(head[e]);
      }
    }
    for (const n of this.extra) this.reach(n);
    added.tails.forEach((tail, i) => {
      if (this.live[tail] === 1) this.reach(added.heads[i]);
    });
    this.follow();
    return this.state();
  }

  /** Takes back what removed edges and nodes no longer taken as live may have brought about. */
  private doubt(old: Liveness, removed: GraphDelta['removed']): number[] | null {
    const { g } = this;
    const extra = new Set(this.extra);
    const stack = old.extra.filter((n) => !extra.has(n));
    removed.tails.forEach((tail, i) => {
      if (old.live[tail] === 1) stack.push(removed.heads[i]);
    });
    const doubtful: number[] = [];
    for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
      if (this.reached[n] === 0 || extra.has(n)) continue;
      const from = this.outside(n);
      if (from === 'certain') continue;
      if (from === 'spawned' || doubtful.length >= MAX_DOUBTFUL) return null;
      this.reached[n] = 0;
      doubtful.push(n);
      if (this.live[n] === 0) continue;
      this.live[n] = 0;
      if (n < g.channelBase) {
        const plan = this.plan(n, g.instanceOf[n]);
        if (plan && (plan.wakes || plan.spawns.length > 0)) return null;
      }
      for (let e = g.first[n]; e < g.first[n + 1]; e++) stack.push(g.head[e]);
    }
    return doubtful;
  }
  /** Whether a node is raised from outside the wiring: surely, only once its instance is spawned, or not at all. */
  private outside(n: number): 'certain' | 'spawned' | 'no' {
    if (n >= this.g.channelBase) return 'no';
    const i = this.g.instanceOf[n];
    const event = this.x.assetOf(i).events[n - this.x.nodeBase[i]] as EventDecl | undefined;
    if (!event || event.cause.type === 'raised') return 'no';
    return this.x.isSpawned(i) ? 'spawned' : 'certain';
  }

  private countSleepers(): void {
    const { x } = this;
    for (let i = 0; i < x.count; i++) {
      const container = x.containerOf(i);
      const own = (x.flags[i] & BEGINS_ASLEEP) !== 0 ? 1 : 0;
      this.blocked[i] = own + (container < 0 ? 0 : this.blocked[container]);
    }
  }
  private reachOutside(i: number): void {
    const { events } = this.x.assetOf(i);
    for (let e = 0; e < events.length; e++) {
      if (events[e].cause.type !== 'raised') this.reach(this.x.nodeBase[i] + e);
    }
  }
  private reach(n: number): void {
    this.reached[n] = 1;
    if (this.live[n] === 1 || !this.counts(n)) return;
    this.live[n] = 1;
    this.queue.push(n);
  }
  private counts(n: number): boolean {
    if (!this.sleep || n >= this.g.channelBase) return true;
    const i = this.g.instanceOf[n];
    return this.blocked[i] === 0 || this.plan(n, i)?.whileAsleep === true;
  }
  private plan(n: number, i: number): ActionPlan | undefined {
    const action = n - this.x.nodeBase[i] - this.x.assetOf(i).events.length;
    return action < 0 ? undefined : this.plans[this.x.asset[i]][action];
  }

  /** What a live action does besides its edges: it wakes its instance, or brings stand-ins to life. */
  private perform(n: number): void {
    const { x } = this;
    const i = this.g.instanceOf[n];
    const plan = this.plan(n, i);
    if (!plan) return;
    const wakes = this.sleep && plan.wakes && plan.whileAsleep && (x.flags[i] & BEGINS_ASLEEP) !== 0;
    if (wakes && this.woken[i] === 0) {
      this.woken[i] = 1;
      eachInside(x, i, (j) => {
        this.blocked[j]--;
        if (this.blocked[j] > 0) return;
        for (let m = x.nodeBase[j]; m < x.nodeBase[j + 1]; m++) if (this.reached[m] === 1) this.reach(m);
      });
    }
    for (const asset of plan.spawns) {
      const standIn = x.standInOf(i, asset);
      if (standIn < 0 || this.spawned[standIn] === 1) continue;
      this.spawned[standIn] = 1;
      for (let s = standIn; s < x.end[standIn]; s++) this.reachOutside(s);
    }
  }
}

function planActions(asset: AssetIndex, x: Expansion): ActionPlan[] {
  return asset.actions.map((a) => ({
    wakes: (a.effects ?? []).some((e) => 'wake' in e),
    whileAsleep: a.whileAsleep === true,
    spawns: (a.effects ?? []).flatMap((e) => ('spawn' in e ? (x.index.assetAt.get(e.spawn) ?? []) : [])),
  }));
}
