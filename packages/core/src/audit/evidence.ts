import type { Expansion } from '../expand/expansion.js';
import type { Graph } from '../graph/graph.js';
import type { BindingRef, Evidence } from './finding.js';
import { nodeRef } from './names.js';

/** Names and places that evidence lists at the most. */
const MOST_KNOWN = 200;
const MOST_PLACES = 50;

export function bindingsEvidence(bindings: BindingRef[]): Evidence {
  return { kind: 'bindings', bindings };
}
/** A name that is missing, and the first of those that are there. */
export function namesEvidence(wanted: string, names: Iterable<string>): Evidence {
  const known: string[] = [];
  for (const name of names) {
    if (known.length >= MOST_KNOWN) break;
    known.push(name);
  }
  return { kind: 'names', wanted, known };
}
/** Nodes, of which so many are shown; `count` where only the first are given. */
export function nodesEvidence(
  g: Graph,
  nodes: ArrayLike<number>,
  shown = nodes.length,
  count = nodes.length,
): Evidence {
  const first = Array.from({ length: Math.min(shown, nodes.length) }, (_, i) => nodeRef(g, nodes[i]));
  return { kind: 'nodes', nodes: first, more: count - first.length };
}
/** Evidence that names places, each with the same note; the first fifty. */
export function placesEvidence(
  x: Expansion,
  instances: readonly number[] | Int32Array,
  note: string,
): Evidence {
  const places = [...instances.slice(0, MOST_PLACES)].map((i) => ({ at: x.address(i), note }));
  return { kind: 'places', places };
}
