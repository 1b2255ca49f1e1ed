import { DirectedGraph } from 'graphology';
import { stronglyConnectedComponents } from 'graphology-components';

/** The strongly connected components alone, by a general graph library. */
export function components(graph) {
  return stronglyConnectedComponents(graph).length;
}
export function toLibrary(g) {
  const graph = new DirectedGraph();
  for (let n = 0; n < g.nodes; n++) graph.addNode(n);
  for (let n = 0; n < g.nodes; n++) for (let e = g.first[n]; e < g.end[n]; e++) graph.mergeEdge(n, g.head[e]);
  return graph;
}
