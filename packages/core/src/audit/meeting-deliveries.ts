import { BIND, bindingOfEdge, type Graph } from '../graph/graph.js';
import { append } from '../util/append.js';
import type { Asker } from './exclusion.js';
import type { Audience } from './facts/audiences.js';
import { micros } from './micros.js';

/** Something that an edge to an action does, which may meet what another one does at the same time. */
export interface DeliveredAction {
  /** Actions meet where this is equal. */
  key: string;
  /** What is then compared. */
  value: string;
}
export interface Met extends DeliveredAction {
  /** Number of the expanded binding that ends at the action. */
  binding: number;
  /** Microseconds from the raise, or from when the channel is published. */
  time: number;
  /** Bound to the event itself, rather than heard on a channel. */
  direct: boolean;
  /** The event, or the channel that is heard. */
  node: number;
}
/** As it is asked whether two can both serve. */
export function askerOf({ binding: number, node }: Met): Asker {
  return { number, node };
}
/** Actions of one event at one time with one key, two or more, in running order. */
export type Meeting = readonly Met[];

/**
 * Finds what the deliveries of one event do at the same time: total delays are equal in whole microseconds, each delay
 * rounded. Meetings among what an audience hears are the same for all of its events, so they are apart from those that an
 * event has a direct part in.
 */
export class MeetingDeliveries {
  private readonly channels = new Map<number, HeardActions>();

  constructor(
    private readonly g: Graph,
    /** What an edge to an action does. */
    private readonly actionsOf: (edge: number) => readonly DeliveredAction[],
  ) {}

  /** Looks at a channel anew: its listeners changed. */
  forget(channel: number): void {
    this.channels.delete(channel);
  }

  /** The meetings that an event has a direct part in; whoever takes them passes over pairs without one. Cost: its own edges. */
  eachDirect(event: number, audience: Audience | undefined, take: (meeting: Meeting) => void): void {
    const heard = this.heardBy(audience);
    for (const own of this.direct(event).values()) {
      const [{ key, time }] = own;
      give(this.g, [...own, ...metAt(heard, key, time)], take);
    }
  }

  /**
   * The meetings among what an audience hears, where one of its events has no direct part. Cost: what is heard, but for the
   * largest channel; where something meets, the edges of the events up to that one.
   */
  eachHeard(audience: Audience, take: (meeting: Meeting) => void): void {
    const heard = this.heardBy(audience);
    let largest: HeardActions | null = null;
    for (const { actions } of heard) if (!largest || actions.size > largest.size) largest = actions;
    const seen = new Set<string>();
    for (const { actions, delay } of heard) {
      for (const [{ key, time }] of actions === largest ? actions.repeated : actions.all) {
        const at = placeOf(key, time + delay);
        if (seen.has(at)) continue;
        seen.add(at);
        const all = metAt(heard, key, time + delay);
        if (all.length > 1 && this.isLeftAlone(audience, at)) give(this.g, all, take);
      }
    }
  }
  private isLeftAlone({ events }: Audience, at: string): boolean {
    for (const event of events) if (!this.direct(event).has(at)) return true;
    return false;
  }

  private direct(event: number): Map<string, Met[]> {
    const { g } = this;
    const met: Met[] = [];
    for (let e = g.first[event]; e < g.end[event]; e++) {
      if (g.meta[e] >> 2 === BIND) append(met, this.met(e, event, true));
    }
    return grouped(met);
  }
  private heardBy(audience: Audience | undefined): { actions: HeardActions; delay: number }[] {
    return (audience?.channels ?? []).map(({ node, delay }) => ({ actions: this.heard(node), delay }));
  }
  private heard(channel: number): HeardActions {
    let actions = this.channels.get(channel);
    if (actions) return actions;
    const { g } = this;
    const met: Met[] = [];
    for (let e = g.first[channel]; e < g.end[channel]; e++) append(met, this.met(e, channel, false));
    this.channels.set(channel, (actions = new HeardActions(met)));
    return actions;
  }
  private met(edge: number, node: number, direct: boolean): Met[] {
    const binding = this.g.ref[edge];
    const time = micros(bindingOfEdge(this.g, edge)!.binding);
    return this.actionsOf(edge).map(({ key, value }) => ({ key, value, binding, time, direct, node }));
  }
}

/** What hears one channel, by key and time. */
class HeardActions {
  private readonly groups: Map<string, Met[]>;
  readonly repeated: Met[][];
  constructor(met: readonly Met[]) {
    this.groups = grouped(met);
    this.repeated = [...this.groups.values()].filter((group) => group.length > 1);
  }
  get size(): number {
    return this.groups.size;
  }
  get all(): Iterable<Met[]> {
    return this.groups.values();
  }
  at(key: string, time: number): readonly Met[] {
    return this.groups.get(placeOf(key, time)) ?? [];
  }
}

function metAt(heard: readonly { actions: HeardActions; delay: number }[], key: string, time: number): Met[] {
  return heard.flatMap(({ actions, delay }) => actions.at(key, time - delay));
}
function grouped(met: readonly Met[]): Map<string, Met[]> {
  const groups = new Map<string, Met[]>();
  for (const one of met) {
    const at = placeOf(one.key, one.time);
    const group = groups.get(at);
    if (group) group.push(one);
    else groups.set(at, [one]);
  }
  return groups;
}
/** In running order, each binding with each value once. */
function give({ x }: Graph, met: readonly Met[], take: (meeting: Meeting) => void): void {
  if (met.length < 2) return;
  const seen = new Set<string>();
  const once = met.filter(({ binding, value }) => {
    const id = `${binding}/${value}`;
    return !seen.has(id) && seen.add(id);
  });
  if (once.length > 1) take(once.sort((a, b) => x.compareRunning(a.binding, b.binding)));
}
function placeOf(key: string, time: number): string {
  return `${time}/${key}`;
}
