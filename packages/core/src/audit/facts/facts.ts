import type { Expansion } from '../../expand/expansion.js';
import { hasBindingNodes, nodeHasBinding } from '../../graph/has-binding.js';
import { chainLengths, reviseChain, type Chains } from '../../graph/chains.js';
import { ComponentEdits } from '../../graph/component-edits.js';
import { componentsOf, membersOf, type Components } from '../../graph/components.js';
import { grown } from '../../graph/edge-runs.js';
import type { GraphEditor } from '../../graph/edit-graph.js';
import type { GraphDelta } from '../../graph/graph-delta.js';
import { fanOut, fanOuts } from '../../graph/fan-out.js';
import { isChannel, isEvent, type Graph } from '../../graph/graph.js';
import type { Incoming } from '../../graph/incoming.js';
import { reachBounds, reviseReachBound } from '../../graph/reach-bounds.js';
import { reviseUpwards } from '../../graph/revise.js';
import { AssetTies } from './asset-ties.js';
import { Audiences } from './audiences.js';
import { Histogram } from './histogram.js';
import { Liveness } from './liveness.js';
import { SpawnGaps } from './spawn-gaps.js';

/** Nodes and other things of which an edit changed what is known. */
export interface FactChanges {
  /** Got their first binding, or lost the last. */
  hasBinding: Set<number>;
  /** Came alive, or ceased to be, in {@link Facts.livable}. */
  livable: Set<number>;
  /** Instances that can be awake now, or no more. */
  awake: Set<number>;
  /** Nodes whose longest chain or upper bound of reach changed. */
  ahead: Set<number>;
  /** Components that have a cycle, or had one, with changed edges inside; by one of their nodes. */
  cycles: Set<number>;
  spawnGaps: Set<number>;
  audiences: Set<number>;
  ties: Set<number>;
}

/**
 * What is known of a whole graph: worked out once, then revised by edits in place at the cost of what hangs on them. Where
 * an edit is too far-reaching for that, single facts are worked out anew.
 */
export class Facts {
  readonly hasBinding: Uint8Array;
  components: Components;
  readonly chains: Chains;
  reachBounds: Float64Array;
  readonly fanOut: Int32Array;
  /** For each node 1 if it is an event that something outside the wiring raises, of an instance that is not spawned. */
  readonly outside: Uint8Array;
  /** Bound events of cause `raised` that no effect of their asset raises. */
  readonly neverRaised = new Set<number>();
  /** What can be brought about while things sleep; says also who cannot be awake. */
  awake: Liveness;
  /** What could be brought about if nothing slept and if what the wiring alone can raise were raised. */
  livable: Liveness;
  readonly spawnGaps: SpawnGaps;
  readonly audiences: Audiences;
  readonly ties: AssetTies;
  /** Components with a cycle, each by one of its nodes. */
  readonly cyclic = new Set<number>();
  /** How many outside events have a longest chain of so many hops. */
  readonly longestChains = new Histogram();
  readonly widths = new Histogram();
  private componentEdits: ComponentEdits | null = null;
  private readonly nodesAtFirst: number;

  constructor(
    private readonly g: Graph,
    private maxReach: number,
  ) {
    this.hasBinding = hasBindingNodes(g);
    const { components, order } = componentsOf(g);
    this.components = components;
    this.nodesAtFirst = g.nodes;
    this.chains = chainLengths(g, components, order);
    this.reachBounds = reachBounds(g, components, order, maxReach);
    this.fanOut = fanOuts(g);
    this.outside = outsideEvents(g);
    for (const k of order) if (this.chains.hasCycle[k] === 1) this.cyclic.add(k);
    for (let n = 0; n < g.nodes; n++) {
      if (this.outside[n] === 1) this.longestChains.move(0, this.chains.length[n]);
      this.widths.move(0, this.fanOut[n]);
      if (this.hasBinding[n] === 1 && this.isNeverRaised(n)) this.neverRaised.add(n);
    }
    this.awake = new Liveness(g, true, new Set());
    this.livable = new Liveness(g, false, this.neverRaised);
    this.spawnGaps = new SpawnGaps(g, () => this.hasBinding);
    this.audiences = new Audiences(g);
    this.ties = new AssetTies(g);
  }

  /** Another limit for reach. Cost: nodes + edges, where it differs. */
  limitReach(maxReach: number): void {
    if (maxReach === this.maxReach) return;
    this.maxReach = maxReach;
    const { order } = componentsOf(this.g);
    const own = Int32Array.from(order, (n) => this.components.of[n]);
    this.reachBounds = reachBounds(this.g, this.components, own, maxReach);
  }

  /** Follows an edit that the graph has undergone. `sleepers` begin asleep now and did not before, or the other way round. */
  follow(
    delta: GraphDelta,
    { runs: { incoming } }: GraphEditor,
    sleepers: ReadonlySet<number> = new Set(),
  ): FactChanges {
    const { g } = this;
    this.chains.exits.clear();
    this.makeRoom();
    this.come(delta);
    const hasBinding = this.followBindings(delta, incoming);
    const { components, cycles } = this.followComponents(delta, incoming);
    const ahead = this.followChains(delta, components, cycles, incoming);
    this.followFanOuts(delta, incoming);
    const extra = this.followNeverRaised(hasBinding);
    const livable = this.livable.revise(delta, incoming, extra) ?? this.livenessAnew('livable');
    const awake = this.awake.revise(delta, incoming, NOTHING, sleepers) ?? this.livenessAnew('awake');
    this.leave(delta);
    const spawnGaps = this.spawnGaps.follow([...hasBinding].filter((n) => !isChannel(g, n)));
    const audiences = this.audiences.follow(delta);
    const ties = this.ties.follow(delta);
    return {
      hasBinding,
      livable: livable.nodes,
      awake: awake.instances,
      ahead,
      cycles,
      spawnGaps,
      audiences,
      ties,
    };
  }

  /** What comes has nodes that had no edges so far. */
  private come({ coming, filled }: GraphDelta): void {
    const { x } = this.g;
    for (const i of [...coming, ...filled]) {
      if (x.isSpawned(i)) continue;
      x.assetOf(i).events.forEach(({ cause }, e) => {
        if (cause.type !== 'raised') this.outside[x.nodeBase[i] + e] = 1;
      });
    }
  }
  /** What leaves has lost its edges. */
  private leave({ leaving, emptied }: GraphDelta): void {
    const { chains, outside, reachBounds: bounds } = this;
    for (const i of [...leaving, ...emptied]) {
      eachNode(this.g.x, i, (n) => {
        outside[n] = chains.length[n] = chains.cyclic[n] = chains.hasCycle[n] = bounds[n] = 0;
      });
      for (const liveness of [this.awake, this.livable]) liveness.leave(i, leaving.has(i));
    }
  }
  /** Channel nodes may have come. What is kept for events and actions alone needs no room for them. */
  private makeRoom(): void {
    const { chains } = this;
    const { length } = this.g.first;
    if (chains.length.length === length) return;
    chains.length = grown(chains.length, length);
    chains.cyclic = grown(chains.cyclic, length);
    chains.hasCycle = grown(chains.hasCycle, length);
    this.reachBounds = grown(this.reachBounds, length);
  }

  private followBindings({ removed, added, tails }: GraphDelta, incoming: Incoming): Set<number> {
    const { g, hasBinding } = this;
    const flipped = new Set<number>();
    const look = (n: number): void => {
      if (isChannel(g, n)) return;
      const has = nodeHasBinding(g, incoming, n) ? 1 : 0;
      if (has === hasBinding[n]) return;
      hasBinding[n] = has;
      flipped.add(n);
    };
    for (const n of tails) look(n);
    for (const n of removed.heads) look(n);
    for (const n of added.heads) look(n);
    return flipped;
  }

  /** The components to be worked out again, and those with a cycle that changed. */
  private followComponents(
    delta: GraphDelta,
    incoming: Incoming,
  ): { components: Set<number>; cycles: Set<number> } {
    const { g } = this;
    const cycles = new Set<number>();
    // A cycle is reported anew wherever an edge inside of it came or went, whatever its component is called then.
    const before = this.components.of;
    const insideBefore = [delta.removed, delta.added].flatMap(({ tails, heads }) =>
      tails.filter((tail, i) => tail < before.length && before[tail] === before[heads[i]]),
    );
    for (const n of insideBefore) cycles.add(before[n]);
    this.componentEdits ??= new ComponentEdits(g, incoming, this.components, this.nodesAtFirst);
    const followed = this.componentEdits.follow(delta);
    let changed: Set<number>;
    if (followed) {
      ({ changed } = followed);
      for (const k of followed.gone) cycles.add(k);
    } else {
      const old = this.components;
      this.components = componentsOf(g).components;
      this.componentEdits = new ComponentEdits(g, incoming, this.components, g.nodes);
      changed = otherMembers(g, old, this.components);
      for (const k of old.groups.keys()) cycles.add(k);
      for (const k of this.components.groups.keys()) cycles.add(k);
    }
    const { of } = this.components;
    for (const k of changed) cycles.add(k);
    for (const { tails, heads } of [delta.removed, delta.added]) {
      tails.forEach((tail, i) => {
        if (of[tail] === of[heads[i]]) cycles.add(of[tail]);
      });
    }
    for (const n of delta.tails) changed.add(of[n]);
    for (const i of [...delta.coming, ...delta.filled]) eachNode(g.x, i, (n) => changed.add(of[n]));
    return { components: changed, cycles };
  }

  private followChains(
    delta: GraphDelta,
    components: ReadonlySet<number>,
    cycles: Set<number>,
    incoming: Incoming,
  ): Set<number> {
    const { g, chains, outside, reachBounds: bounds, components: c } = this;
    const ahead = new Set<number>();
    const lengths = new Map<number, number>();
    const remember = (component: number): void => {
      for (const n of membersOf(c, component)) {
        if (outside[n] === 1 && !lengths.has(n)) lengths.set(n, chains.length[n]);
      }
    };
    reviseUpwards(c, incoming, components, (k) => {
      remember(k);
      return reviseChain(g, c, chains, k, ahead);
    });
    for (const [n, before] of lengths) this.longestChains.move(before, chains.length[n]);
    reviseUpwards(c, incoming, components, (k) => {
      const isNew = reviseReachBound(g, c, bounds, k, this.maxReach);
      if (isNew) for (const n of membersOf(c, k)) ahead.add(n);
      return isNew;
    });
    for (const k of cycles) {
      if (c.of[k] === k && chains.hasCycle[k] === 1) this.cyclic.add(k);
      else this.cyclic.delete(k);
    }
    return ahead;
  }

  private followFanOuts({ tails }: GraphDelta, incoming: Incoming): void {
    const { g, fanOut: fan } = this;
    const look = (n: number): void => {
      if (!isEvent(g, n)) return;
      const now = fanOut(g, n);
      this.widths.move(fan[n], now);
      fan[n] = now;
    };
    for (const n of tails) {
      if (!isChannel(g, n)) look(n);
      else for (let i = 0; i < incoming.degree(n); i++) look(incoming.tail(n, i));
    }
  }

  private followNeverRaised(hasBinding: ReadonlySet<number>): { came: number[]; went: number[] } {
    const extra: { came: number[]; went: number[] } = { came: [], went: [] };
    for (const n of hasBinding) {
      if (!this.isNeverRaised(n)) continue;
      if (this.hasBinding[n] === 1) {
        this.neverRaised.add(n);
        extra.came.push(n);
      } else if (this.neverRaised.delete(n)) extra.went.push(n);
    }
    return extra;
  }
  private isNeverRaised(node: number): boolean {
    const { g } = this;
    if (!isEvent(g, node)) return false;
    const { x } = g;
    const instance = g.instanceOf[node];
    const { events, effects } = x.assetOf(instance);
    const { name, cause } = events[node - x.nodeBase[instance]];
    return (
      cause.type === 'raised' && !effects.some(({ effect }) => 'raise' in effect && effect.raise === name)
    );
  }

  private livenessAnew(which: 'livable' | 'awake'): { nodes: Set<number>; instances: Set<number> } {
    const old = this[which];
    const now = new Liveness(this.g, which === 'awake', which === 'awake' ? new Set() : this.neverRaised);
    this[which] = now;
    const nodes = new Set<number>();
    const instances = new Set<number>();
    now.live.forEach((alive, n) => {
      if (alive !== (old.live[n] ?? 0)) nodes.add(n);
    });
    now.blocked.forEach((count, i) => {
      if (count !== old.blocked[i]) instances.add(i);
    });
    return { nodes, instances };
  }
}
const NOTHING = { came: [], went: [] };

function eachNode(x: Expansion, instance: number, take: (node: number) => void): void {
  for (let n = x.nodeBase[instance]; n < x.nodeBase[instance + 1]; n++) take(n);
}

/** The components that do not hold just what one of the old components held. Cost: the nodes. */
function otherMembers(g: Graph, old: Components, now: Components): Set<number> {
  const other = new Set<number>();
  const oldOf = new Map<number, number>();
  for (let n = 0; n < g.nodes; n++) {
    const own = now.of[n];
    const before = n < old.of.length ? old.of[n] : -1;
    const first = oldOf.get(own);
    if (first === undefined) oldOf.set(own, before);
    const isSame = before >= 0 && (first === undefined || first === before);
    if (!isSame || membersOf(old, before).length !== membersOf(now, own).length) other.add(own);
  }
  return other;
}

function outsideEvents(g: Graph): Uint8Array {
  const { x } = g;
  const outside = new Uint8Array(g.first.length);
  const raised = x.index.assets.map((a) => a.events.map((e) => e.cause.type !== 'raised'));
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i) || x.isFree(i)) continue;
    raised[x.asset[i]].forEach((isOutside, e) => {
      if (isOutside) outside[x.nodeBase[i] + e] = 1;
    });
  }
  return outside;
}
