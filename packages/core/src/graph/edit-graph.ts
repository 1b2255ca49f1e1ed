import { InstanceEdits, type Made, type PlacementEdit } from '../expand/edit-instances.js';
import { PathTable } from '../expand/resolve.js';
import { Selector } from '../expand/select.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import { bindingClass, BindingEdges, MAX_EDGES, tooManyEdges } from './binding-edges.js';
import { markNodes } from './build.js';
import type { KeyCounts } from './channel-nodes.js';
import { EdgeRuns, type Edge } from './edge-runs.js';
import { addEffectEdgesOf, compileEffects } from './effect-edges.js';
import { channelAt, HEAR, HEARING_STRIDE, NO_KEY, PUBLICATION_STRIDE, UNUSED } from './graph.js';
import type { BindingRecords, Graph } from './graph.js';
import type { Incoming } from './incoming.js';
import { joinRecords, LISTS, splitRecords } from './records.js';
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
  /** Instances that came, ascending, and those that leave: they still have their numbers, until {@link GraphEditor.retire}. */
  coming: readonly number[];
  leaving: ReadonlySet<number>;
  /** Instances whose nodes are taken out, and those that were given others. */
  emptied: ReadonlySet<number>;
  filled: readonly number[];
}

/** Placements that come and go. */
export interface ThingsEdit {
  edits: readonly PlacementEdit[];
  /** Authored bindings that are to be resolved again in some of their copies, each with the owners. */
  partly: ReadonlyMap<number, ReadonlySet<number>>;
}

/** What an edit of a graph does besides the bindings that differ; bindings are given by authored number. */
export interface GraphEdit {
  /** Bindings to be resolved anew although they say the same. */
  again?: ReadonlySet<number>;
  /** Bindings to be taken out, and those to be put back that were taken out before. */
  withdrawn?: ReadonlySet<number>;
  restored?: ReadonlySet<number>;
  /** Assets whose instances may have other values. */
  revalued?: Iterable<number>;
  /** Assets whose instances' nodes are taken out with all their edges; their bindings are withdrawn. */
  emptied?: ReadonlySet<number>;
  /** Assets that got other events and actions, after their nodes were taken out. */
  redeclared?: ReadonlySet<number>;
  things?: ThingsEdit;
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
/** A binding that changes in some of its copies: their owners before, and after. */
interface ChangedCopies {
  gone: Set<number>;
  fresh: Set<number>;
}

/**
 * Edits a graph in place, of whose project only bindings change. Cost of an edit: the bindings of the assets that change,
 * the copies of the bindings that do, and the edges at their ends.
 */
export class GraphEditor {
  readonly runs: EdgeRuns;
  /** What selections take. */
  readonly select: Selector;
  private readonly instances: InstanceEdits;
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
    this.instances = new InstanceEdits(g.x);
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
   * Goes over to the next state of the project, of which only bindings differ, and what the edit says besides. Null where that
   * cannot be followed, for lack of room or else; the graph is of no more use then.
   * @throws ProjectTooLarge, with the same consequence
   */
  edit(
    index: ProjectIndex,
    {
      again = NONE,
      withdrawn = NONE,
      restored = NONE,
      revalued = [],
      emptied = NONE,
      redeclared = NONE,
      things = NO_THINGS,
    }: GraphEdit = {},
  ): GraphDelta | null {
    const { g } = this;
    const { x } = g;
    const changed = this.changedAssets(index, again, withdrawn, restored);
    const leaving = this.instances.leaving(things.edits);
    if (!changed || !leaving) return null;
    const partly = new Map<number, ChangedCopies>();
    for (const [number, owners] of things.partly) {
      const staying = [...owners].filter((i) => !leaving.has(i));
      partly.set(number, { gone: new Set(staying), fresh: new Set(staying) });
    }
    this.takeOwn(leaving, 'gone', partly);
    for (const number of restored) partly.delete(number);
    const whole = new Set(changed.flatMap(({ asset, gone }) => gone.map((p) => this.authored(asset, p))));
    for (const number of whole) partly.delete(number);
    const gone = [...this.copies(changed, 'gone'), ...this.partOf(partly, 'gone')].sort(inOrder);
    const lost = this.collect(gone, 'gone');
    const goneNumbers = new Set(gone.map(({ owner, position }) => x.numberOf(owner, position)));
    const authored = new Set<number>();
    const old: BindingRecords[] = [];
    for (const { asset, gone: positions } of changed) {
      for (const position of positions) {
        const number = this.authored(asset, position);
        authored.add(number);
        const records = this.takeRecords(number);
        if (records) old.push(records);
      }
    }
    for (const [number, { gone: owners }] of partly) {
      authored.add(number);
      const records = this.takeRecords(number);
      if (!records) continue;
      const [taken, kept] = splitRecords(records, owners);
      old.push(taken);
      if (LISTS.some(([name]) => kept[name].length > 0)) this.putRecords(number, kept);
    }
    const before = x.index;
    x.index = index;
    x.standIns.index = index;
    for (const asset of revalued) this.select.forgetValues(asset);
    for (const { asset, slots } of changed) if (slots) x.slots.take(asset, slots);
    for (const asset of redeclared) if (!this.redeclare(asset)) return null;
    const made = this.instances.make(before, things.edits, leaving);
    if (!made) return null;
    this.number(made);
    if (redeclared.size > 0) x.recount();
    for (const asset of new Set([...made.instances, ...leaving].map((i) => x.asset[i])))
      this.select.forgetValues(asset);
    const all = new Set(changed.flatMap(({ asset, fresh }) => fresh.map((p) => this.authored(asset, p))));
    for (const number of all) authored.add(number);
    const others = new Map<number, ChangedCopies>();
    this.takeOwn(made.instances, 'fresh', others);
    for (const [number, { fresh: owners }] of others) {
      if (all.has(number)) continue;
      authored.add(number);
      const copies = partly.get(number);
      if (copies) for (const i of owners) copies.fresh.add(i);
      else partly.set(number, { gone: new Set(), fresh: owners });
    }
    const nodesBefore = g.nodes;
    const coming = [...this.copies(changed, 'fresh'), ...this.partOf(partly, 'fresh')].sort(inOrder);
    const fresh = this.collect(coming, 'fresh');
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
      this.count(records, 1, uses);
      const kept = this.takeRecords(number);
      this.putRecords(number, kept ? joinRecords(kept, records) : records);
    }
    const counts = new Map<number, number>();
    for (const [list, times] of [
      [lost.counted, -1],
      [fresh.counted, 1],
    ] as const) {
      for (const node of list.view()) {
        g.countsAsBound[node] += times;
        counts.set(node, (counts.get(node) ?? 0) + times);
      }
    }
    const counted = new Set([...counts.keys()].filter((node) => counts.get(node) !== 0));
    g.expandedBindings += fresh.expandedBindings - lost.expandedBindings;
    if (g.edges > MAX_EDGES) throw tooManyEdges(x, -1);
    this.runs.compact();
    // Most edges of what was resolved again are the same as before.
    const same = new Set([...again, ...partly.keys()]);
    if (same.size > 0) cancelOut(removed, added, (ref) => ref >= 0 && same.has(x.authoredOf(ref)));
    const tails = new Set([...removed.tails, ...added.tails]);
    const changedUses = [...uses.values()];
    const channels = new Set(changedUses.map((u) => u.channel));
    const otherKeys = new Set(
      changedUses.filter((u) => u.of.has(u.channel, u.key) !== u.was).map((u) => u.channel),
    );
    const came = new Set(made.instances);
    return {
      removed,
      added,
      tails,
      authored,
      channels,
      otherKeys,
      counted,
      coming: made.instances,
      leaving,
      emptied: new Set([...emptied].flatMap((asset) => [...x.instancesOf(asset)])),
      filled: [...redeclared].flatMap((asset) => [...x.instancesOf(asset)]).filter((i) => !came.has(i)),
    };
  }
  /** Gives the numbers free of what has left. Nothing leads to it any more, nor from it. */
  retire({ leaving, emptied }: GraphDelta): void {
    const { x, action } = this.g;
    for (const instances of [leaving, emptied]) {
      for (const i of instances) action.fill(UNUSED, x.nodeBase[i], x.nodeBase[i + 1]);
    }
    this.instances.retire(leaving);
  }

  private authored(asset: number, position: number): number {
    const { slots } = this.g.x;
    return slots.base[asset] + slots.slot(asset, position);
  }
  /** Adds the own bindings of instances. */
  private takeOwn(
    instances: Iterable<number>,
    which: 'gone' | 'fresh',
    to: Map<number, ChangedCopies>,
  ): void {
    const { x } = this.g;
    for (const i of instances) {
      const { at, bindings } = x.assetOf(i);
      for (let position = 0; position < bindings.length; position++) {
        const number = this.authored(at, position);
        let copies = to.get(number);
        if (!copies) to.set(number, (copies = { gone: new Set(), fresh: new Set() }));
        copies[which].add(i);
      }
    }
  }
  private partOf(partly: ReadonlyMap<number, ChangedCopies>, which: 'gone' | 'fresh'): Copy[] {
    const { slots } = this.g.x;
    return [...partly].flatMap(([number, copies]) => {
      const asset = slots.assetOf(number);
      const position = slots.position(asset, number - slots.base[asset]);
      return position < 0 ? [] : Array.from(copies[which], (owner) => ({ owner, position }));
    });
  }
  /** Nodes and bindings of what came, and of the numbers that are left free beside it. */
  private number({ instances, runs }: Made): void {
    const { x, instanceOf, action } = this.g;
    for (const { from, end } of runs) {
      for (let i = from; i < end; i++) instanceOf.fill(i, x.nodeBase[i], x.nodeBase[i + 1]);
      x.renumbered(from, end);
    }
    for (const i of instances) markNodes(x, action, i);
  }
  private takeRecords(number: number): BindingRecords | undefined {
    const { g } = this;
    const records = g.records.get(number);
    if (!records) return undefined;
    this.register(number, records, false);
    g.records.delete(number);
    g.faulty.delete(number);
    return records;
  }
  private putRecords(number: number, records: BindingRecords): void {
    const { g } = this;
    g.records.set(number, records);
    if (records.faults.length > 0) g.faulty.add(number);
    this.register(number, records, true);
  }

  private changedAssets(
    index: ProjectIndex,
    again: ReadonlySet<number>,
    withdrawn: ReadonlySet<number>,
    restored: ReadonlySet<number>,
  ): ChangedAsset[] | null {
    const { slots: numbers, index: old } = this.g.x;
    const [same, out, back] = [again, withdrawn, restored].map((all) => this.positions(all));
    const changed: ChangedAsset[] = [];
    for (const { at: asset, bindings } of index.assets) {
      const before = old.assets[asset].bindings;
      const [staying, outs, backs] = [same, out, back].map((all) => all.get(asset) ?? []);
      if (bindings === before) {
        if (staying.length + outs.length + backs.length === 0) continue;
        changed.push({ asset, gone: [...staying, ...outs], fresh: [...staying, ...backs], slots: null });
        continue;
      }
      const aligned = alignLists<Binding>(before, bindings);
      const slots = numbers.next(asset, aligned, bindings.length);
      if (!slots) return null;
      const isOut = new Set(backs);
      const stays = (position: number): boolean => aligned.moved[position] >= 0;
      const gone = [...aligned.gone.filter((p) => !isOut.has(p)), ...staying.filter(stays)];
      const fresh = [...staying, ...backs].filter(stays).map((p) => aligned.moved[p]);
      changed.push({ asset, gone, fresh: [...aligned.fresh, ...fresh], slots });
    }
    return changed;
  }
  /** Where bindings stand now, by their owner's asset. */
  private positions(authored: ReadonlySet<number>): Map<number, number[]> {
    const { slots, index } = this.g.x;
    const byAsset = new Map<number, number[]>();
    for (const number of authored) {
      const asset = slots.assetOf(number);
      const position = slots.position(asset, number - slots.base[asset]);
      if (position < 0 || position >= index.assets[asset].bindings.length) continue;
      const own = byAsset.get(asset);
      if (own) own.push(position);
      else byAsset.set(asset, [position]);
    }
    return byAsset;
  }
  /** Marks the nodes of an asset's instances by its events and actions. False if there is no room for them. */
  private redeclare(asset: number): boolean {
    const { x, action } = this.g;
    const { events, actions } = x.index.assets[asset];
    for (const i of x.instancesOf(asset)) {
      if (x.nodeBase[i + 1] - x.nodeBase[i] < events.length + actions.length) return false;
      markNodes(x, action, i);
    }
    return true;
  }
  /** The copies of what comes or goes. */
  private copies(changed: readonly ChangedAsset[], which: 'gone' | 'fresh'): Copy[] {
    const copies: Copy[] = [];
    for (const { asset, [which]: positions } of changed) {
      if (positions.length === 0) continue;
      for (const owner of this.g.x.instancesOf(asset)) {
        for (const position of positions) copies.push({ owner, position });
      }
    }
    return copies;
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
  /**
   * Takes the effect edges from instances and to them, once they have no others; the delta says so, too. Gives the other
   * instances that lost some.
   */
  dropEffects(instances: ReadonlySet<number>, delta: GraphDelta): Set<number> {
    const { g, runs } = this;
    const { x, instanceOf } = g;
    const others = new Set<number>();
    const drop = (tail: number): void => {
      if (g.first[tail] === g.end[tail]) return;
      runs.remove(tail, () => true, delta.removed);
      delta.tails.add(tail);
    };
    for (const i of instances) {
      for (let n = x.nodeBase[i]; n < x.nodeBase[i + 1]; n++) {
        drop(n);
        for (const tail of runs.incoming.tails(n).slice()) {
          drop(tail);
          others.add(instanceOf[tail]);
        }
      }
    }
    for (const i of instances) others.delete(i);
    return others;
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

const NONE: ReadonlySet<number> = new Set();
const NO_THINGS: ThingsEdit = { edits: [], partly: new Map() };

/** Takes out of both what is in both, if a test of its binding says yes. Linear. */
function cancelOut(removed: LooseEdges, added: LooseEdges, may: (ref: number) => boolean): void {
  const counts = new Map<number, Map<number, number>>();
  // Nodes are fewer than 2 to the 26th.
  const idOf = ({ tails, heads }: LooseEdges, i: number): number => tails[i] * 2 ** 26 + heads[i];
  const count = (edges: LooseEdges, i: number, times: 1 | -1): number => {
    let own = counts.get(edges.refs[i]);
    if (!own) counts.set(edges.refs[i], (own = new Map<number, number>()));
    const now = (own.get(idOf(edges, i)) ?? 0) + times;
    own.set(idOf(edges, i), now);
    return now;
  };
  removed.refs.forEach((ref, i) => may(ref) && count(removed, i, 1));
  keep(added, (i) => !may(added.refs[i]) || count(added, i, -1) < 0);
  keep(removed, (i) => !may(removed.refs[i]) || count(removed, i, -1) >= 0);
}
function keep({ tails, heads, refs }: LooseEdges, isKept: (i: number) => boolean): void {
  let to = 0;
  for (let i = 0; i < refs.length; i++) {
    if (!isKept(i)) continue;
    [tails[to], heads[to], refs[to]] = [tails[i], heads[i], refs[i]];
    to++;
  }
  tails.length = heads.length = refs.length = to;
}

/** Running order. */
function inOrder(a: Copy, b: Copy): number {
  return a.owner - b.owner || a.position - b.position;
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
