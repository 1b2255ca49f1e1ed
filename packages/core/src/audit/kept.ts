import type { GraphDelta } from '../graph/patch.js';
import { tailOf } from '../graph/graph.js';
import { INSTANCE_BLOCK } from './blocks.js';
import type { Besides } from './touched.js';

/**
 * What an audit found and the next one may take over. Everything in it holds as long as declarations, placements and policy
 * stay, or is forgotten with what it depends on; what depends on bindings besides is kept for an asset, a binding or a block of instances that the edit does not touch.
 */
export class Kept {
  /** By what declarations and placements say alone. */
  readonly placed = new Map<string, unknown>();
  /** By name for assets and bindings; one that has changed is another object, so its answers fall away with it. */
  readonly authored = new Map<string, WeakMap<object, unknown>>();
  /** For each question the nodes found in each block of instances; undefined where it is to be asked again. */
  readonly blocks = new Map<string, (Int32Array | undefined)[]>();
  /** Names in `placed` and `blocks` of what depends besides on where things stand, or on the policy. */
  private readonly besides: Record<Besides, Set<string>> = { plan: new Set(), policy: new Set() };

  note(name: string, besides: Besides): void {
    this.besides[besides].add(name);
  }
  forget(what: Besides): void {
    for (const name of this.besides[what]) {
      this.placed.delete(name);
      this.blocks.delete(name);
    }
  }

  /** Drops what was found in the blocks whose instances are at an end of a changed edge, or publish to one. */
  touch({ graph: g, removed, added, tails }: GraphDelta): void {
    const dirty = new Set<number>();
    const mark = (node: number): void => {
      if (node < g.channelBase) dirty.add(Math.floor(g.instanceOf[node] / INSTANCE_BLOCK));
    };
    for (const edges of [removed, added]) {
      edges.tails.forEach(mark);
      edges.heads.forEach(mark);
    }
    publishersTo(g, tails).forEach(mark);
    for (const found of this.blocks.values()) for (const block of dirty) found[block] = undefined;
  }
}

/** The events that publish to any of these nodes. Cost: a pass over the edges, if there is a channel among them. */
export function publishersTo(g: GraphDelta['graph'], nodes: Int32Array): number[] {
  const channels = new Set(nodes.filter((n) => n >= g.channelBase));
  const publishers: number[] = [];
  if (channels.size === 0) return publishers;
  const { head, channelBase } = g;
  for (let e = 0; e < head.length; e++) {
    if (head[e] >= channelBase && channels.has(head[e])) publishers.push(tailOf(g, e));
  }
  return publishers;
}
