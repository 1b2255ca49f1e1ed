import { BIND, bindingOfEdge, PUBLISH, type Graph } from '../graph/graph.js';
import type { Binding } from '../project/types.js';
import { append } from '../util/append.js';
import type { Asker } from './exclusion.js';

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
  /** Microseconds from the raise. */
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
 * rounded. Meetings among what hears the same channels are the same for every event that is published there, so they are
 * given once for each set of channels; a meeting that an event has a direct part in is given whole, and whoever takes it
 * passes over pairs without a direct one. Cost: the edges that are looked at, and for each set of channels all but the
 * largest of them.
 */
export class MeetingDeliveries {
  private readonly channels = new Map<number, HeardActions>();
  private readonly sets = new Map<string, Map<string, Met[]>>();

  constructor(
    private readonly g: Graph,
    /** What an edge to an action does. */
    private readonly actionsOf: (edge: number) => readonly DeliveredAction[],
  ) {}

  /** All meetings of one event that were not given before. */
  eachOf(event: number, take: (meeting: Meeting) => void): void {
    const { g } = this;
    const direct: Met[] = [];
    const published = new Map<string, { channel: number; delay: number }>();
    for (let e = g.first[event]; e < g.first[event + 1]; e++) {
      if (g.meta[e] >> 2 === BIND) append(direct, this.met(e, event, true));
      else if (g.meta[e] >> 2 === PUBLISH) {
        const delay = micros(bindingOfEdge(g, e)!.binding);
        published.set(`${g.head[e]}+${delay}`, { channel: g.head[e], delay });
      }
    }
    const heard = [...published.values()].map(({ channel, delay }) => ({
      actions: this.heard(channel),
      delay,
    }));
    const touched = new Set<string>();
    for (const [at, own] of grouped(direct)) {
      const [{ key, time }] = own;
      const all = heard.flatMap(({ actions, delay }) => shifted(actions.at(key, time - delay), delay));
      if (all.length > 0) touched.add(at);
      give([...own, ...all], take);
    }
    const rest = this.among([...published.keys()].sort().join(' '), heard);
    for (const [at, meeting] of rest) {
      if (touched.has(at)) continue;
      give(meeting, take);
      rest.delete(at);
    }
  }

  /** Meetings among what hears some channels that were not given yet. */
  private among(id: string, heard: { actions: HeardActions; delay: number }[]): Map<string, Met[]> {
    const known = this.sets.get(id);
    if (known) return known;
    const found = new Map<string, Met[]>();
    const add = (key: string, time: number): void => {
      const at = placeOf(key, time);
      if (found.has(at)) return;
      const all = heard.flatMap(({ actions, delay }) => shifted(actions.at(key, time - delay), delay));
      if (all.length > 1) found.set(at, all);
    };
    const largest = heard.reduce<HeardActions | null>(
      (a, { actions: b }) => (a && a.size >= b.size ? a : b),
      null,
    );
    for (const { actions, delay } of heard) {
      for (const [{ key, time }] of actions === largest ? actions.repeated : actions.all)
        add(key, time + delay);
    }
    this.sets.set(id, found);
    return found;
  }
  private heard(channel: number): HeardActions {
    let actions = this.channels.get(channel);
    if (actions) return actions;
    const { g } = this;
    const met: Met[] = [];
    for (let e = g.first[channel]; e < g.first[channel + 1]; e++) append(met, this.met(e, channel, false));
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
function shifted(met: readonly Met[], delay: number): readonly Met[] {
  return delay === 0 ? met : met.map((m) => ({ ...m, time: m.time + delay }));
}
/** In running order, each binding with each value once. */
function give(met: readonly Met[], take: (meeting: Meeting) => void): void {
  if (met.length < 2) return;
  const seen = new Set<string>();
  const once = met.filter(({ binding, value }) => {
    const id = `${binding}/${value}`;
    return !seen.has(id) && seen.add(id);
  });
  if (once.length > 1) take(once.sort((a, b) => a.binding - b.binding));
}
function placeOf(key: string, time: number): string {
  return `${time}/${key}`;
}
/** The delay of a binding in whole microseconds. */
export function micros(binding: Binding): number {
  return Math.round((binding.delay ?? 0) * 1e6);
}
