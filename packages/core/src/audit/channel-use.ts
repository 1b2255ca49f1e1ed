import { HEARING_STRIDE, PUBLICATION_STRIDE, type Graph } from '../graph/graph.js';

/** For each channel that anything is published to, the keys; a binding with a missing end counts. */
export function publishedKeys(g: Graph): Map<number, Set<number>> {
  return keysByChannel(g.publications, PUBLICATION_STRIDE);
}
/** For each channel that anything listens to, the keys; a binding with a missing end counts. */
export function heardKeys(g: Graph): Map<number, Set<number>> {
  return keysByChannel(g.hearings, HEARING_STRIDE);
}
function keysByChannel(records: Int32Array, stride: number): Map<number, Set<number>> {
  const keys = new Map<number, Set<number>>();
  for (let r = 0; r < records.length; r += stride) {
    const channel = records[r + 1];
    let own = keys.get(channel);
    if (!own) keys.set(channel, (own = new Set()));
    own.add(records[r + 2]);
  }
  return keys;
}
