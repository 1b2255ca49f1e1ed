import { CompiledPath } from '../expand/resolve.js';
import { sceneInstances } from '../graph/resolver.js';
import { compareNodes, keyAt, NO_KEY, type Graph } from '../graph/graph.js';
import type { Value } from '../project/types.js';
import { sameValue } from '../project/value.js';

/** Where a ripple begins. */
export type RippleStart =
  /** All that an instance says, or one event or action of it. The address as in `pylon-ridge:mast-2`. */
  | { at: string; name?: string }
  /** All instances of an asset, or one event or action of all of them. */
  | { asset: string; name?: string }
  /** A channel, with all its keys or one. */
  | { channel: string; key?: Value };

/**
 * The nodes at which a ripple begins; none if the start names nothing. An instance or asset begins with its events on the
 * way forward, with its actions backward.
 */
export function startNodes(g: Graph, start: RippleStart, direction: 'forward' | 'backward'): number[] {
  const { x } = g;
  if ('channel' in start) {
    const at = x.index.channelAt.get(start.channel);
    if (at === undefined) return [];
    const { key } = start;
    const nodes = g.channels.of(at).filter((n) => {
      const own = keyAt(g, n);
      return key === undefined || (own !== NO_KEY && sameValue(g.values.value(own), key));
    });
    return nodes.sort((a, b) => compareNodes(g, a, b));
  }
  const instances = 'at' in start ? instanceAt(g, start.at) : instancesOf(g, start.asset);
  return instances.flatMap((i) => {
    const { events, actions, eventAt, actionAt } = x.assetOf(i);
    const base = x.nodeBase[i];
    if (start.name !== undefined) {
      const event = eventAt.get(start.name);
      const action = actionAt.get(start.name);
      return [
        ...(event === undefined ? [] : [base + event]),
        ...(action === undefined ? [] : [base + events.length + action]),
      ];
    }
    return direction === 'forward'
      ? events.map((_, e) => base + e)
      : actions.map((_, a) => base + events.length + a);
  });
}

function instanceAt(g: Graph, address: string): number[] {
  if (!address.includes(':')) return [];
  const at = new CompiledPath(g.x, sceneInstances(g.x), address, 0).resolve(0);
  return at < 0 ? [] : [at];
}
function instancesOf(g: Graph, asset: string): number[] {
  const number = g.x.index.assetAt.get(asset);
  return number === undefined ? [] : [...g.x.instancesOf(number)];
}
