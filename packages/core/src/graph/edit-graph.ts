import { PathTable } from '../expand/resolve.js';
import { Selector } from '../expand/select.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import { bindingClass, BindingEdges, MAX_EDGES, tooManyEdges } from './binding-edges.js';
import type { KeyCounts } from './channel-nodes.js';
import { EdgeRuns, type Edge } from './edge-runs.js';
import { addEffectEdgesOf, compileEffects } from './effect-edges.js';
import { channelAt, HEAR, HEARING_STRIDE, NO_KEY, PUBLICATION_STRIDE } from './graph.js';
import type { BindingRecords, Graph } from './graph.js';
import type { Incoming } from './incoming.js';
import { BindingResolver, mutedBindings, sceneInstances } from './resolver.js';

/** Edges apart from a graph: parallel lists of tail, head and expanded binding. */
export interface LooseEdges {
  tails: number[];
  heads: number[];
  refs: number[];
}

/** What an edit did to a graph. */
export interface GraphDelta {
  removed: LooseEdges;
  added: LooseEdges;
  /** The tails of both, each once. */
  tails: Set<number>;
  /** Authored bindings that came, went or changed, or were looked at again; one that changed is here once. */
  authored: ReadonlySet<number>;
  /** Channels whose publications or hearings changed. */
  channels: ReadonlySet<number>;
  /** Those of them that are published to or heard at keys where they were not, or no more. */
  otherKeys: ReadonlySet<number>;
  /** Nodes that count as bound by more or fewer bindings. */
  counted: ReadonlySet<number>;
}

/** A binding in one copy of its owner. */
interface Copy {
  owner: number;
  position: number;
}
/** An asset some of whose bindings differ, or are to be resolved again. */
interface ChangedAsset {
  asset: number;
  /** Positions of what goes, in the list before, and of what comes, in the list after. */
  gone: readonly number[];
  fresh: readonly number[];
  /** The slots of the list after; null where they stay. */
  slots: Int32Array | null;
}

/**
 * Edits a graph in place, of whose project only bindings change. Cost of an edit: the bindings of the assets that change,
 * the copies of the bindings that do, and the edges at their ends.
 */
export class GraphEditor {
  readonly runs: EdgeRuns;
  /** All instances of an asset, and what selections take. */
  readonly select: Selector;
  private readonly scenes: ReadonlyMap<number, number>;
  /** For each channel the authored bindings that listen on it, and those that publish to it. */
  private readonly listeners: Set<number>[];
  private readonly publishers: Set<number>[];

  constructor(
    readonly g: Graph,
    incoming: Incoming,
  ) {
    this.runs = new EdgeRuns(g, incoming);
    this.select = new Selector(g.x, g.values);
    this.scenes = sceneInstances(g.x);
    g.channels.allocate = (own) => this.runs.newChannelNode(own);
    const channels = g.x.index.project.channels ?? [];
    this.listeners = channels.map(() => new Set<number>());
    this.publishers = channels.map(() => new Set<number>());
    for (const [authored, records] of g.records) this.register(authored, records, true);
  }

  /** Authored bindings that publish to a channel or listen on it. */
  *users(channel: number): Iterable<number> {
    yield* this.publishers[channel];
    yield* this.listeners[channel];
  }

  /**
   * Goes over to the next state of the project, of which only bindings differ. Those of `again`, by authored number, are
   * resolved anew although they say the same; instances of the assets `revalued` may have other values. Null, and nothing is changed, where an asset has no room for its bindings.
   * @throws ProjectTooLarge, after which the graph is of no more use
   */
  edit(
    index: ProjectIndex,
    again: ReadonlySet<number> = new Set(),
    revalued: Iterable<number> = [],
  ): GraphDelta | null {
    const { g } = this;
    const { x } = g;
    const changed = this.changedAssets(index, again);
    if (!changed) return null;
    const gone = this.copies(changed, 'gone');
    const lost = this.collect(gone, 'gone');
    const goneNumbers = new Set(gone.map(({ owner, position }) => x.numberOf(owner, position)));
    const authored = new Set<number>();
    const old: BindingRecords[] = [];
    for (const { asset, gone: positions } of changed) {
      for (const position of positions) {
        const number = x.slots.base[asset] + x.slots.slot(asset, position);
        authored.add(number);
        const records = g.records.get(number);
        if (!records) continue;
        old.push(records);
        this.register(number, records, false);
        g.records.delete(number);
        g.faulty.delete(number);
      }
    }
    x.index = index;
    for (const asset of revalued) this.select.forgetValues(asset);
    for (const { asset, slots } of changed) if (slots) x.slots.take(asset, slots);
    const nodesBefore = g.nodes;
    const fresh = this.collect(this.copies(changed, 'fresh'), 'fresh');
    for (const { asset, fresh: positions } of changed) {
      for (const position of positions) authored.add(x.slots.base[asset] + x.slots.slot(asset, position));
    }
    const removed: LooseEdges = { tails: [], heads: [], refs: [] };
    for (const tail of new Set(lost.tails.view())) {
      this.runs.remove(tail, (ref) => goneNumbers.has(ref), removed);
    }
    this.dropChannelNodes(old, removed);
    fresh.addHearEdges();
    const added = this.addEdges(fresh, nodesBefore);
    const uses = new Map<string, Use>();
    for (const records of old) this.count(records, -1, uses);
    for (const [number, records] of fresh.records) {
      g.records.set(number, records);
      if (records.faults.length > 0) g.faulty.add(number);
      this.register(number, records, true);
      this.count(records, 1, uses);
    }
    const counted = new Set<number>();
    for (const node of lost.counted.view()) {
      g.countsAsBound[node]--;
      counted.add(node);
    }
    for (const node of fresh.counted.view()) {
      g.countsAsBound[node]++;
      counted.add(node);
    }
    g.expandedBindings += fresh.expandedBindings - lost.expandedBindings;
    if (g.edges > MAX_EDGES) throw tooManyEdges(x, -1);
    this.runs.compact();
    const tails = new Set([...removed.tails, ...added.tails]);
    const changedUses = [...uses.values()];
    const channels = new Set(changedUses.map((u) => u.channel));
    const otherKeys = new Set(
      changedUses.filter((u) => u.of.has(u.channel, u.key) !== u.was).map((u) => u.channel),
    );
    return { removed, added, tails, authored, channels, otherKeys, counted };
  }

  private changedAssets(index: ProjectIndex, again: ReadonlySet<number>): ChangedAsset[] | null {
    const { slots: numbers, index: old } = this.g.x;
    const byAsset = new Map<number, number[]>();
    for (const number of again) {
      const asset = numbers.assetOf(number);
      const position = numbers.position(asset, number - numbers.base[asset]);
      if (position < 0) continue;
      const own = byAsset.get(asset);
      if (own) own.push(position);
      else byAsset.set(asset, [position]);
    }
    const changed: ChangedAsset[] = [];
    for (const { at: asset, bindings } of index.assets) {
      const before = old.assets[asset].bindings;
      const same = byAsset.get(asset);
      if (bindings === before) {
        if (same) changed.push({ asset, gone: same, fresh: same, slots: null });
        continue;
      }
      const aligned = alignLists<Binding>(before, bindings);
      const slots = numbers.next(asset, aligned, bindings.length);
      if (!slots) return null;
      const staying = (same ?? []).filter((position) => aligned.moved[position] >= 0);
      const fresh = staying.map((position) => aligned.moved[position]);
      const all = { gone: [...aligned.gone, ...staying], fresh: [...aligned.fresh, ...fresh] };
      changed.push({ asset, ...all, slots });
    }
    return changed;
  }
  /** The copies of what comes or goes, in running order. */
  private copies(changed: readonly ChangedAsset[], which: 'gone' | 'fresh'): Copy[] {
    const copies: Copy[] = [];
    for (const { asset, [which]: positions } of changed) {
      if (positions.length === 0) continue;
      const inOrder = [...positions].sort((a, b) => a - b);
      for (const owner of this.select.instancesOf(asset)) {
        for (const position of inOrder) copies.push({ owner, position });
      }
    }
    return changed.length === 1 ? copies : copies.sort((a, b) => a.owner - b.owner);
  }
  /**
   * Gives instances other effect edges where those that they have do not hold any more; the delta says so, too. Cost: their
   * effect edges.
   */
  refreshEffects(instances: Iterable<number>, delta: GraphDelta): void {
    const { g, runs } = this;
    const { x } = g;
    for (const i of instances) {
      const asset = x.assetOf(i);
      const now = new Map<number, Edge[]>();
      addEffectEdgesOf(x, i, compileEffects(asset), (tail, head, kind, cls, ref) => {
        const edge = { head, meta: cls | (kind << 2), ref };
        const own = now.get(tail);
        if (own) own.push(edge);
        else now.set(tail, [edge]);
      });
      for (let a = 0; a < asset.actions.length; a++) {
        const tail = x.nodeBase[i] + asset.events.length + a;
        const edges = now.get(tail) ?? [];
        if (runs.holds(tail, edges)) continue;
        runs.remove(tail, () => true, delta.removed);
        runs.add(tail, edges, delta.added);
        delta.tails.add(tail);
      }
    }
  }
  /** What some bindings put into the graph. What is gone has named its channel nodes already. */
  private collect(copies: readonly Copy[], which: 'gone' | 'fresh'): BindingEdges {
    const { g, select, scenes } = this;
    const { x, channels } = g;
    const nodes = {
      name: (channel: number, key: number) =>
        which === 'gone' ? channels.find(channel, key)! : channels.name(channel, key),
      find: (channel: number, key: number) => channels.find(channel, key),
      of: (channel: number) => channels.of(channel),
    };
    const edges = new BindingEdges(x, g.values, nodes, select);
    const resolvers = new Map<Binding, BindingResolver>();
    for (const { owner, position } of copies) {
      const asset = x.assetOf(owner);
      const binding = asset.bindings[position];
      if (binding.enabled === false || mutedBindings(x, owner)?.has(binding.id)) continue;
      let resolver = resolvers.get(binding);
      if (!resolver) {
        resolver = new BindingResolver(x, new PathTable(x, scenes, asset.at), binding, asset.at);
        resolvers.set(binding, resolver);
      }
      edges.add(resolver, owner, x.numberOf(owner, position));
    }
    if (which === 'gone') edges.addHearEdges();
    return edges;
  }

  /** Takes back the namings of bindings that are gone; a channel node that nothing names goes with its edges. */
  private dropChannelNodes(old: readonly BindingRecords[], removed: LooseEdges): void {
    const { channels } = this.g;
    const unname = (channel: number, key: number): void => {
      const node = channels.unname(channel, key);
      if (node !== null) this.runs.remove(node, () => true, removed);
    };
    for (const records of old) eachNaming(records, unname);
  }

  private addEdges(fresh: BindingEdges, nodesBefore: number): LooseEdges {
    const { g, runs } = this;
    const byTail = new Map<number, Edge[]>();
    const put = (tail: number, edge: Edge): void => {
      const own = byTail.get(tail);
      if (own) own.push(edge);
      else byTail.set(tail, [edge]);
    };
    for (let e = 0; e < fresh.tails.length; e++) {
      const edge = { head: fresh.heads.get(e), meta: fresh.metas.get(e), ref: fresh.refs.get(e) };
      put(fresh.tails.get(e), edge);
    }
    for (let node = nodesBefore; node < g.nodes; node++) this.hearAll(node, put);
    const added: LooseEdges = { tails: [], heads: [], refs: [] };
    for (const [tail, edges] of byTail) runs.add(tail, edges, added);
    return added;
  }
  /** Whoever listens on a channel without a key hears a new node of it. */
  private hearAll(node: number, put: (tail: number, edge: Edge) => void): void {
    const { g } = this;
    const { x } = g;
    const channel = channelAt(g, node);
    if (channel < 0) return;
    for (const authored of this.listeners[channel]) {
      const asset = x.slots.assetOf(authored);
      const slot = authored - x.slots.base[asset];
      const binding = x.index.assets[asset].bindings[x.slots.position(asset, slot)];
      const { hearings } = g.records.get(authored)!;
      for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
        const [owner, of, key, action] = hearings.slice(h, h + 4);
        if (of !== channel || key !== NO_KEY || action < 0) continue;
        const meta = bindingClass(x, binding, owner) | (HEAR << 2);
        put(node, { head: action, meta, ref: x.bindingBase[owner] + slot });
      }
    }
  }

  private register(authored: number, { hearings, publications }: BindingRecords, isThere: boolean): void {
    const put = (authoredOf: Set<number>): unknown =>
      isThere ? authoredOf.add(authored) : authoredOf.delete(authored);
    for (let h = 0; h < hearings.length; h += HEARING_STRIDE) put(this.listeners[hearings[h + 1]]);
    for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE)
      put(this.publishers[publications[p + 1]]);
  }
  /** Counts what a binding's records say of channels, or takes it back. */
  private count({ publications, hearings }: BindingRecords, times: 1 | -1, uses: Map<string, Use>): void {
    const { published, heard } = this.g;
    const add = (of: KeyCounts, channel: number, key: number): void => {
      const id = `${of === heard ? 'heard' : 'published'} ${channel} ${key}`;
      if (!uses.has(id)) uses.set(id, { of, channel, key, was: of.has(channel, key) });
      of.add(channel, key, times);
    };
    for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
      add(published, publications[p + 1], publications[p + 2]);
    }
    for (let h = 0; h < hearings.length; h += HEARING_STRIDE) add(heard, hearings[h + 1], hearings[h + 2]);
  }
}

/** A key of a channel that an edit used more or less often, and whether it was used before. */
interface Use {
  of: KeyCounts;
  channel: number;
  key: number;
  was: boolean;
}

/** Calls `take` each time that a binding's records name a channel node; one with a missing end names none. */
function eachNaming(
  { faults, publications, hearings }: BindingRecords,
  take: (channel: number, key: number) => void,
): void {
  const half = new Set<number>();
  for (let f = 0; f < faults.length; f += 2) half.add(faults[f]);
  for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
    if (publications[p + 3] === 1) take(publications[p + 1], publications[p + 2]);
  }
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
    if (hearings[h + 2] >= NO_KEY && !half.has(hearings[h])) take(hearings[h + 1], hearings[h + 2]);
  }
}
