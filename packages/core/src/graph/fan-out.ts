import { BIND, isEvent, PUBLISH, type Graph } from './graph.js';

/**
 * For each event node the number of distinct actions that it reaches directly, by bind or by publish and hear edges;
 * 0 for all other nodes. Cost: edges, and for events with several ways also what is heard on their channels.
 */
export function fanOuts(g: Graph): Int32Array {
  const fan = new Int32Array(g.nodes);
  const mark = new Int32Array(g.nodes).fill(-1);
  const heardAt = new Int32Array(g.nodes - g.channelBase).fill(-1);
  const countChannel = (channel: number, stamp: number): number => {
    let count = 0;
    for (let e = g.first[channel]; e < g.first[channel + 1]; e++) {
      if (mark[g.head[e]] === stamp) continue;
      mark[g.head[e]] = stamp;
      count++;
    }
    return count;
  };
  for (let c = g.channelBase; c < g.nodes; c++) heardAt[c - g.channelBase] = countChannel(c, c);
  for (let n = 0; n < g.channelBase; n++) {
    if (!isEvent(g, n)) continue;
    const from = g.first[n];
    const to = g.first[n + 1];
    if (to - from === 1 && g.meta[from] >> 2 === PUBLISH) {
      fan[n] = heardAt[g.head[from] - g.channelBase];
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

/** The fan-outs after the edges of some events, or of channels that these publish to, changed. Cost: what they reach. */
export function reviseFanOuts(g: Graph, old: Int32Array, events: Iterable<number>): Int32Array {
  const fan = old.slice();
  for (const n of events) {
    const actions = new Set<number>();
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      const head = g.head[e];
      if (g.meta[e] >> 2 === BIND) actions.add(head);
      else for (let h = g.first[head]; h < g.first[head + 1]; h++) actions.add(g.head[h]);
    }
    fan[n] = actions.size;
  }
  return fan;
}
