import { cyclicComponents, type Components } from './components.js';
import { isAction, type Graph } from './graph.js';
import { shortestPath, type GraphPath } from './paths.js';
import { reviseUpwards } from './revise.js';
import { append } from '../util/append.js';

export interface Chains {
  /** For each component the number of hops on the heaviest path that begins there, its own actions included. */
  readonly length: Int32Array;
  /** For each component 1 if some heaviest path meets a cycle: the length is then "or more". */
  readonly cyclic: Uint8Array;
  /** For each component 1 if it has a cycle itself. */
  readonly hasCycle: Uint8Array;
}

/**
 * Heaviest paths over the condensation: a component weighs the number of actions in it. Components are numbered so
 * that edges lead to smaller numbers, so one sweep over them by number suffices. Cost: nodes + edges.
 */
export function chainLengths(g: Graph, c: Components): Chains {
  const chains: Chains = {
    length: new Int32Array(c.count),
    cyclic: new Uint8Array(c.count),
    hasCycle: cyclicComponents(g, c),
  };
  for (let k = 0; k < c.count; k++) weigh(g, c, chains, k);
  return chains;
}

/**
 * The chains after edges at some tails came or went while the components stayed as they were; null if too much of them
 * would have to be looked at again. Cost: a pass over the edges for each hop that the change is felt up the chains.
 */
export function reviseChains(g: Graph, c: Components, old: Chains, tails: Int32Array): Chains | null {
  const { length, cyclic, hasCycle } = old;
  const chains = { length: length.slice(), cyclic: cyclic.slice(), hasCycle: hasCycle.slice() };
  for (const n of tails) chains.hasCycle[c.of[n]] = isCyclic(g, c, c.of[n]);
  return reviseUpwards(g, c, tails, (k) => weigh(g, c, chains, k)) ? chains : null;
}

function isCyclic(g: Graph, c: Components, k: number): 0 | 1 {
  for (let m = c.starts[k]; m < c.starts[k + 1]; m++) {
    const n = c.members[m];
    for (let e = g.first[n]; e < g.first[n + 1]; e++) if (c.of[g.head[e]] === k) return 1;
  }
  return 0;
}

/** Works out one component from those that it leads to; true if that changed it. */
function weigh(g: Graph, c: Components, { length, cyclic, hasCycle }: Chains, k: number): boolean {
  const { of, starts, members } = c;
  const { first, head } = g;
  let best = 0;
  let cycleAhead = 0;
  let weight = 0;
  for (let m = starts[k]; m < starts[k + 1]; m++) {
    const n = members[m];
    if (isAction(g, n)) weight++;
    for (let e = first[n]; e < first[n + 1]; e++) {
      const to = of[head[e]];
      if (to === k) continue;
      if (length[to] > best) {
        best = length[to];
        cycleAhead = cyclic[to];
      } else if (length[to] === best) cycleAhead |= cyclic[to];
    }
  }
  const ahead = hasCycle[k] | cycleAhead;
  const changed = length[k] !== best + weight || cyclic[k] !== ahead;
  length[k] = best + weight;
  cyclic[k] = ahead;
  return changed;
}

/**
 * One heaviest path from a node, as edges. It leaves a component by the first edge that leads to a heaviest path, and
 * goes there the shortest way.
 */
export function heaviestPath(g: Graph, c: Components, chains: Chains, from: number): GraphPath {
  const path: GraphPath = { start: from, edges: [], tails: [] };
  let at = from;
  for (;;) {
    const k = c.of[at];
    const exit = wayOut(g, c, chains, k);
    if (!exit) break;
    const inside = shortestPath(g, at, exit.tail, (n) => c.of[n] === k);
    if (inside) {
      append(path.edges, inside.edges);
      append(path.tails, inside.tails);
    }
    path.edges.push(exit.edge);
    path.tails.push(exit.tail);
    at = g.head[exit.edge];
  }
  return path;
}

function wayOut(
  g: Graph,
  c: Components,
  { length }: Chains,
  k: number,
): { edge: number; tail: number } | null {
  let best = 0;
  let edge = -1;
  let tail = -1;
  for (let m = c.starts[k]; m < c.starts[k + 1]; m++) {
    const n = c.members[m];
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      const to = c.of[g.head[e]];
      if (to === k || length[to] < best || length[to] === 0 || (length[to] === best && e > edge)) continue;
      best = length[to];
      edge = e;
      tail = n;
    }
  }
  return edge < 0 ? null : { edge, tail };
}
