import { hasConditions } from '../project/condition.js';
import type { Expansion } from '../expand/expansion.js';
import type { Selection, Selector } from '../expand/select.js';
import { ProjectTooLarge } from '../expand/too-large.js';
import { LIMITS } from '../limits.js';
import { initialValue, type ValueTable } from '../expand/values.js';
import type { Binding, BindingTo, KeyExpr, SelectionTarget } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { IntList } from '../util/int-list.js';
import { hasLimit } from './effect-edges.js';
import { FROM_FAULTS, TO_FAULTS } from './faults.js';
import {
  actionNode,
  ANY_KEY,
  BIND,
  CONDITIONAL,
  DELAYED,
  eventNode,
  HEAR,
  INSTANT,
  LIMITED,
  NO_KEY,
  PUBLISH,
  type BindingRecords,
} from './graph.js';
import type { ChannelNodes } from './channel-nodes.js';
import type { Resolver } from './resolver.js';

export const MAX_EDGES = LIMITS.graph.edges;

/**
 * Gathers what expanded bindings put into a graph: edges in the order in which they are added, and records by authored
 * binding. Channel nodes are named as they are met.
 */
export class BindingEdges {
  readonly tails: IntList;
  readonly heads: IntList;
  readonly metas: IntList;
  readonly refs: IntList;
  readonly records = new Map<number, BindingRecords>();
  /** Nodes that count as bound, once for each binding. */
  readonly counted: IntList;
  expandedBindings = 0;

  constructor(
    private readonly x: Expansion,
    private readonly values: ValueTable,
    private readonly channels: Pick<ChannelNodes, 'name' | 'find' | 'of'>,
    private readonly select: Selector,
    capacity = 16,
  ) {
    [this.tails, this.heads, this.metas, this.refs, this.counted] = Array.from(
      { length: 5 },
      () => new IntList(capacity),
    );
  }

  /** Adds a binding in one copy of its owner. */
  add(resolver: Resolver, owner: number, number: number): void {
    this.expandedBindings++;
    this.addBinding(resolver, owner, number);
  }

  readonly addEdge = (tail: number, head: number, kind: number, cls: number, ref: number): void => {
    if (this.tails.length >= MAX_EDGES) throw tooManyEdges(this.x, ref);
    this.tails.push(tail);
    this.heads.push(head);
    this.metas.push(cls | (kind << 2));
    this.refs.push(ref);
  };

  private addBinding(resolver: Resolver, owner: number, number: number): void {
    const { x } = this;
    const sender = resolver.sender(owner);
    const receiver = resolver.receiver(owner);
    const faults = resolver.judge(sender, receiver);
    if (faults !== 0) {
      this.recordsOf(number).faults.push(owner, faults);
      return this.countHalf(resolver, owner, number, { sender, receiver, faults });
    }
    const { from, to } = resolver.binding;
    if ('every' in to) this.countSelection(to, owner, 'channel' in from ? owner : sender, number);
    const cls = bindingClass(x, resolver.binding, owner);
    if ('channel' in from) {
      if ('channel' in to) return; // the format refuses it
      const key = from.key;
      const hearing = { owner, number, channel: x.index.channelAt.get(from.channel)!, cls };
      let selectsNone = true;
      this.eachReceiver(owner, owner, to, receiver, (node, instance) => {
        selectsNone = false;
        this.addHearing(hearing, this.keyNumber(key, instance), node);
      });
      // One that selects nothing still listens, as far as the channel is concerned.
      if (selectsNone) {
        const own = key === undefined ? NO_KEY : isLiteral(key) ? this.values.number(key) : ANY_KEY;
        this.addHearing(hearing, own, -1);
      }
      return;
    }
    const tail = eventNode(x, sender, resolver.event);
    this.counted.push(tail);
    const decl = x.assetOf(sender).events[resolver.event];
    const tailClass = !x.isSpawned(sender) && hasLimit(decl) ? LIMITED : cls;
    if ('channel' in to) {
      const channel = x.index.channelAt.get(to.channel)!;
      const key = this.keyNumber(to.key, sender);
      this.recordsOf(number).publications.push(owner, channel, key, 1);
      this.addEdge(tail, this.channels.name(channel, key), PUBLISH, tailClass, number);
      return;
    }
    if ('at' in to) this.addEdge(tail, actionNode(x, receiver, resolver.action), BIND, tailClass, number);
    else
      this.eachReceiver(owner, sender, to, receiver, (node) =>
        this.addEdge(tail, node, BIND, tailClass, number),
      );
  }

  /** Calls `take` for the action of each receiver, in running order. */
  private eachReceiver(
    owner: number,
    reader: number,
    to: Exclude<BindingTo, { channel: string }>,
    receiver: number,
    take: (node: number, instance: number) => void,
  ): void {
    const { x } = this;
    if (!('every' in to)) {
      take(actionNode(x, receiver, x.assetOf(receiver).actionAt.get(to.action)!), receiver);
      return;
    }
    const selection = this.selection(to, reader);
    const action = x.index.assets[selection.asset].actionAt.get(to.action)!;
    this.select.each(owner, selection, (instance) => take(actionNode(x, instance, action), instance));
  }

  /** How many it could select, up to two: what the rules on selections ask. */
  private countSelection(to: SelectionTarget, owner: number, reader: number, number: number): void {
    let weight = 0;
    this.select.each(owner, { ...this.selection(to, reader), pick: 'all' }, (instance) => {
      weight += this.x.isSpawned(instance) ? 2 : 1;
      return weight >= 2;
    });
    this.recordsOf(number).selections.push(owner, Math.min(2, weight));
  }

  /** A selection with its key read from `reader`; without one (the end is missing) any key will do. */
  private selection(to: SelectionTarget, reader: number): Selection {
    const { match } = to;
    return {
      asset: this.x.index.assetAt.get(to.every)!,
      within: to.within ?? 'asset',
      spawned: to.spawned === true,
      pick: to.pick ?? 'all',
      match:
        match === undefined || match === 'all' || (reader < 0 && !isLiteral(match.equals))
          ? null
          : { property: match.property, value: this.keyNumber(match.equals, reader) },
    };
  }

  /** A binding with a missing end counts, for its other end, as if it were there: one fault, one finding. */
  private countHalf(
    resolver: Resolver,
    owner: number,
    number: number,
    { sender, receiver, faults }: { sender: number; receiver: number; faults: number },
  ): void {
    const { x } = this;
    const { from, to } = resolver.binding;
    if ((faults & FROM_FAULTS) === 0 && 'event' in from) {
      this.counted.push(eventNode(x, sender, x.assetOf(sender).eventAt.get(from.event)!));
    }
    if ((faults & TO_FAULTS) === 0 && !('channel' in to)) {
      const reader = 'channel' in from ? owner : sender;
      this.eachReceiver(owner, reader, to, receiver, (node) => this.counted.push(node));
    }
    if ('channel' in to) {
      const channel = x.index.channelAt.get(to.channel);
      if (channel !== undefined) {
        this.recordsOf(number).publications.push(owner, channel, this.halfKey(to.key, sender), 0);
      }
    }
    if ('channel' in from) {
      const channel = x.index.channelAt.get(from.channel);
      if (channel !== undefined) {
        this.recordsOf(number).hearings.push(owner, channel, this.halfKey(from.key, receiver), -1, 0);
      }
    }
  }
  private halfKey(key: KeyExpr | undefined, instance: number): number {
    if (key === undefined) return NO_KEY;
    if (isLiteral(key)) return this.values.number(key);
    const value = instance < 0 ? undefined : initialValue(this.x, instance, key.property);
    return value === undefined ? ANY_KEY : this.values.number(value);
  }

  private keyNumber(key: KeyExpr | undefined, instance: number): number {
    if (key === undefined) return NO_KEY;
    return this.values.number(isLiteral(key) ? key : initialValue(this.x, instance, key.property)!);
  }

  private recordsOf(number: number): BindingRecords {
    const authored = this.x.authoredOf(number);
    let records = this.records.get(authored);
    if (!records) {
      records = { faults: [], selections: [], publications: [], hearings: [] };
      this.records.set(authored, records);
    }
    return records;
  }

  /** Four numbers each: expanded binding, channel, key, node; and the class. */
  private readonly heard: number[] = [];
  private addHearing(
    { owner, number, channel, cls }: { owner: number; number: number; channel: number; cls: number },
    key: number,
    node: number,
  ): void {
    if (key !== ANY_KEY) this.channels.name(channel, key);
    this.recordsOf(number).hearings.push(owner, channel, key, node, node >= 0 ? 1 : 0);
    if (node >= 0) this.heard.push(number, channel, key, node, cls);
  }

  /** Key listeners hear at their key, listeners without key at every node of the channel. */
  addHearEdges(): void {
    const { heard, channels } = this;
    for (let i = 0; i < heard.length; i += 5) {
      const [number, channel, key, node, cls] = heard.slice(i, i + 5);
      if (key !== NO_KEY) this.addEdge(channels.find(channel, key)!, node, HEAR, cls, number);
      else for (const c of channels.of(channel)) this.addEdge(c, node, HEAR, cls, number);
    }
  }
}

/** The class of a binding's edges, but for what its event limits. */
export function bindingClass(x: Expansion, binding: Binding, owner: number): number {
  const { limit, delay = 0, if: conditions } = binding;
  if (limit !== undefined && !x.isSpawned(owner)) return LIMITED;
  if (hasConditions(conditions)) return CONDITIONAL;
  return delay > 0 ? DELAYED : INSTANT;
}

/** Says that there are too many edges, by the binding at which it was met. */
export function tooManyEdges(x: Expansion, ref: number): ProjectTooLarge {
  const chain = ref < 0 ? [] : [`binding ${x.bindingOf(ref).id} of ${x.assetOf(x.ownerOf(ref)).decl.id}`];
  return new ProjectTooLarge('edges', MAX_EDGES + 1, MAX_EDGES, chain);
}
