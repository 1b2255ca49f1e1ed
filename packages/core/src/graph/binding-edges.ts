import { hasConditions } from '../project/condition.js';
import type { Expansion } from '../expand/expansion.js';
import { Selector, type Selection } from '../expand/select.js';
import { ProjectTooLarge } from '../expand/too-large.js';
import { LIMITS } from '../limits.js';
import { initialValue, ValueTable } from '../expand/values.js';
import type { BindingTo, KeyExpr, SelectionTarget } from '../project/types.js';
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
  type Graph,
} from './graph.js';
import type { Plan } from './plans.js';

const MAX_EDGES = LIMITS.graph.edges;

/**
 * Gathers what expanded bindings put into the graph: edges in the order in which they are added, and the records of
 * channels, selections and faults. Seeded with a graph, it takes over that graph's values and channel nodes.
 */
export class BindingEdges {
  readonly values: ValueTable;
  private readonly select: Selector;
  readonly tails: IntList;
  readonly heads: IntList;
  readonly metas: IntList;
  readonly refs: IntList;
  readonly faulty = new IntList();
  readonly publications = new IntList();
  readonly hearings = new IntList();
  readonly selections = new IntList();
  readonly channelOf = new IntList();
  readonly keyOf = new IntList();
  private readonly channelNodes = new Map<string, number>();
  private readonly nodesOfChannel: number[][];
  /** Nodes that count as bound, once for each binding. */
  readonly counted: IntList;
  readonly channelBase: number;
  expandedBindings = 0;

  constructor(
    private readonly x: Expansion,
    seed: Graph | null = null,
  ) {
    const capacity = seed ? 16 : 1024;
    [this.tails, this.heads, this.metas, this.refs, this.counted] = Array.from(
      { length: 5 },
      () => new IntList(capacity),
    );
    this.values = seed?.values ?? new ValueTable();
    this.select = new Selector(x, this.values);
    this.channelBase = x.nodeBase[x.count];
    this.nodesOfChannel = (x.index.project.channels ?? []).map(() => []);
    seed?.channelOf.forEach((channel, c) => this.channelNode(channel, seed.keyOf[c]));
  }

  /** Adds a binding in one copy of its owner. */
  add(plan: Plan, owner: number, number: number): void {
    this.expandedBindings++;
    this.addBinding(plan, owner, number);
  }

  readonly addEdge = (tail: number, head: number, kind: number, cls: number, ref: number): void => {
    if (this.tails.length >= MAX_EDGES) throw this.tooLarge(ref);
    this.tails.push(tail);
    this.heads.push(head);
    this.metas.push(cls | (kind << 2));
    this.refs.push(ref);
  };

  private addBinding(plan: Plan, owner: number, number: number): void {
    const { x } = this;
    const sender = plan.sender(owner);
    const receiver = plan.receiver(owner);
    const faults = plan.judge(sender, receiver);
    if (faults !== 0) {
      this.faulty.push(number);
      this.faulty.push(faults);
      return this.countHalf(plan, owner, number, sender, receiver, faults);
    }
    const { from, to, limit, delay = 0, if: conditions } = plan.binding;
    if ('every' in to) this.countSelection(to, owner, 'channel' in from ? owner : sender, number);
    const asks = hasConditions(conditions);
    const whole = asks ? CONDITIONAL : delay > 0 ? DELAYED : INSTANT;
    const cls = limit !== undefined && !x.isSpawned(owner) ? LIMITED : whole;
    if ('channel' in from) {
      if ('channel' in to) return; // the format refuses it
      const key = from.key;
      const count = this.hearings.length;
      this.eachReceiver(owner, owner, to, receiver, (node, instance) => {
        this.addHearing(number, from.channel, this.keyNumber(key, instance), node, cls);
      });
      // One that selects nothing still listens, as far as the channel is concerned.
      if (this.hearings.length === count) {
        const own = key === undefined ? NO_KEY : isLiteral(key) ? this.values.number(key) : ANY_KEY;
        this.addHearing(number, from.channel, own, -1, cls);
      }
      return;
    }
    const tail = eventNode(x, sender, plan.event);
    this.counted.push(tail);
    const decl = x.assetOf(sender).events[plan.event];
    const tailClass = !x.isSpawned(sender) && hasLimit(decl) ? LIMITED : cls;
    if ('channel' in to) {
      const channel = x.index.channelAt.get(to.channel)!;
      const key = this.keyNumber(to.key, sender);
      this.publications.push(number);
      this.publications.push(channel);
      this.publications.push(key);
      this.publications.push(1);
      this.addEdge(tail, this.channelNode(channel, key), PUBLISH, tailClass, number);
      return;
    }
    if ('at' in to) this.addEdge(tail, actionNode(x, receiver, plan.action), BIND, tailClass, number);
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
    this.selections.push(number);
    this.selections.push(Math.min(2, weight));
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
    plan: Plan,
    owner: number,
    number: number,
    sender: number,
    receiver: number,
    faults: number,
  ): void {
    const { x } = this;
    const { from, to } = plan.binding;
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
        for (const n of [number, channel, this.halfKey(to.key, sender), 0]) this.publications.push(n);
      }
    }
    if ('channel' in from) {
      const channel = x.index.channelAt.get(from.channel);
      if (channel !== undefined) {
        const key = this.halfKey(from.key, receiver);
        for (const n of [number, channel, key, -1, 0]) this.hearings.push(n);
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

  private channelNode(channel: number, key: number): number {
    const id = `${channel}/${key}`;
    let node = this.channelNodes.get(id);
    if (node === undefined) {
      node = this.channelBase + this.channelOf.length;
      this.channelOf.push(channel);
      this.keyOf.push(key);
      this.channelNodes.set(id, node);
      this.nodesOfChannel[channel].push(node);
    }
    return node;
  }

  private readonly hearingClass = new IntList();
  private addHearing(number: number, name: string, key: number, node: number, cls: number): void {
    const channel = this.x.index.channelAt.get(name)!;
    if (key !== ANY_KEY) this.channelNode(channel, key);
    for (const n of [number, channel, key, node]) this.hearings.push(n);
    this.hearings.push(node >= 0 ? 1 : 0);
    this.hearingClass.push(this.hearings.length);
    this.hearingClass.push(cls);
  }

  /** Key listeners hear at their key, listeners without key at every node of the channel. */
  addHearEdges(): void {
    for (let i = 0; i < this.hearingClass.length; i += 2) {
      const at = this.hearingClass.get(i) - 5;
      const [number, channel, key, node] = [0, 1, 2, 3].map((k) => this.hearings.get(at + k));
      if (node < 0) continue;
      const cls = this.hearingClass.get(i + 1);
      if (key !== NO_KEY) this.addEdge(this.channelNode(channel, key), node, HEAR, cls, number);
      else for (const c of this.nodesOfChannel[channel]) this.addEdge(c, node, HEAR, cls, number);
    }
  }

  private tooLarge(ref: number): ProjectTooLarge {
    const { x } = this;
    const chain: string[] = [];
    if (ref >= 0) {
      const owner = x.ownerOf(ref);
      const asset = x.assetOf(owner);
      chain.push(`binding ${asset.bindings[ref - x.bindingBase[owner]].id} of ${asset.decl.id}`);
    }
    return new ProjectTooLarge('edges', MAX_EDGES + 1, MAX_EDGES, chain);
  }
}
