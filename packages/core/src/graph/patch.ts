import type { Expansion } from '../expand/expansion.js';
import type { Binding } from '../project/types.js';
import { BindingEdges } from './binding-edges.js';
import {
  ANY_KEY,
  FAULT_STRIDE,
  HEARING_STRIDE,
  PUBLICATION_STRIDE,
  SELECTION_STRIDE,
  type Graph,
} from './graph.js';
import { BindingPlan, mutedBindings, sceneInstances } from './plans.js';
import { PathTable } from '../expand/resolve.js';
import { alignLists } from '../util/align-lists.js';

/** Edges apart from a graph: parallel lists of tail and head. */
export interface LooseEdges {
  tails: Int32Array;
  heads: Int32Array;
}

/** A graph after an edit, and what of it is new. */
export interface GraphDelta {
  graph: Graph;
  removed: LooseEdges;
  added: LooseEdges;
  /** The tails of both, ascending, each once. */
  tails: Int32Array;
}

/**
 * The graph of a project of which only bindings differ from those of a graph that is there: equal to one built anew,
 * at the cost of the changed bindings and of copying the rest. Null where that cannot be had: the channel nodes come in
 * another order, so their numbers differ.
 * @throws ProjectTooLarge
 */
export function patchGraph(old: Graph, x: Expansion): GraphDelta | null {
  const renumbering = renumber(old.x, x);
  const gone = collect(old.x, old, renumbering.gone);
  const fresh = collect(x, old, renumbering.fresh);
  if (fresh.channelOf.length > old.channelOf.length) return null;
  const { numbers } = renumbering;
  const graph: Graph = {
    ...old,
    ...patchEdges(old, numbers, fresh, gone),
    x,
    faulty: patchRecords(old.faulty, FAULT_STRIDE, numbers, fresh.faulty.view()),
    publications: patchRecords(old.publications, PUBLICATION_STRIDE, numbers, fresh.publications.view()),
    hearings: patchRecords(old.hearings, HEARING_STRIDE, numbers, fresh.hearings.view()),
    selections: patchRecords(old.selections, SELECTION_STRIDE, numbers, fresh.selections.view()),
    countsAsBound: patchCounts(old.countsAsBound, fresh, gone),
    expandedBindings: old.expandedBindings + fresh.expandedBindings - gone.expandedBindings,
  };
  if (!sameChannelNodes(graph)) return null;
  const loose = (edges: BindingEdges): LooseEdges => ({
    tails: edges.tails.toArray(),
    heads: edges.heads.toArray(),
  });
  const [removed, added] = [loose(gone), loose(fresh)];
  return { graph, removed, added, tails: ascending([...removed.tails, ...added.tails]) };
}

export function ascending(numbers: Iterable<number>): Int32Array {
  return Int32Array.from(new Set(numbers)).sort();
}

/** A binding in one copy of its owner. */
interface Copy {
  owner: number;
  binding: number;
}
interface Renumbering {
  /** For each old expanded binding its new number; −1 where it is gone or another. */
  numbers: Int32Array;
  gone: Copy[];
  fresh: Copy[];
}

function renumber(before: Expansion, after: Expansion): Renumbering {
  const numbers = new Int32Array(before.bindingBase[before.count]);
  const aligned = after.index.assets.map((asset, at) => {
    const old = before.index.assets[at];
    return asset.bindings === old.bindings ? null : alignLists<Binding>(old.bindings, asset.bindings);
  });
  const gone: Copy[] = [];
  const fresh: Copy[] = [];
  for (let owner = 0; owner < before.count; owner++) {
    const from = before.bindingBase[owner];
    const to = after.bindingBase[owner];
    const pair = aligned[before.asset[owner]];
    if (!pair) {
      for (let n = from; n < before.bindingBase[owner + 1]; n++) numbers[n] = n - from + to;
      continue;
    }
    pair.moved.forEach((b, i) => (numbers[from + i] = b < 0 ? -1 : to + b));
    for (const binding of pair.gone) gone.push({ owner, binding });
    for (const binding of pair.fresh) fresh.push({ owner, binding });
  }
  return { numbers, gone, fresh };
}

/** What some bindings put into a graph, in the order of their numbers. */
function collect(x: Expansion, seed: Graph, copies: readonly Copy[]): BindingEdges {
  const edges = new BindingEdges(x, seed);
  const scenes = sceneInstances(x);
  const plans = new Map<Binding, BindingPlan>();
  for (const { owner, binding: b } of copies) {
    const asset = x.assetOf(owner);
    const binding = asset.bindings[b];
    if (binding.enabled === false || mutedBindings(x, owner)?.has(binding.id)) continue;
    let plan = plans.get(binding);
    if (!plan)
      plans.set(binding, (plan = new BindingPlan(x, new PathTable(x, scenes, asset.at), binding, asset.at)));
    edges.add(plan, owner, x.bindingBase[owner] + b);
  }
  edges.addHearEdges();
  return edges;
}

/** Copies the edges of all tails but those that change, and sorts in what is new at those. */
function patchEdges(
  old: Graph,
  numbers: Int32Array,
  fresh: BindingEdges,
  gone: BindingEdges,
): Pick<Graph, 'first' | 'head' | 'meta' | 'ref'> {
  const count = old.head.length + fresh.tails.length - gone.tails.length;
  const first = new Int32Array(old.nodes + 1);
  const head = new Int32Array(count);
  const meta = new Uint8Array(count);
  const ref = new Int32Array(count);
  let copied = 0; // tails below this node are done
  let at = 0;
  const copyUpTo = (node: number): void => {
    const [from, to] = [old.first[copied], old.first[node]];
    head.set(old.head.subarray(from, to), at);
    meta.set(old.meta.subarray(from, to), at);
    for (let e = from; e < to; e++) ref[e - from + at] = old.ref[e] < 0 ? old.ref[e] : numbers[old.ref[e]];
    for (let n = copied; n < node; n++) first[n] = old.first[n] - from + at;
    at += to - from;
    copied = node;
  };
  const added = edgesByTail(fresh);
  for (const tail of ascending([...fresh.tails.view(), ...gone.tails.view()])) {
    copyUpTo(tail);
    const edges: [number, number, number][] = [];
    for (let e = old.first[tail]; e < old.first[tail + 1]; e++) {
      const number = numbers[old.ref[e]];
      if (number >= 0) edges.push([old.head[e], old.meta[e], number]);
    }
    for (const e of added.get(tail) ?? []) {
      edges.push([fresh.heads.get(e), fresh.metas.get(e), fresh.refs.get(e)]);
    }
    edges.sort((a, b) => a[2] - b[2]);
    first[tail] = at;
    for (const edge of edges) [head[at], meta[at], ref[at++]] = edge;
    copied = tail + 1;
  }
  copyUpTo(old.nodes);
  first[old.nodes] = at;
  return { first, head, meta, ref };
}

function edgesByTail(edges: BindingEdges): Map<number, number[]> {
  const by = new Map<number, number[]>();
  edges.tails.view().forEach((tail, e) => {
    const own = by.get(tail);
    if (own) own.push(e);
    else by.set(tail, [e]);
  });
  return by;
}

/** Records begin with an expanded binding's number and are sorted by it. */
function patchRecords(old: Int32Array, stride: number, numbers: Int32Array, fresh: Int32Array): Int32Array {
  const out = new Int32Array(old.length + fresh.length);
  let length = 0;
  let f = 0;
  const takeFresh = (before: number): void => {
    for (; f < fresh.length && fresh[f] < before; f += stride) {
      out.set(fresh.subarray(f, f + stride), length);
      length += stride;
    }
  };
  for (let r = 0; r < old.length; r += stride) {
    const number = numbers[old[r]];
    if (number < 0) continue;
    takeFresh(number);
    out[length] = number;
    for (let k = 1; k < stride; k++) out[length + k] = old[r + k];
    length += stride;
  }
  takeFresh(Infinity);
  return out.slice(0, length);
}

function patchCounts(old: Int32Array, fresh: BindingEdges, gone: BindingEdges): Int32Array {
  const counts = old.slice();
  for (const node of fresh.counted.view()) counts[node]++;
  for (const node of gone.counted.view()) counts[node]--;
  return counts;
}

/** Whether a graph built anew would number the channel nodes alike: they are numbered as bindings first name them. */
function sameChannelNodes({ publications, hearings, faulty, channelOf, keyOf }: Graph): boolean {
  const half = new Set<number>();
  for (let f = 0; f < faulty.length; f += FAULT_STRIDE) half.add(faulty[f]);
  const seen = new Set<string>();
  const inOrder = (channel: number, key: number): boolean => {
    const id = `${channel}/${key}`;
    if (seen.has(id)) return true;
    const next = seen.size;
    seen.add(id);
    return channelOf[next] === channel && keyOf[next] === key;
  };
  let p = 0;
  const publicationsBefore = (number: number): boolean => {
    for (; p < publications.length && publications[p] < number; p += PUBLICATION_STRIDE) {
      if (publications[p + 3] === 1 && !inOrder(publications[p + 1], publications[p + 2])) return false;
    }
    return true;
  };
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
    if (!publicationsBefore(hearings[h])) return false;
    const key = hearings[h + 2];
    if (key === ANY_KEY || half.has(hearings[h])) continue;
    if (!inOrder(hearings[h + 1], key)) return false;
  }
  return publicationsBefore(Infinity) && seen.size === channelOf.length;
}
