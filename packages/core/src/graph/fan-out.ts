import { BIND, isEvent, PUBLISH, type Graph } from './graph.js';

/**
 * For each event node the number of distinct actions that it reaches directly, by bind or by publish and hear edges;
 * 0 for all other nodes. Cost: edges, and for events with several ways also what is heard on their channels.
 */
export function fanOuts(g: Graph): Int32Array {
  const fan = new Int32Array(g.first.length);
  const mark = new Int32Array(g.nodes).fill(-1);
  const countChannel = (channel: number, stamp: number): number => {
    let count = 0;
    for (let e = g.first[channel]; e < g.end[channel]; e++) {
      if (mark[g.head[e]] === stamp) continue;
      mark[g.head[e]] = stamp;
      count++;
    }
    return count;
  };
  const heardAt = g.channels.node.map((node, own) =>
    g.channels.channel[own] < 0 ? 0 : countChannel(node, node),
  );
  for (let n = 0; n < g.nodes; n++) {
    if (!isEvent(g, n)) continue;
    const from = g.first[n];
    const to = g.end[n];
    if (to - from === 1 && g.meta[from] >> 2 === PUBLISH) {
      fan[n] = heardAt[-1 - g.instanceOf[g.head[from]]];
      continue;
    }
    let count = 0;
    for (let e = from; e < to; e++) {
      const head = g.head[e];
      const kind = g.meta[e] >> 2;
      if (kind === PUBLISH) count += countChannel(head, n);
      else if (kind === BIND && mark[head] !== n) {
        mark[head] = n;
        count++;
      }
    }
    fan[n] = count;
  }
  return fan;
}

/** The same for one event. Cost: what it reaches directly. */
export function fanOut(g: Graph, event: number): number {
  const actions = new Set<number>();
  for (let e = g.first[event]; e < g.end[event]; e++) {
    const head = g.head[e];
    if (g.meta[e] >> 2 === BIND) actions.add(head);
    else for (let h = g.first[head]; h < g.end[head]; h++) actions.add(g.head[h]);
  }
  return actions.size;
}
