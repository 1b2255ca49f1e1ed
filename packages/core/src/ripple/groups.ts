import type { Reached } from './reached.js';

/** Nodes of a ripple that one entry stands for. */
export interface EntryGroup {
  key: string;
  kind: 'single' | 'copies' | 'asset' | 'cycle';
  /** Local numbers. */
  members: number[];
  /** The innermost open fold that it came out of. */
  within: string | null;
}

/** How the nodes that are drawn are distinguished. */
export interface Drawn {
  /** Local numbers of the nodes that are drawn, in the order of the walk. */
  nodes: readonly number[];
  /** Of the start: never part of a fold of a cycle. */
  isStart: (i: number) => boolean;
  /** Twice the column. */
  level: (i: number) => number;
  /** A node's name that stays the same when folds are opened. */
  name: (i: number) => string;
  /** What its instance is of; empty for a channel. */
  asset: (i: number) => string;
}

/** Entries that a column holds before it is folded by asset. */
export const WIDE_COLUMN = 24;

/**
 * Groups what is drawn: a cycle that the ripple runs into as one, copies of the same at one hop as one from `fold` on, and
 * in a column that is still too wide all of an asset. Folds in `open` are left apart. Cost: the nodes, thrice.
 */
export function groupNodes(r: Reached, drawn: Drawn, fold: number, open: ReadonlySet<string>): EntryGroup[] {
  const cycleOf = fold === Infinity ? new Map<number, string>() : foldableCycles(r, drawn);
  const groups = new Map<string, EntryGroup>();
  const add = (key: string, i: number, group: Omit<EntryGroup, 'key' | 'members'>): void => {
    const old = groups.get(key);
    if (old) old.members.push(i);
    else groups.set(key, { key, members: [i], ...group });
  };
  for (const i of drawn.nodes) {
    const cycle = cycleOf.get(r.component[i]) ?? null;
    if (cycle !== null && !open.has(cycle)) add(cycle, i, { kind: 'cycle', within: null });
    else add(drawn.name(i), i, { kind: 'copies', within: cycle });
  }
  const unfolded = [...groups.values()].flatMap((g) => splitCopies(r, g, fold, open));
  return fold === Infinity ? unfolded : foldAssets(unfolded, drawn, open);
}

/** Components of two drawn nodes or more without a start, by name. */
function foldableCycles(r: Reached, drawn: Drawn): Map<number, string> {
  const sizes = new Map<number, { count: number; least: number }>();
  const begun = new Set<number>();
  for (const i of drawn.nodes) {
    const k = r.component[i];
    if (drawn.isStart(i)) begun.add(k);
    const size = sizes.get(k);
    if (!size) sizes.set(k, { count: 1, least: r.nodes[i] });
    else {
      size.count++;
      size.least = Math.min(size.least, r.nodes[i]);
    }
  }
  const names = new Map<number, string>();
  for (const [k, { count, least }] of sizes) {
    if (count > 1 && !begun.has(k)) names.set(k, `cycle/${least}`);
  }
  return names;
}

function splitCopies(r: Reached, g: EntryGroup, fold: number, open: ReadonlySet<string>): EntryGroup[] {
  if (g.kind === 'cycle') return [g];
  if (g.members.length === 1) return [{ ...g, kind: 'single' }];
  if (g.members.length >= fold && !open.has(g.key)) return [g];
  return g.members.map((i) => ({
    key: `${g.key}@${r.nodes[i]}`,
    kind: 'single' as const,
    members: [i],
    within: open.has(g.key) ? g.key : g.within,
  }));
}

/** In columns with too many entries, those of an asset become one. */
function foldAssets(groups: EntryGroup[], drawn: Drawn, open: ReadonlySet<string>): EntryGroup[] {
  const inColumn = new Map<number, number>();
  const level = (g: EntryGroup): number => drawn.level(g.members[0]);
  for (const g of groups) inColumn.set(level(g), (inColumn.get(level(g)) ?? 0) + 1);
  const folds = new Map<string, EntryGroup[]>();
  const kept: EntryGroup[] = [];
  for (const g of groups) {
    const asset = drawn.asset(g.members[0]);
    const [first] = g.members;
    const stays = g.kind === 'cycle' || g.within !== null || asset === '' || drawn.isStart(first);
    if (stays || inColumn.get(level(g))! <= WIDE_COLUMN) {
      kept.push(g);
      continue;
    }
    const key = `${level(g)}/every/${asset}`;
    if (open.has(key)) kept.push({ ...g, within: key });
    else if (folds.has(key)) folds.get(key)!.push(g);
    else folds.set(key, [g]);
  }
  for (const [key, parts] of folds) {
    if (parts.length === 1) kept.push(parts[0]);
    else kept.push({ key, kind: 'asset', members: parts.flatMap((p) => p.members), within: null });
  }
  return kept;
}
