import { grown } from '../../graph/edge-runs.js';
import { eachInside } from '../../graph/effect-edges.js';
import { BEGINS_ASLEEP, type Expansion } from '../../expand/expansion.js';
import { isChannel, type Graph } from '../../graph/graph.js';
import type { GraphDelta } from '../../graph/graph-delta.js';
import type { Incoming } from '../../graph/incoming.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { EventDecl } from '../../project/types.js';
import { IntList } from '../../util/int-list.js';

/** What an edit of bindings did to a liveness. */
export interface LivenessChange {
  /** Nodes that came alive or ceased to be. */
  nodes: Set<number>;
  /** Instances that can be awake now. */
  instances: Set<number>;
}

const NO_SLEEPERS: ReadonlySet<number> = new Set();

/** So many nodes that may have lost what brought them about are looked at again, before all are. */
const MAX_DOUBTFUL = 2000;

interface ActionEffects {
  wakes: boolean;
  whileAsleep: boolean;
  spawns: number[];
}

/**
 * What can happen at all: outside events of what is not spawned, those of stand-ins that a live action spawns, and all
 * that these lead to. With `sleep`, an event counts only where its instance can be awake, an action only there or if it
 * is `whileAsleep`. `extra` nodes are taken as live besides. Each node and edge is looked at once.
 */
export class Liveness {
  /** For each node 1 if something outside the wiring can bring it about. */
  live: Uint8Array;
  /** For each node 1 if something live leads to it, though it may sleep. */
  private reached: Uint8Array;
  /** For each instance the sleeping things around it (or itself) that nothing live wakes; only where sleep counts. */
  readonly blocked: Int32Array;
  /** For each instance 1 if it wakes; if it is a stand-in that something spawns. */
  private readonly woken: Uint8Array;
  private readonly spawned: Uint8Array;
  private readonly effects: (readonly ActionEffects[])[];
  private readonly queue = new IntList();
  private readonly x: Expansion;
  /** While an edit is followed: what came alive, and what woke. */
  private change: LivenessChange | null = null;

  constructor(
    private readonly g: Graph,
    private readonly sleep: boolean,
    /** Its owner may change it, and says so in {@link revise}. */
    private readonly extra: ReadonlySet<number>,
  ) {
    const { x } = g;
    this.x = x;
    this.live = new Uint8Array(g.first.length);
    this.reached = new Uint8Array(g.first.length);
    this.blocked = new Int32Array(x.count);
    this.woken = new Uint8Array(x.count);
    this.spawned = new Uint8Array(x.count);
    this.effects = x.index.assets.map((a) => effectsOf(a, x));
    if (sleep) this.countSleepers();
    for (let i = 0; i < x.count; i++) if (!x.isSpawned(i) && !x.isFree(i)) this.reachOutside(i);
    for (const n of extra) this.reach(n);
    this.follow();
  }

  /**
   * Follows an edit of bindings. What hangs on a removed edge is doubted and all that follows from it; what another live
   * node leads to, or what lies outside the wiring, is brought back ("delete and rederive", Gupta, Mumick and
   * Subrahmanian, 1993). Cost: what is doubted, what leads to it, and what comes alive. Null, and nothing is changed, if too
   * much is, or if something doubted wakes or spawns.
   */
  revise(
    delta: GraphDelta,
    incoming: Incoming,
    extra: { came: Iterable<number>; went: Iterable<number> },
    sleepers: ReadonlySet<number> = NO_SLEEPERS,
  ): LivenessChange | null {
    const { added, coming, filled, leaving, emptied } = delta;
    const drowsy = this.sleep ? this.drowsy(sleepers) : NO_SLEEPERS;
    const doubtful = this.doubt(delta, extra.went, drowsy);
    if (!doubtful) return null;
    if (this.live.length < this.g.first.length) {
      this.live = grown(this.live, this.g.first.length);
      this.reached = grown(this.reached, this.g.first.length);
    }
    const before = new Map<number, number>();
    for (const n of doubtful) {
      before.set(n, this.live[n]);
      this.live[n] = this.reached[n] = 0;
    }
    const change: LivenessChange = { nodes: new Set(), instances: new Set() };
    this.change = change;
    if (this.sleep) for (const i of sleepers) this.resleep(i);
    for (const n of doubtful) {
      const instance = this.g.instanceOf[n];
      const isOut = leaving.has(instance) || emptied.has(instance);
      if (!isOut && this.outside(n) !== 'no' && this.isStarted(instance)) this.reach(n);
      for (let i = 0; i < incoming.degree(n); i++) if (this.live[incoming.tail(n, i)] === 1) this.reach(n);
    }
    for (const i of coming) {
      this.come(i);
      if (this.sleep) change.instances.add(i);
    }
    for (const at of new Set(filled.map((i) => this.x.asset[i]))) {
      this.effects[at] = effectsOf(this.x.index.assets[at], this.x);
    }
    for (const i of filled) if (this.isStarted(i)) this.reachOutside(i);
    for (const n of extra.came) this.reach(n);
    added.tails.forEach((tail, i) => {
      if (this.live[tail] === 1) this.reach(added.heads[i]);
    });
    this.follow();
    this.change = null;
    before.forEach((was, n) => {
      if (was === this.live[n]) change.nodes.delete(n);
      else change.nodes.add(n);
    });
    return change;
  }

  /** What removed edges and nodes no longer taken as live may have brought about. */
  private doubt(
    { removed, leaving, emptied }: GraphDelta,
    went: Iterable<number>,
    drowsy: ReadonlySet<number>,
  ): Set<number> | null {
    const { g, live, reached, extra, x } = this;
    const stack = [...went];
    for (const i of [...leaving, ...emptied, ...drowsy])
      for (let n = x.nodeBase[i]; n < x.nodeBase[i + 1]; n++) stack.push(n);
    removed.tails.forEach((tail, i) => {
      if (live[tail] === 1) stack.push(removed.heads[i]);
    });
    const doubtful = new Set<number>();
    for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
      if (reached[n] === 0 || doubtful.has(n) || extra.has(n)) continue;
      const leaves = leaving.has(g.instanceOf[n]);
      const from =
        leaves || emptied.has(g.instanceOf[n]) || drowsy.has(g.instanceOf[n]) ? 'no' : this.outside(n);
      if (from === 'certain') continue;
      if (from === 'spawned' || doubtful.size >= MAX_DOUBTFUL) return null;
      doubtful.add(n);
      if (live[n] === 0) continue;
      // What leaves wakes and spawns only what leaves with it.
      if (!isChannel(g, n) && !leaves) {
        const effects = this.effectsAt(n, g.instanceOf[n]);
        if (effects && (effects.wakes || effects.spawns.length > 0)) return null;
      }
      for (let e = g.first[n]; e < g.end[n]; e++) stack.push(g.head[e]);
    }
    return doubtful;
  }
  /** Whether a node is raised from outside the wiring: surely, only once its instance is spawned, or not at all. */
  private outside(n: number): 'certain' | 'spawned' | 'no' {
    const { g, x } = this;
    if (isChannel(g, n)) return 'no';
    const i = g.instanceOf[n];
    const event = x.assetOf(i).events[n - x.nodeBase[i]] as EventDecl | undefined;
    if (!event || event.cause.type === 'raised') return 'no';
    return x.isSpawned(i) ? 'spawned' : 'certain';
  }

  /** What lies in instances that begin asleep from now on, themselves included. */
  private drowsy(sleepers: ReadonlySet<number>): Set<number> {
    const { x } = this;
    const found = new Set<number>();
    for (const i of sleepers) {
      if ((x.flags[i] & BEGINS_ASLEEP) !== 0) eachInside(x, i, (j) => found.add(j));
    }
    return found;
  }
  /** An instance that begins asleep from now on, or awake. */
  private resleep(i: number): void {
    const { x } = this;
    const wasBlocking = this.woken[i] === 0;
    this.woken[i] = 0;
    const falls = (x.flags[i] & BEGINS_ASLEEP) !== 0;
    if (!falls && !wasBlocking) return;
    eachInside(x, i, (j) => {
      this.blocked[j] += falls ? 1 : -1;
      this.change?.instances.add(j);
      if (this.blocked[j] > 0) return;
      for (let m = x.nodeBase[j]; m < x.nodeBase[j + 1]; m++) if (this.reached[m] === 1) this.reach(m);
    });
  }
  /** An instance that is new; what contains it was there before, or came just now. */
  private come(i: number): void {
    const { x } = this;
    this.woken[i] = this.spawned[i] = 0;
    if (this.sleep) this.countSleepersAt(i);
    if (!x.isSpawned(i)) this.reachOutside(i);
  }
  /** Whether an instance is there from the start, or something spawns it. */
  private isStarted(i: number): boolean {
    const { x } = this;
    if (!x.isSpawned(i)) return true;
    let standIn = i;
    while (!x.isStandIn(standIn)) standIn = x.parent[standIn];
    return this.spawned[standIn] === 1;
  }
  /** Nothing is live any more in an instance that leaves, or whose nodes are taken out. */
  leave(i: number, leaves: boolean): void {
    const { x } = this;
    this.live.fill(0, x.nodeBase[i], x.nodeBase[i + 1]);
    this.reached.fill(0, x.nodeBase[i], x.nodeBase[i + 1]);
    if (leaves) this.blocked[i] = 0;
  }

  private follow(): void {
    const { g, queue } = this;
    while (queue.length > 0) {
      const n = queue.pop();
      if (g.action[n] === 1) this.perform(n);
      for (let e = g.first[n]; e < g.end[n]; e++) this.reach(g.head[e]);
    }
  }
  private countSleepers(): void {
    const { x } = this;
    for (let i = 0; i < x.count; i++) if (!x.isFree(i)) this.countSleepersAt(i);
  }
  private countSleepersAt(i: number): void {
    const { x } = this;
    const container = x.containerOf(i);
    const own = (x.flags[i] & BEGINS_ASLEEP) !== 0 ? 1 : 0;
    this.blocked[i] = own + (container < 0 ? 0 : this.blocked[container]);
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
    this.change?.nodes.add(n);
    this.queue.push(n);
  }
  private counts(n: number): boolean {
    if (!this.sleep || isChannel(this.g, n)) return true;
    const i = this.g.instanceOf[n];
    return this.blocked[i] === 0 || this.effectsAt(n, i)?.whileAsleep === true;
  }
  /** Undefined for an event. */
  private effectsAt(n: number, i: number): ActionEffects | undefined {
    const action = n - this.x.nodeBase[i] - this.x.assetOf(i).events.length;
    return action < 0 ? undefined : this.effects[this.x.asset[i]][action];
  }

  /** What a live action does besides its edges: it wakes its instance, or brings stand-ins to life. */
  private perform(n: number): void {
    const { x } = this;
    const i = this.g.instanceOf[n];
    const effects = this.effectsAt(n, i);
    if (!effects) return;
    const wakes = this.sleep && effects.wakes && effects.whileAsleep && (x.flags[i] & BEGINS_ASLEEP) !== 0;
    if (wakes && this.woken[i] === 0) {
      this.woken[i] = 1;
      eachInside(x, i, (j) => {
        this.blocked[j]--;
        this.change?.instances.add(j);
        if (this.blocked[j] > 0) return;
        for (let m = x.nodeBase[j]; m < x.nodeBase[j + 1]; m++) if (this.reached[m] === 1) this.reach(m);
      });
    }
    for (const asset of effects.spawns) {
      const standIn = x.standInOf(i, asset);
      if (standIn < 0 || this.spawned[standIn] === 1) continue;
      this.spawned[standIn] = 1;
      for (let s = standIn; s < x.end[standIn]; s++) if (!x.isFree(s)) this.reachOutside(s);
    }
  }
}

function effectsOf(asset: AssetIndex, x: Expansion): ActionEffects[] {
  return asset.actions.map((a) => ({
    wakes: (a.effects ?? []).some((e) => 'wake' in e),
    whileAsleep: a.whileAsleep === true,
    spawns: (a.effects ?? []).flatMap((e) => ('spawn' in e ? (x.index.assetAt.get(e.spawn) ?? []) : [])),
  }));
}
