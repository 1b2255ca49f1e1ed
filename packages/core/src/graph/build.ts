import { spread, type Expansion } from '../expand/expansion.js';
import { BindingEdges } from './binding-edges.js';
import { addEffectEdges } from './effect-edges.js';
import { ChannelNodes, KeyCounts } from './channel-nodes.js';
import { HEARING_STRIDE, PUBLICATION_STRIDE, UNUSED, type BindingRecords, type Graph } from './graph.js';
import { Selector } from '../expand/select.js';
import { ValueTable } from '../expand/values.js';
import {
  mutedBindings,
  bindingResolvers,
  sceneInstances,
  SingleResolver,
  type Resolver,
} from './resolver.js';

/**
 * Builds the binding graph of an expanded project. Linear in expanded bindings, effects and edges.
 * @throws ProjectTooLarge when the deliveries of all selections together exceed `MAX_EDGES`.
 */
export function buildGraph(x: Expansion): Graph {
  const values = new ValueTable();
  const ofInstances = x.nodeBase[x.count];
  const channelCount = (x.index.project.channels ?? []).length;
  const channels = new ChannelNodes(channelCount, (own) => ofInstances + own);
  const select = new Selector(x, values);
  const edges = new BindingEdges(x, values, channels, select, 1024);
  addBindings(x, edges);
  edges.addHearEdges();
  addEffectEdges(x, edges.addEdge);
  const nodes = ofInstances + channels.node.length;
  const countsAsBound = new Int32Array(ofInstances);
  for (const node of edges.counted.view()) countsAsBound[node]++;
  const published = new KeyCounts(channelCount);
  const heard = new KeyCounts(channelCount);
  const faulty = new Set<number>();
  for (const [authored, records] of edges.records) {
    countKeys(published, heard, records);
    if (records.faults.length > 0) faulty.add(authored);
  }
  const byTail = sortByTail(edges, nodes);
  return {
    x,
    values,
    select,
    nodes,
    channels,
    ...byTail,
    edges: byTail.head.length,
    instanceOf: instancesOfNodes(x, channels.node.length),
    action: actionNodes(x, nodes),
    records: edges.records,
    faulty,
    published,
    heard,
    countsAsBound,
    expandedBindings: edges.expandedBindings,
  };
}

function addBindings(x: Expansion, edges: BindingEdges): void {
  const scenes = sceneInstances(x);
  const copies = new Int32Array(x.index.assets.length);
  for (let i = 0; i < x.count; i++) if (!x.isFree(i)) copies[x.asset[i]]++;
  const resolvers: (readonly (Resolver | null)[] | undefined)[] = [];
  const single = new SingleResolver(x, scenes);
  for (let owner = 0; owner < x.count; owner++) {
    const asset = x.assetOf(owner);
    if (asset.bindings.length === 0 || x.isFree(owner)) continue;
    const muted = mutedBindings(x, owner);
    const many = copies[asset.at] > 1 ? (resolvers[asset.at] ??= bindingResolvers(x, asset, scenes)) : null;
    for (let b = 0; b < asset.bindings.length; b++) {
      const binding = asset.bindings[b];
      if (binding.enabled === false || muted?.has(binding.id)) continue;
      single.setBinding(binding, asset);
      edges.add(many ? many[b]! : single, owner, x.numberOf(owner, b));
    }
  }
}

/** Adds what a binding's records say of channels to the counts. */
function countKeys(published: KeyCounts, heard: KeyCounts, { publications, hearings }: BindingRecords): void {
  for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
    published.add(publications[p + 1], publications[p + 2], 1);
  }
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) heard.add(hearings[h + 1], hearings[h + 2], 1);
}

/** All edges, grouped by tail in the order in which they were added. */
function sortByTail(
  edges: BindingEdges,
  nodes: number,
): Pick<Graph, 'first' | 'end' | 'head' | 'meta' | 'ref'> {
  const tails = edges.tails.view();
  const starts = new Int32Array(nodes + 1);
  for (let e = 0; e < tails.length; e++) starts[tails[e] + 1]++;
  for (let n = 0; n < nodes; n++) starts[n + 1] += starts[n];
  const end = starts.slice(0, nodes);
  const head = new Int32Array(tails.length);
  const meta = new Uint8Array(tails.length);
  const ref = new Int32Array(tails.length);
  const [heads, metas, refs] = [edges.heads.view(), edges.metas.view(), edges.refs.view()];
  for (let e = 0; e < tails.length; e++) {
    const at = end[tails[e]]++;
    head[at] = heads[e];
    meta[at] = metas[e];
    ref[at] = refs[e];
  }
  return { first: starts.slice(0, nodes), end, head, meta, ref };
}

function instancesOfNodes(x: Expansion, channelNodes: number): Int32Array {
  const ofInstances = spread(x.nodeBase);
  const of = new Int32Array(ofInstances.length + channelNodes);
  of.set(ofInstances);
  for (let c = 0; c < channelNodes; c++) of[ofInstances.length + c] = -1 - c;
  return of;
}
/** Which nodes of an instance are events, actions, or unused. */
export function markNodes(x: Expansion, action: Uint8Array, i: number): void {
  const { events, actions } = x.assetOf(i);
  const [base, end] = [x.nodeBase[i], x.nodeBase[i + 1]];
  action.fill(UNUSED, base, end);
  if (x.isFree(i)) return;
  action.fill(0, base, base + events.length);
  action.fill(1, base + events.length, base + events.length + actions.length);
}
function actionNodes(x: Expansion, nodes: number): Uint8Array {
  const action = new Uint8Array(nodes);
  for (let i = 0; i < x.count; i++) {
    markNodes(x, action, i);
  }
  return action;
}
