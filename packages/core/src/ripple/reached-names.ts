import { channelAt, isChannel, keyAt, NO_KEY, type Graph } from '../graph/graph.js';
import type { RippleAsk } from './model.js';
import { adjacency, MOST_NODES, walk } from './reached.js';
import { startNodes } from './start.js';

/** Names of all nodes that a start reaches, by which a trial is compared with what stands. */
export function reachedNames(g: Graph, ask: RippleAsk): Set<string> {
  const starts = startNodes(g, ask.start, ask.direction);
  const r = walk(g, adjacency(g, ask.direction), starts, MOST_NODES);
  return new Set([...r.nodes].map((n) => nodeName(g, n)));
}
/** A name that a node keeps while other edits come and go. */
export function nodeName(g: Graph, node: number): string {
  if (!isChannel(g, node)) return String(node);
  const key = keyAt(g, node);
  return `#${channelAt(g, node)}/${key === NO_KEY ? '' : JSON.stringify(g.values.value(key))}`;
}
