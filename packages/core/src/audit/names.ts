import type { Expansion } from '../expand/expansion.js';
import {
  bindingOfEdge,
  channelAt,
  EDGE_CLASSES,
  EDGE_KINDS,
  edgeClass,
  edgeDelay,
  edgeKind,
  effectOfEdge,
  expandedBinding,
  isChannel,
  keyAt,
  NO_KEY,
  type Graph,
} from '../graph/graph.js';
import { latency, type GraphPath } from '../graph/paths.js';
import { effectName } from '../project/effect-name.js';
import { chainParts, shortestRound } from '../graph/chain-parts.js';
import { heaviestPath, type Chains } from '../graph/chains.js';
import type { Components } from '../graph/components.js';
import type {
  BindingRef,
  ChainStretch,
  EdgeRef,
  EffectRefName,
  NodeRef,
  PathEvidence,
  PathStep,
} from './finding.js';

export function bindingRef(x: Expansion, number: number): BindingRef {
  const { owner, binding } = expandedBinding(x, number);
  return { asset: x.assetOf(owner).decl.id, binding: binding.id };
}

/** The owner of bindings in a message: a scene by its name, anything else by its address. */
export function ownerText(x: Expansion, owner: number): string {
  return x.parent[owner] < 0 ? x.assetOf(owner).decl.id : x.address(owner);
}

/** The subject of an instance: its placement, a scene itself, or a stand-in of its holder. */
export function placementRef(
  x: Expansion,
  instance: number,
): { asset: string } | { asset: string; placement: string } {
  const parent = x.parent[instance];
  if (parent < 0) return { asset: x.assetOf(instance).decl.id };
  return { asset: x.assetOf(parent).decl.id, placement: x.segment(instance) };
}

export function nodeRef(g: Graph, node: number): NodeRef {
  if (isChannel(g, node)) {
    const { name } = g.x.index.project.channels![channelAt(g, node)];
    const key = keyAt(g, node);
    return key === NO_KEY ? { type: 'channel', name } : { type: 'channel', name, key: g.values.value(key) };
  }
  const instance = g.instanceOf[node];
  const asset = g.x.assetOf(instance);
  const offset = node - g.x.nodeBase[instance];
  const at = g.x.address(instance);
  return offset < asset.events.length
    ? { type: 'event', at, name: asset.events[offset].name }
    : { type: 'action', at, name: asset.actions[offset - asset.events.length].name };
}

export function effectRef(g: Graph, edge: number, tail: number): EffectRefName {
  const asset = g.x.assetOf(g.instanceOf[tail]);
  const { action, effect } = effectOfEdge(g, edge, tail);
  return { asset: asset.decl.id, action: asset.actions[action].name, effect: effectName(effect) };
}

export function edgeRef(g: Graph, edge: number, tail: number): EdgeRef {
  const delay = edgeDelay(g, edge, tail);
  const ref: EdgeRef = { kind: EDGE_KINDS[edgeKind(g, edge)], class: EDGE_CLASSES[edgeClass(g, edge)] };
  if (delay > 0) ref.delay = delay;
  const bound = bindingOfEdge(g, edge);
  if (!bound) return { ...ref, effect: effectRef(g, edge, tail) };
  return { ...ref, binding: bindingRef(g.x, bound.number), owner: g.x.address(bound.owner) };
}

/** Steps that a picture can show; beyond it the middle is of no use to a reader. */
const MAX_STEPS = 400;

/** A way through the graph in names, for a finding. Cost: its steps. */
export function pathEvidence(g: Graph, path: GraphPath, closed: boolean): PathEvidence {
  const steps = pathSteps(g, path);
  const evidence: PathEvidence = { kind: 'path', steps, closed, latency: latency(g, path) };
  const more = path.edges.length + 1 - steps.length;
  return more > 0 ? { ...evidence, more } : evidence;
}
function pathSteps(g: Graph, path: GraphPath): PathStep[] {
  const steps: PathStep[] = [{ node: nodeRef(g, path.start) }];
  for (let i = 0; i < path.edges.length && i < MAX_STEPS; i++) {
    const edge = path.edges[i];
    steps.push({ node: nodeRef(g, g.head[edge]), via: edgeRef(g, edge, path.tails[i]) });
  }
  return steps;
}

/** A heaviest path in names; where it runs into cycles, with its stretches and a way round each. */
export function chainEvidence(g: Graph, c: Components, chains: Chains, from: number): PathEvidence {
  const path = heaviestPath(g, c, chains, from);
  const evidence = pathEvidence(g, path, false);
  const parts = chainParts(g, c, chains, path);
  if (!parts.some((p) => p.cycle)) return evidence;
  const stretches = parts.map(({ hops, cycle, from: step }): ChainStretch => {
    if (!cycle) return { hops, from: step };
    const round = shortestRound(g, c, step === 0 ? path.start : g.head[path.edges[step - 1]]);
    return { hops, from: step, cycle: round ? pathSteps(g, round) : [] };
  });
  return { ...evidence, parts: stretches };
}

/** The address that a placement would have inside an instance, though it yields none. */
export function below(x: Expansion, instance: number, id: string): string {
  const address = x.address(instance);
  return address.endsWith(':.') ? `${address.slice(0, -1)}${id}` : `${address}/${id}`;
}
