import type { Expansion } from '../expand/expansion.js';
import type { ValueTable } from '../expand/values.js';
import type { Binding, Effect } from '../project/types.js';

/** Edge classes, weakest first: the weakest that applies is the edge's. */
export const EDGE_CLASSES = ['limited', 'conditional', 'delayed', 'instant'] as const;
export type EdgeClass = (typeof EDGE_CLASSES)[number];
export const LIMITED = 0;
export const CONDITIONAL = 1;
export const DELAYED = 2;
export const INSTANT = 3;

export const EDGE_KINDS = ['bind', 'publish', 'hear', 'raise', 'spawn'] as const;
export type EdgeKind = (typeof EDGE_KINDS)[number];
export const BIND = 0;
export const PUBLISH = 1;
export const HEAR = 2;
export const RAISE = 3;
export const SPAWN = 4;

/** A key number of a channel node or record: no key at all. */
export const NO_KEY = -1;
/** A key that would be read from an end that is missing: it counts as every key. */
export const ANY_KEY = -2;

/** Strides of {@link Graph.publications} and {@link Graph.hearings}. */
export const PUBLICATION_STRIDE = 4;
export const HEARING_STRIDE = 5;
export const FAULT_STRIDE = 2;
export const SELECTION_STRIDE = 2;

/**
 * The binding graph. Nodes: for each instance its events, then its actions, from `x.nodeBase`; then the channel nodes.
 * Edges are grouped by tail in running order: those of node n are `first[n]` up to `first[n + 1]`.
 */
export interface Graph {
  readonly x: Expansion;
  readonly values: ValueTable;
  readonly nodes: number;
  /** Where channel nodes begin. */
  readonly channelBase: number;
  /** For each channel node its channel's number and its key's number in `values`, or {@link NO_KEY}. */
  readonly channelOf: Int32Array;
  readonly keyOf: Int32Array;
  /** nodes + 1 entries. */
  readonly first: Int32Array;
  readonly head: Int32Array;
  /** Class in the low two bits, kind above. */
  readonly meta: Uint8Array;
  /** An expanded binding's number (>= 0), or −1 − the effect's number in the list of its asset. */
  readonly ref: Int32Array;
  /** The instance of each node that is not a channel's. */
  readonly instanceOf: Int32Array;
  /** For each node 1 if it is an action's. */
  readonly action: Uint8Array;
  /** Stride 2: expanded binding, fault bits; for each enabled, unmuted one that does not resolve. */
  readonly faulty: Int32Array;
  /** Stride 4: expanded binding, channel, key, 1 if it has an edge or 0 if it only counts as if it were there. */
  readonly publications: Int32Array;
  /** Stride 5: expanded binding, channel, key, node of the action or −1, 1 if it has edges or 0 as above. */
  readonly hearings: Int32Array;
  /** Stride 2: expanded binding, and what its `every` could select (a spawned instance counts as two; 2 is 2 or more). */
  readonly selections: Int32Array;
  /** For each event and action, how many bindings count it as heard or driven though their other end may be missing. */
  readonly countsAsBound: Int32Array;
  /** Enabled and unmuted bindings over all instances. */
  readonly expandedBindings: number;
}

export function edgeClass(g: Graph, edge: number): number {
  return g.meta[edge] & 3;
}
export function edgeKind(g: Graph, edge: number): number {
  return g.meta[edge] >> 2;
}
/** The tail of an edge. Cost: a search among the nodes; walks that go from tail to edge know it already. */
export function tailOf({ first, nodes }: Graph, edge: number): number {
  let low = 0;
  let high = nodes;
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (first[mid] <= edge) low = mid;
    else high = mid;
  }
  return low;
}
export function isEvent({ channelBase, action }: Graph, node: number): boolean {
  return node < channelBase && action[node] === 0;
}
export function isAction({ action }: Graph, node: number): boolean {
  return action[node] === 1;
}
export function eventNode(x: Expansion, instance: number, event: number): number {
  return x.nodeBase[instance] + event;
}
export function actionNode(x: Expansion, instance: number, action: number): number {
  return x.nodeBase[instance] + x.assetOf(instance).events.length + action;
}

/** The authored binding of an edge with its owner, or null for an edge of an effect. */
export function bindingOfEdge(
  g: Graph,
  edge: number,
): { owner: number; binding: Binding; number: number } | null {
  const number = g.ref[edge];
  return number < 0 ? null : expandedBinding(g.x, number);
}
export function expandedBinding(
  x: Expansion,
  number: number,
): { owner: number; binding: Binding; number: number } {
  const owner = x.ownerOf(number);
  return { owner, binding: x.assetOf(owner).bindings[number - x.bindingBase[owner]], number };
}
/** The effect of an edge whose tail is that action node. */
export function effectOfEdge(g: Graph, edge: number, tail: number): { action: number; effect: Effect } {
  return g.x.assetOf(g.instanceOf[tail]).effects[-1 - g.ref[edge]];
}
/** Seconds that an edge takes. */
export function edgeDelay(g: Graph, edge: number, tail: number): number {
  const bound = bindingOfEdge(g, edge);
  if (bound) return bound.binding.delay ?? 0;
  const { effect } = effectOfEdge(g, edge, tail);
  return 'raise' in effect ? (effect.delay ?? 0) : 0;
}
