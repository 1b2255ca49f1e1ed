import { eachInside } from '../graph/effect-edges.js';
import { BEGINS_ASLEEP, type Expansion } from '../expand/expansion.js';
import type { Graph } from '../graph/graph.js';
import type { AssetIndex } from '../project/index-project.js';
import { IntList } from '../util/int-list.js';

export interface Liveness {
  /** For each node 1 if something outside the wiring can bring it about. */
  live: Uint8Array;
  /** For each instance the sleeping things around it (or itself) that nothing live wakes; only where sleep counts. */
  blocked: Int32Array;
}

/**
 * What can happen at all: outside events of what is not spawned, those of stand-ins that a live action spawns, and all
 * that these lead to. With `sleep`, an event counts only where its instance can be awake, an action only there or if it
 * is `whileAsleep`. `extra` nodes are taken as live besides. Each node and edge is looked at once.
 */
export function liveness(g: Graph, sleep: boolean, extra: Iterable<number> = []): Liveness {
  return new LiveWalk(g, sleep).run(extra);
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
  private readonly plans: ActionPlan[][];
  private readonly queue = new IntList();

  constructor(
    private readonly g: Graph,
    private readonly sleep: boolean,
  ) {
    this.x = g.x;
    this.live = new Uint8Array(g.nodes);
    this.reached = new Uint8Array(g.nodes);
    this.blocked = new Int32Array(g.x.count);
    this.woken = new Uint8Array(g.x.count);
    this.spawned = new Uint8Array(g.x.count);
    this.plans = g.x.index.assets.map((a) => planActions(a, g.x));
    if (sleep) this.countSleepers();
  }

  run(extra: Iterable<number>): Liveness {
    const { x, g } = this;
    for (let i = 0; i < x.count; i++) if (!x.isSpawned(i)) this.reachOutside(i);
    for (const n of extra) this.reach(n);
    while (this.queue.length > 0) {
      const n = this.queue.pop();
      if (n < g.channelBase) this.perform(n);
      for (let e = g.first[n]; e < g.first[n + 1]; e++) this.reach(g.head[e]);
    }
    return { live: this.live, blocked: this.blocked };
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
