import { spread, type Expansion } from '../expand/expansion.js';
import { BindingEdges } from './binding-edges.js';
import { addEffectEdges } from './effect-edges.js';
import type { Graph } from './graph.js';
import { mutedBindings, planBindings, sceneInstances, SinglePlan, type Plan } from './plans.js';

/**
 * Builds the binding graph of an expanded project. Linear in expanded bindings, effects and edges.
 * @throws ProjectTooLarge when the deliveries of all selections together exceed `MAX_EDGES`.
 */
export function buildGraph(x: Expansion): Graph {
  const edges = new BindingEdges(x);
  const scenes = sceneInstances(x);
  const copies = new Int32Array(x.index.assets.length);
  for (const asset of x.asset) copies[asset]++;
  const plans: (readonly (Plan | null)[] | undefined)[] = [];
  const single = new SinglePlan(x, scenes);
  for (let owner = 0; owner < x.count; owner++) {
    const asset = x.assetOf(owner);
    if (asset.bindings.length === 0) continue;
    const muted = mutedBindings(x, owner);
    const base = x.bindingBase[owner];
    const many = copies[asset.at] > 1 ? (plans[asset.at] ??= planBindings(x, asset, scenes)) : null;
    for (let b = 0; b < asset.bindings.length; b++) {
      const binding = asset.bindings[b];
      if (binding.enabled === false || muted?.has(binding.id)) continue;
      single.turnTo(binding, asset);
      edges.add(many ? many[b]! : single, owner, base + b);
    }
  }
  edges.addHearEdges();
  addEffectEdges(x, edges.addEdge);
  return sortByTail(x, edges);
}

/** The graph of all edges, grouped by tail in the order in which they were added. */
function sortByTail(x: Expansion, edges: BindingEdges): Graph {
  const nodes = edges.channelBase + edges.channelOf.length;
  const tails = edges.tails.view();
  const first = new Int32Array(nodes + 1);
  for (let e = 0; e < tails.length; e++) first[tails[e] + 1]++;
  for (let n = 0; n < nodes; n++) first[n + 1] += first[n];
  const next = first.slice(0, nodes);
  const head = new Int32Array(tails.length);
  const meta = new Uint8Array(tails.length);
  const ref = new Int32Array(tails.length);
  const [heads, metas, refs] = [edges.heads.view(), edges.metas.view(), edges.refs.view()];
  for (let e = 0; e < tails.length; e++) {
    const at = next[tails[e]]++;
    head[at] = heads[e];
    meta[at] = metas[e];
    ref[at] = refs[e];
  }
  const countsAsBound = new Int32Array(edges.channelBase);
  for (const node of edges.counted.view()) countsAsBound[node]++;
  return {
    x,
    values: edges.values,
    nodes,
    channelBase: edges.channelBase,
    channelOf: edges.channelOf.toArray(),
    keyOf: edges.keyOf.toArray(),
    first,
    head,
    meta,
    ref,
    instanceOf: spread(x.nodeBase),
    action: actionNodes(x, nodes),
    faulty: edges.faulty.toArray(),
    publications: edges.publications.toArray(),
    hearings: edges.hearings.toArray(),
    selections: edges.selections.toArray(),
    countsAsBound,
    expandedBindings: edges.expandedBindings,
  };
}

function actionNodes(x: Expansion, nodes: number): Uint8Array {
  const action = new Uint8Array(nodes);
  for (let i = 0; i < x.count; i++) {
    action.fill(1, x.nodeBase[i] + x.assetOf(i).events.length, x.nodeBase[i + 1]);
  }
  return action;
}
