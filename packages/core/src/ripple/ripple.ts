import { ASLEEP_AT_START } from '../expand/expansion.js';
import {
  bindingOfEdge,
  EDGE_CLASSES,
  edgeClass,
  edgeDelay,
  effectOfEdge,
  isAction,
  isEvent,
  NO_KEY,
  channelAt,
  isChannel,
  keyAt,
  type Graph,
} from '../graph/graph.js';
import { printConditions } from '../wireline/conditions.js';
import { printGuard } from '../wireline/declared.js';
import { groupNodes, type EntryGroup } from './groups.js';
import { heaviestOf, type Heaviest, type Ways } from './heaviest.js';
import { adjacency, MOST_NODES, tailNode, walk, type Reached } from './reached.js';
import { nodeName } from './reached-names.js';
import {
  MOST_ADDRESSES,
  MOST_ASKED,
  MOST_BINDINGS,
  type Ripple,
  type RippleAsk,
  type RippleEntry,
  type RippleLink,
} from './model.js';
import { startNodes } from './start.js';

/**
 * All that follows from a start, or all that could have brought it about, hop by hop. Null if the start names nothing.
 * `kept`: what a trial still reaches; the rest is marked as gone. Cost: what is reached.
 */
export function rippleOf(
  g: Graph,
  ask: RippleAsk,
  ways: Ways | null = null,
  kept: ReadonlySet<string> | null = null,
): Ripple | null {
  const starts = startNodes(g, ask.start, ask.direction);
  if (starts.length === 0) return null;
  const r = walk(g, adjacency(g, ask.direction), starts, MOST_NODES);
  return new Picture(g, r, starts.length, ask, kept).draw(ways);
}

/** A link while ways are added to it. */
type OpenLink = RippleLink & {
  via: string[];
  bindings: RippleLink['bindings'][number][];
  asks: string[];
};

class Picture {
  /** For each local node the number of its entry; -1 for an event that is only passed through. */
  private readonly entryOf: Int32Array;
  private readonly entries: RippleEntry[] = [];

  constructor(
    private readonly g: Graph,
    private readonly r: Reached,
    private readonly starts: number,
    private readonly ask: RippleAsk,
    private readonly kept: ReadonlySet<string> | null,
  ) {
    this.entryOf = new Int32Array(r.nodes.length).fill(-1);
  }

  draw(ways: Ways | null): Ripple {
    const { r, g } = this;
    this.gather();
    const links = this.link();
    // Links are one for each pair of entries.
    const fan = new Map<string, number>();
    for (const l of links) fan.set(l.from, (fan.get(l.from) ?? 0) + 1);
    for (const e of this.entries) e.fanOut = fan.get(e.key) ?? 0;
    let reach = 0;
    let longest = 0;
    r.nodes.forEach((n, i) => {
      if (!isAction(g, n) || i < this.starts) return;
      reach++;
      longest = Math.max(longest, r.longest[i] >> 1);
    });
    const heaviest = ways && this.ask.direction === 'forward' ? this.heaviest(ways) : null;
    return {
      direction: this.ask.direction,
      entries: this.entries,
      links,
      reach,
      longest,
      cut: r.cut,
      heaviest,
    };
  }
  private heaviest(ways: Ways): Heaviest {
    const { g, r, entries, entryOf } = this;
    return heaviestOf(g, ways, [...r.nodes.subarray(0, this.starts)], (n) => {
      const entry = r.local[n] < 0 ? -1 : entryOf[r.local[n]];
      return entry < 0 ? null : entries[entry].key;
    });
  }

  private gather(): void {
    const { r, g } = this;
    const { fold = 4, open = [] } = this.ask;
    const nodes: number[] = [];
    for (let i = 0; i < r.nodes.length; i++) if (this.isDrawn(i)) nodes.push(i);
    const drawn = {
      nodes,
      isStart: (i: number) => i < this.starts,
      level: (i: number) => this.levelOf(i),
      name: (i: number) => this.groupName(i),
      asset: (i: number) => (isChannel(g, r.nodes[i]) ? '' : g.x.assetOf(g.instanceOf[r.nodes[i]]).decl.id),
    };
    for (const group of groupNodes(r, drawn, fold, new Set(open))) this.addEntry(group);
  }
  /** Events are drawn where the ripple starts, and backward where something outside raises them. */
  private isDrawn(i: number): boolean {
    const { g, r } = this;
    if (i < this.starts || !isEvent(g, r.nodes[i])) return true;
    return this.ask.direction === 'backward' && this.isOutside(r.nodes[i]);
  }
  private isOutside(node: number): boolean {
    const { g } = this;
    if (!isEvent(g, node)) return false;
    const i = g.instanceOf[node];
    return g.x.assetOf(i).events[node - g.x.nodeBase[i]].cause.type !== 'raised';
  }
  private groupName(i: number): string {
    const { g, r } = this;
    const node = r.nodes[i];
    const level = this.levelOf(i);
    if (isChannel(g, node)) return `${level}/${nodeName(g, node)}`;
    const instance = g.instanceOf[node];
    return `${level}/${g.x.asset[instance]}/${node - g.x.nodeBase[instance]}`;
  }
  /** An event backward stands one hop before what it brought about. */
  private levelOf(i: number): number {
    const { g, r } = this;
    const passing = i >= this.starts && isEvent(g, r.nodes[i]);
    return passing ? r.level[i] + 2 - (r.level[i] & 1) : r.level[i];
  }

  private addEntry({ key, kind, members, within }: EntryGroup): void {
    const { g, r, kept, entryOf } = this;
    const { x } = g;
    const at: string[] = [];
    const scenes = new Set<string>();
    const assets = new Set<string>();
    const tags = new Set<string>();
    const names = new Set<string>();
    let [time, level, longest] = [Infinity, Infinity, 0];
    let spawned = false;
    let asleep = false;
    let awake = false;
    let gone = kept !== null;
    let count = 0;
    for (const i of members) {
      const node = r.nodes[i];
      time = Math.min(time, r.time[i]);
      level = Math.min(level, this.levelOf(i));
      longest = Math.max(longest, r.longest[i]);
      entryOf[i] = this.entries.length;
      if (gone && kept!.has(nodeName(g, node))) gone = false;
      if (kind !== 'cycle' || isAction(g, node)) count++;
      if (isChannel(g, node)) continue;
      const instance = g.instanceOf[node];
      if (at.length < MOST_ADDRESSES) at.push(x.address(instance));
      scenes.add(x.assetOf(x.sceneOf(instance)).decl.id);
      const own = this.names(node);
      assets.add(own.asset);
      names.add(own.name);
      for (const tag of own.tags) tags.add(tag);
      if (x.isSpawned(instance)) spawned = true;
      if ((x.flags[instance] & ASLEEP_AT_START) === 0) awake = true;
      else asleep = true;
    }
    const node = r.nodes[members[0]];
    const first = this.names(node);
    const folded = members.length > 1;
    const entry: RippleEntry = {
      key,
      kind: kind === 'cycle' ? 'cycle' : first.kind,
      name: kind === 'cycle' ? `cycle of ${count}` : names.size > 1 ? `${names.size} actions` : first.name,
      asset: kind === 'cycle' ? '' : first.asset,
      assets: [...assets],
      hop: level / 2,
      longest: longest / 2,
      time: time / 1e6,
      count: kind === 'cycle' ? 1 : count,
      at,
      scenes: [...scenes],
      tags: [...tags],
      spawned,
      asleep: asleep && !awake,
      outside: this.isOutside(node),
      fanOut: 0,
      gone,
      folded,
      within,
    };
    if (first.channelKey !== undefined && kind !== 'cycle') entry.channelKey = first.channelKey;
    this.entries.push(entry);
  }
  private names(node: number): Pick<RippleEntry, 'kind' | 'name' | 'asset' | 'channelKey' | 'tags'> {
    const { g } = this;
    if (isChannel(g, node)) {
      const key = keyAt(g, node);
      const { name } = g.x.index.project.channels![channelAt(g, node)];
      const common = { kind: 'channel', name, asset: '', tags: [] } as const;
      return key === NO_KEY ? common : { ...common, channelKey: g.values.value(key) };
    }
    const instance = g.instanceOf[node];
    const asset = g.x.assetOf(instance);
    const at = node - g.x.nodeBase[instance];
    const common = { asset: asset.decl.id, tags: asset.decl.tags ?? [] };
    if (at < asset.events.length) return { kind: 'event', name: asset.events[at].name, ...common };
    return { kind: 'action', name: asset.actions[at - asset.events.length].name, ...common };
  }

  private link(): RippleLink[] {
    const { r, entryOf } = this;
    const links = new Map<number, OpenLink>();
    for (let i = 0; i < r.nodes.length; i++) {
      if (entryOf[i] < 0) continue;
      for (let e = r.first[i]; e < r.first[i + 1]; e++) {
        const next = r.to[e];
        if (entryOf[next] >= 0) this.addLink(links, i, next, [e]);
        if (entryOf[next] >= 0 && !this.isPassed(i, next)) continue;
        // An event that is passed through: the link leads on to what it brings about.
        for (let f = r.first[next]; f < r.first[next + 1]; f++) {
          if (entryOf[r.to[f]] >= 0) this.addLink(links, i, r.to[f], [e, f], next);
        }
      }
    }
    return [...links.values()];
  }
  /** Backward, an event that is drawn as an outside cause may be raised by an action as well. */
  private isPassed(i: number, next: number): boolean {
    return (
      this.ask.direction === 'backward' &&
      isEvent(this.g, this.r.nodes[next]) &&
      !isEvent(this.g, this.r.nodes[i])
    );
  }

  private addLink(
    links: Map<number, OpenLink>,
    from: number,
    to: number,
    edges: readonly number[],
    through = -1,
  ): void {
    const { g, r, entries, entryOf } = this;
    const [a, b] = [entries[entryOf[from]], entries[entryOf[to]]];
    // What goes round within a folded cycle stays inside of it.
    if (a.kind === 'cycle' && a === b) return;
    const returns = b.hop <= a.hop;
    const cycle = r.component[from] === r.component[to];
    const id = entryOf[from] * entries.length + entryOf[to];
    let link = links.get(id);
    if (!link) {
      link = {
        from: a.key,
        to: b.key,
        via: [],
        count: 0,
        class: 'instant',
        delay: Infinity,
        delayMost: 0,
        bindings: [],
        asks: [],
        returns,
        cycle,
      };
      links.set(id, link);
    }
    const first = link.count === 0;
    link.count++;
    let weakest = 3;
    let delay = 0;
    let at = from;
    const asked: string[] = [];
    for (const e of edges) {
      const edge = r.edge[e];
      const tail = tailNode(g, edge, r.nodes[at], r.nodes[r.to[e]]);
      weakest = Math.min(weakest, edgeClass(g, edge));
      delay += Math.round(edgeDelay(g, edge, tail) * 1e6);
      this.addBinding(link.bindings, edge);
      const words = conditionsOfEdge(g, edge, tail);
      if (words !== '') asked.push(words);
      at = r.to[e];
    }
    if (asked.length === 0) link.asks = [];
    else if (first || link.asks.length > 0) addOnce(link.asks, asked.join(', '));
    // Of several ways the strongest counts.
    if (first || weakest > EDGE_CLASSES.indexOf(link.class)) link.class = EDGE_CLASSES[weakest];
    link.delay = Math.min(link.delay, delay / 1e6);
    link.delayMost = Math.max(link.delayMost, delay / 1e6);
    if (through < 0) return;
    const name = this.eventName(r.nodes[through]);
    if (!link.via.includes(name)) link.via.push(name);
  }
  private eventName(node: number): string {
    const { g } = this;
    const instance = g.instanceOf[node];
    return g.x.assetOf(instance).events[node - g.x.nodeBase[instance]].name;
  }
  private readonly addresses = new Map<number, string>();
  private addressOf(instance: number): string {
    let address = this.addresses.get(instance);
    if (address === undefined) this.addresses.set(instance, (address = this.g.x.address(instance)));
    return address;
  }
  private addBinding(list: RippleLink['bindings'][number][], edge: number): void {
    if (list.length >= MOST_BINDINGS) return;
    const { x } = this.g;
    const bound = bindingOfEdge(this.g, edge);
    if (!bound) return;
    const asset = x.assetOf(bound.owner).decl.id;
    for (const l of list) if (l.asset === asset && l.binding === bound.binding.id) return;
    list.push({ asset, binding: bound.binding.id, owner: this.addressOf(bound.owner) });
  }
}

/** What a binding or an effect asks before it does what the edge stands for; empty if nothing. */
function conditionsOfEdge(g: Graph, edge: number, tail: number): string {
  const bound = bindingOfEdge(g, edge);
  if (bound) return printConditions(bound.binding.if);
  const { when } = effectOfEdge(g, edge, tail).effect;
  return when ? `when ${printGuard(when)}` : '';
}
function addOnce(list: string[], text: string): void {
  if (list.length < MOST_ASKED && !list.includes(text)) list.push(text);
}
