import type { PlacementEdit } from '../expand/edit-instances.js';

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
  partly: Map<number, ReadonlySet<number>>;
}

/** What an edit of a graph does besides the bindings that differ; bindings are given by authored number. */
export interface GraphEdit {
  /** Bindings to be resolved anew although they say the same. */
  again?: ReadonlySet<number>;
  /** Bindings to be taken out, and those to be put back that were taken out before. */
  withdrawn?: ReadonlySet<number>;
  restored?: ReadonlySet<number>;
  /** Instances that may have other values. */
  revalued?: Iterable<number>;
  /** Assets whose instances' nodes are taken out with all their edges; their bindings are withdrawn. */
  emptied?: ReadonlySet<number>;
  /** Assets that got other events and actions, after their nodes were taken out. */
  redeclared?: ReadonlySet<number>;
  things?: ThingsEdit;
}

/** Takes out of both what is in both, if a test of its binding says yes. Linear. */
export function cancelOut(removed: LooseEdges, added: LooseEdges, may: (ref: number) => boolean): void {
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
