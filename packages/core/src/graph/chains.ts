import { cyclicComponents, type Components } from './components.js';
import { isAction, type Graph } from './graph.js';
import { shortestPath, type GraphPath } from './paths.js';

export interface Chains {
  /** For each component the number of hops on the heaviest path that begins there, its own actions included. */
  readonly length: Int32Array;
  /** For each component 1 if some heaviest path meets a cycle: the length is then "or more". */
  readonly cyclic: Uint8Array;
  /** The edge by which the path of evidence leaves the component, with its tail; −1 at the end. */
  readonly exitEdge: Int32Array;
  readonly exitTail: Int32Array;
  /** For each component 1 if it has a cycle itself. */
  readonly hasCycle: Uint8Array;
}

/**
 * Heaviest paths over the condensation: a component weighs the number of actions in it. Components are numbered so
 * that edges lead to smaller numbers, so one sweep over them by number suffices. Cost: nodes + edges.
 */
export function chainLengths(g: Graph, c: Components): Chains {
  const weight = new Int32Array(c.count);
  for (let n = 0; n < g.channelBase; n++) if (isAction(g, n)) weight[c.of[n]]++;
  const hasCycle = cyclicComponents(g, c);
  const length = new Int32Array(c.count);
  const cyclic = new Uint8Array(c.count);
  const exitEdge = new Int32Array(c.count).fill(-1);
  const exitTail = new Int32Array(c.count).fill(-1);
  const best = new Int32Array(c.count);
  const { starts, members } = c;
  for (let k = 0; k < c.count; k++) {
    let cycleAhead = 0;
    for (let m = starts[k]; m < starts[k + 1]; m++) {
      const n = members[m];
      for (let e = g.first[n]; e < g.first[n + 1]; e++) {
        const to = c.of[g.head[e]];
        if (to === k) continue;
        if (length[to] > best[k]) {
          best[k] = length[to];
          exitEdge[k] = e;
          exitTail[k] = n;
          cycleAhead = cyclic[to];
        } else if (length[to] === best[k] && cyclic[to] === 1) {
          cycleAhead = 1;
        }
      }
    }
    length[k] = best[k] + weight[k];
    cyclic[k] = hasCycle[k] | cycleAhead;
  }
  return { length, cyclic, exitEdge, exitTail, hasCycle };
}

/** One heaviest path from a node, as edges. Inside a component it goes the shortest way to where it leaves. */
export function heaviestPath(g: Graph, c: Components, chains: Chains, from: number): GraphPath {
  const path: GraphPath = { start: from, edges: [], tails: [] };
  let at = from;
  for (;;) {
    const k = c.of[at];
    const edge = chains.exitEdge[k];
    if (edge < 0) break;
    const tail = chains.exitTail[k];
    const inside = shortestPath(g, at, tail, (n) => c.of[n] === k);
    if (inside) {
      path.edges.push(...inside.edges);
      path.tails.push(...inside.tails);
    }
    path.edges.push(edge);
    path.tails.push(tail);
    at = g.head[edge];
  }
  return path;
}
