import { nodeRef } from '../audit/names.js';
import { effectName } from '../project/effect-name.js';
import {
  bindingOfEdge,
  EDGE_CLASSES,
  EDGE_KINDS,
  edgeDelay,
  effectOfEdge,
  type EdgeClass,
  type EdgeKind,
  type Graph,
} from '../graph/graph.js';
import { canonicalJson } from '../project/canonical.js';

export interface EdgeLine {
  tail: number;
  head: number;
  from: string;
  to: string;
  kind: EdgeKind;
  class: EdgeClass;
  /** Seconds. */
  delay: number;
  /** `owner binding`, or `action effect`. */
  by: string;
  /** The address of whose binding it is, and its id; null for an effect. */
  binding: { owner: string; id: string } | null;
  /** The name of the effect; null for a binding. */
  effect: string | null;
}

/** `pylon-ridge:mast-2 onGust`, `#tension ["east"]`. */
export function nodeName(g: Graph, node: number): string {
  const ref = nodeRef(g, node);
  if (ref.at !== undefined) return `${ref.at} ${ref.name}`;
  return ref.key === undefined ? `#${ref.name}` : `#${ref.name} [${canonicalJson(ref.key)}]`;
}

/** Every edge of the graph in names, in the order of its tail and of running. */
export function edgeTable(g: Graph): EdgeLine[] {
  const lines: EdgeLine[] = [];
  for (let n = 0; n < g.nodes; n++) {
    const from = nodeName(g, n);
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const bound = bindingOfEdge(g, e);
      const binding = bound && { owner: g.x.address(bound.owner), id: bound.binding.id };
      const effect = bound ? null : effectName(effectOfEdge(g, e, n).effect);
      lines.push({
        tail: n,
        head: g.head[e],
        from,
        to: nodeName(g, g.head[e]),
        kind: EDGE_KINDS[g.meta[e] >> 2],
        class: EDGE_CLASSES[g.meta[e] & 3],
        delay: edgeDelay(g, e, n),
        by: binding ? `${binding.owner} ${binding.id}` : String(effect),
        binding,
        effect,
      });
    }
  }
  return lines;
}
