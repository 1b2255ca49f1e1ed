import type { GraphDelta } from '../../graph/graph-delta.js';
import { bindingOfEdge, isChannel, PUBLISH, type Graph } from '../../graph/graph.js';
import { micros } from '../micros.js';

/** Channel nodes that events publish to, each after a delay, and the events that publish to just these. */
export interface Audience {
  readonly number: number;
  /** Node, and delay in whole microseconds. */
  readonly channels: readonly { node: number; delay: number }[];
  readonly events: Set<number>;
}

/** The first of an audience's events. */
export function firstOf({ events }: Audience): number {
  let first = Infinity;
  for (const event of events) if (event < first) first = event;
  return first;
}

/**
 * Events grouped by what they publish to: what listens there is the same for all of a group. Cost: the publish edges; of an
 * edit, the events and channels that change.
 */
export class Audiences {
  private readonly byId = new Map<string, Audience>();
  private readonly byNumber = new Map<number, Audience>();
  private readonly byChannel = new Map<number, Set<Audience>>();
  private readonly ofEvent = new Map<number, { id: string; audience: Audience }>();
  private next = 0;

  constructor(private readonly g: Graph) {
    for (let n = 0; n < g.nodes; n++) this.place(n);
  }

  get(number: number): Audience | undefined {
    return this.byNumber.get(number);
  }
  numbers(): Iterable<number> {
    return this.byNumber.keys();
  }
  of(event: number): Audience | undefined {
    return this.ofEvent.get(event)?.audience;
  }
  /** The audiences that an edit changes: other events, or other listeners. */
  follow({ tails }: GraphDelta): Set<number> {
    const changed = new Set<number>();
    for (const n of tails) {
      if (isChannel(this.g, n)) for (const a of this.byChannel.get(n) ?? []) changed.add(a.number);
      const before = this.of(n);
      if (before) changed.add(before.number);
      this.place(n);
      const after = this.of(n);
      if (after) changed.add(after.number);
    }
    return changed;
  }

  private place(event: number): void {
    const { g } = this;
    const published = publishedBy(g, event);
    const id = published.size === 0 ? '' : [...published.keys()].sort().join(' ');
    const before = this.ofEvent.get(event);
    if ((before?.id ?? '') === id) return;
    if (before) this.leave(event, before.id, before.audience);
    if (id !== '') this.join(event, id, [...published.values()]);
  }
  private leave(event: number, id: string, audience: Audience): void {
    this.ofEvent.delete(event);
    audience.events.delete(event);
    if (audience.events.size > 0) return;
    this.byId.delete(id);
    this.byNumber.delete(audience.number);
    for (const { node } of audience.channels) {
      // A channel may be in it with several delays.
      const all = this.byChannel.get(node);
      all?.delete(audience);
      if (all?.size === 0) this.byChannel.delete(node);
    }
  }
  private join(event: number, id: string, channels: Audience['channels']): void {
    let audience = this.byId.get(id);
    if (!audience) {
      audience = { number: this.next++, channels, events: new Set() };
      this.byId.set(id, audience);
      this.byNumber.set(audience.number, audience);
      for (const { node } of channels) {
        const all = this.byChannel.get(node);
        if (all) all.add(audience);
        else this.byChannel.set(node, new Set([audience]));
      }
    }
    audience.events.add(event);
    this.ofEvent.set(event, { id, audience });
  }
}

const NOTHING: ReadonlyMap<string, { node: number; delay: number }> = new Map();
function publishedBy(g: Graph, event: number): ReadonlyMap<string, { node: number; delay: number }> {
  let published: Map<string, { node: number; delay: number }> | null = null;
  for (let e = g.first[event]; e < g.end[event]; e++) {
    if (g.meta[e] >> 2 !== PUBLISH) continue;
    const to = { node: g.head[e], delay: micros(bindingOfEdge(g, e)!.binding) };
    (published ??= new Map()).set(`${to.node}+${to.delay}`, to);
  }
  return published ?? NOTHING;
}
