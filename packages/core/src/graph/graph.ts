import type { Expansion } from '../expand/expansion.js';
import type { Selector } from '../expand/select.js';
import type { ValueTable } from '../expand/values.js';
import { byCodeUnits, canonicalJson } from '../project/canonical.js';
import type { Binding, Effect } from '../project/types.js';
import type { ChannelNodes, KeyCounts } from './channel-nodes.js';

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

/** In {@link Graph.action}: the number is kept free for what an edit brings. */
export const UNUSED = 2;

/** A key number of a channel node or record: no key at all. */
export const NO_KEY = -1;
/** A key that would be read from an end that is missing: it counts as every key. */
export const ANY_KEY = -2;

/** Strides of the lists of {@link BindingRecords}. */
export const FAULT_STRIDE = 2;
export const SELECTION_STRIDE = 2;
export const PUBLICATION_STRIDE = 4;
export const HEARING_STRIDE = 5;

/** What an authored binding puts into a graph besides edges, in all of its copies. Each list begins with the owner. */
export interface BindingRecords {
  /** Owner, fault bits; for each copy that does not resolve. */
  faults: number[];
  /** Owner, and what its `every` could select (a spawned instance counts as two; 2 is 2 or more). */
  selections: number[];
  /** Owner, channel, key, 1 if it has an edge or 0 if it only counts as if it were there. */
  publications: number[];
  /** Owner, channel, key, node of the action or −1, 1 if it has edges or 0 as above. */
  hearings: number[];
}

/**
 * The binding graph. Nodes: for each instance its events, then its actions, from `x.nodeBase`; then the channel nodes.
 * Edges are grouped by tail in running order: those of node n are `first[n]` up to `end[n]`. An edit in place
 * (`edit-graph.ts`) gives tails that change another run of edges and leaves a hole behind; whoever holds a graph over an
 * edit sees the new state.
 */
export interface Graph {
  readonly x: Expansion;
  readonly values: ValueTable;
  /** Selections, by the values of {@link values}. */
  readonly select: Selector;
  /** Numbers given to nodes; those of channel nodes that are gone are among them. */
  nodes: number;
  readonly channels: ChannelNodes;
  /** One entry for each node; longer where there is room for more. */
  first: Int32Array;
  end: Int32Array;
  head: Int32Array;
  /** Class in the low two bits, kind above. */
  meta: Uint8Array;
  /** An expanded binding's number (>= 0), or −1 − the effect's number in the list of its asset. */
  ref: Int32Array;
  /** How many edges there are. */
  edges: number;
  /** The instance of each node, or the free number of one; −1 − the channel node's own number for a channel's. */
  instanceOf: Int32Array;
  /** For each node 1 if it is an action's, {@link UNUSED} if it is no instance's. */
  action: Uint8Array;
  /** By authored binding; only of those that have any. */
  readonly records: Map<number, BindingRecords>;
  /** Those of them that have faults. */
  readonly faulty: Set<number>;
  /** How often keys of channels are published to and listened at; a binding with a missing end counts. */
  readonly published: KeyCounts;
  readonly heard: KeyCounts;
  /** For each event and action, how many bindings count it as heard or driven though their other end may be missing. */
  readonly countsAsBound: Int32Array;
  /** Enabled and unmuted bindings over all instances. */
  expandedBindings: number;
}

export function isChannel({ instanceOf }: Graph, node: number): boolean {
  return instanceOf[node] < 0;
}
/** The channel of a channel node; −1 if the node is gone. */
export function channelAt({ instanceOf, channels }: Graph, node: number): number {
  return channels.channel[-1 - instanceOf[node]];
}
/** The key's number in `values` of a channel node, or {@link NO_KEY}. */
export function keyAt({ instanceOf, channels }: Graph, node: number): number {
  return channels.key[-1 - instanceOf[node]];
}
export function edgeClass(g: Graph, edge: number): number {
  return g.meta[edge] & 3;
}
export function edgeKind(g: Graph, edge: number): number {
  return g.meta[edge] >> 2;
}
/**
 * The order of nodes wherever they are listed: those of instances as they are numbered, then channel nodes by channel and
 * key, whichever was named first.
 */
export function compareNodes(g: Graph, a: number, b: number): number {
  if (!isChannel(g, a) || !isChannel(g, b)) return Number(isChannel(g, a)) - Number(isChannel(g, b)) || a - b;
  return channelAt(g, a) - channelAt(g, b) || byCodeUnits(keyText(g, a), keyText(g, b));
}
function keyText(g: Graph, node: number): string {
  const key = keyAt(g, node);
  return key === NO_KEY ? '' : canonicalJson(g.values.value(key));
}
export function isEvent({ instanceOf, action }: Graph, node: number): boolean {
  return instanceOf[node] >= 0 && action[node] === 0;
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
  return { owner: x.ownerOf(number), binding: x.bindingOf(number), number };
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
