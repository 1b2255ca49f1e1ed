import { InstanceEdits, type Made } from '../expand/edit-instances.js';
import { PathTable } from '../expand/resolve.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { bindingClass, BindingEdges, MAX_EDGES, tooManyEdges } from './binding-edges.js';
import { markNodes } from './build.js';
import { ChangedBindings, type Copy } from './changed-bindings.js';
import { EdgeRuns, type Edge } from './edge-runs.js';
import { cancelOut, type GraphDelta, type GraphEdit, type LooseEdges } from './graph-delta.js';
import { channelAt, HEAR, HEARING_STRIDE, NO_KEY, UNUSED } from './graph.js';
import type { BindingRecords, Graph } from './graph.js';
import type { Incoming } from './incoming.js';
import { eachNaming, RecordBook } from './record-book.js';
import { BindingResolver, mutedBindings, sceneInstances } from './resolver.js';

/**
 * Edits a graph in place: bindings come, go and change, and so do instances and the nodes of instances. Cost of an edit: the
 * bindings of the assets that change, the copies of the bindings that do, and the edges at their ends.
 */
export class GraphEditor {
  readonly runs: EdgeRuns;
  readonly records: RecordBook;
  private readonly instances: InstanceEdits;
  private readonly scenes: ReadonlyMap<number, number>;

  constructor(
    readonly g: Graph,
    incoming: Incoming,
  ) {
    this.runs = new EdgeRuns(g, incoming);
    this.records = new RecordBook(g);
    this.instances = new InstanceEdits(g.x);
    this.scenes = sceneInstances(g.x);
    g.channels.allocate = (own) => this.runs.newChannelNode(own);
  }

  /**
   * Goes over to the next state of the project, of which only bindings differ, and what the edit says besides. Null where that
   * cannot be followed, for lack of room or else; the graph is of no more use then.
   * @throws ProjectTooLarge, with the same consequence
   */
  edit(index: ProjectIndex, edit: GraphEdit = {}): GraphDelta | null {
    const { g } = this;
    const { x } = g;
    const all = { ...NOTHING, ...edit };
    const leaving = this.instances.leaving(all.things.edits);
    const changed = leaving && ChangedBindings.of(x, index, all, leaving);
    if (!changed) return null;
    const gone = changed.gone();
    const lost = this.collect(gone, 'gone');
    const goneNumbers = new Set(gone.map(({ owner, position }) => x.numberOf(owner, position)));
    const old = this.takeRecords(changed);
    const made = this.goOver(index, changed, all, leaving);
    if (!made) return null;
    const nodesBefore = g.nodes;
    const fresh = this.collect(changed.fresh(made.instances), 'fresh');
    const removed = noEdges();
    for (const tail of new Set(lost.tails.view())) {
      this.runs.remove(tail, (ref) => goneNumbers.has(ref), removed);
    }
    this.dropChannelNodes(old, removed);
    fresh.addHearEdges();
    const added = this.addEdges(fresh, nodesBefore);
    for (const records of old) this.records.count(records, -1);
    for (const [number, records] of fresh.records) {
      this.records.count(records, 1);
      this.records.add(number, records);
    }
    const counted = this.countBound(lost, fresh);
    g.expandedBindings += fresh.expandedBindings - lost.expandedBindings;
    if (g.edges > MAX_EDGES) throw tooManyEdges(x, -1);
    this.runs.compact();
    // Most edges of what was resolved again are the same as before.
    const same = new Set([...all.again, ...changed.partly.keys()]);
    if (same.size > 0) cancelOut(removed, added, (ref) => ref >= 0 && same.has(x.authoredOf(ref)));
    const came = new Set(made.instances);
    const instancesOf = (assets: Iterable<number>): number[] =>
      [...assets].flatMap((asset) => [...x.instancesOf(asset)]);
    return {
      removed,
      added,
      tails: new Set([...removed.tails, ...added.tails]),
      authored: changed.authored,
      ...this.records.countedChannels(),
      counted,
      coming: made.instances,
      leaving,
      emptied: new Set(instancesOf(all.emptied)),
      filled: instancesOf(all.redeclared).filter((i) => !came.has(i)),
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

  /** The records of what goes. */
  private takeRecords(changed: ChangedBindings): BindingRecords[] {
    const taken: (BindingRecords | undefined)[] = [];
    for (const number of changed.whole('gone')) taken.push(this.records.take(number, 'all'));
    for (const [number, { gone }] of changed.partly) taken.push(this.records.take(number, gone));
    return taken.filter((records) => records !== undefined);
  }
  /** The expansion goes over to its next state. */
  private goOver(
    index: ProjectIndex,
    changed: ChangedBindings,
    { revalued, redeclared, things }: Required<GraphEdit>,
    leaving: ReadonlySet<number>,
  ): Made | null {
    const { x, instanceOf, action, select } = this.g;
    const before = x.index;
    x.index = index;
    x.standIns.index = index;
    changed.takeSlots();
    for (const asset of redeclared) {
      x.recount(asset, before.assets[asset]);
      if (!this.redeclare(asset)) return null;
    }
    const made = this.instances.make(before, things.edits, leaving);
    if (!made) return null;
    for (const { from, end } of made.runs) {
      for (let i = from; i < end; i++) instanceOf.fill(i, x.nodeBase[i], x.nodeBase[i + 1]);
      x.renumbered(from, end);
    }
    for (const i of made.instances) markNodes(x, action, i);
    select.byValue.follow(new Set([...revalued, ...made.instances, ...leaving]));
    return made;
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
  /** The nodes that count as bound by more or fewer bindings. */
  private countBound(lost: BindingEdges, fresh: BindingEdges): Set<number> {
    const { countsAsBound } = this.g;
    const counts = new Map<number, number>();
    for (const [list, times] of [
      [lost.counted, -1],
      [fresh.counted, 1],
    ] as const) {
      for (const node of list.view()) {
        countsAsBound[node] += times;
        counts.set(node, (counts.get(node) ?? 0) + times);
      }
    }
    return new Set([...counts.keys()].filter((node) => counts.get(node) !== 0));
  }
  /** What some bindings put into the graph. What is gone has named its channel nodes already. */
  private collect(copies: readonly Copy[], which: 'gone' | 'fresh'): BindingEdges {
    const { g, scenes } = this;
    const { x, channels, select } = g;
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
    const added = noEdges();
    for (const [tail, edges] of byTail) runs.add(tail, edges, added);
    return added;
  }
  /** Whoever listens on a channel without a key hears a new node of it. */
  private hearAll(node: number, put: (tail: number, edge: Edge) => void): void {
    const { g } = this;
    const { x } = g;
    const channel = channelAt(g, node);
    if (channel < 0) return;
    for (const authored of this.records.listenersOf(channel)) {
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
}

const NONE: ReadonlySet<number> = new Set();
const NOTHING: Required<GraphEdit> = {
  again: NONE,
  withdrawn: NONE,
  restored: NONE,
  revalued: NONE,
  emptied: NONE,
  redeclared: NONE,
  things: { edits: [], partly: new Map() },
};
function noEdges(): LooseEdges {
  return { tails: [], heads: [], refs: [] };
}
