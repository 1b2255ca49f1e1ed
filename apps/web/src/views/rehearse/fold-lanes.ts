import type { Lane } from './lanes.js';

/** A lane as it is shown: of one thing, of all copies of an asset in a scene, or the head of these once they are unfolded. */
export interface ShownLane extends Lane {
  fold?: { key: string; count: number; isOpen: boolean };
}
export interface ShownLanes {
  lanes: ShownLane[];
  /** Where the records of each address or channel stand. */
  at: ReadonlyMap<string, number>;
}
/** So few lanes are shown each by itself. */
const FEW = 16;
/** Copies that are worth a fold. */
const COPIES = 3;

/**
 * Puts the lanes of copies together, scene by scene, where there are many: at the place of the first of them, unless their
 * fold is open. Cost: the lanes, and a sort of the marks that are put together.
 */
export function foldLanes(
  lanes: readonly Lane[],
  assetOf: (address: string) => string | null,
  open: ReadonlySet<string>,
): ShownLanes {
  const keyOf = keys(lanes, assetOf);
  const together = new Map<string, Lane[]>();
  for (const [lane, key] of keyOf) {
    const own = together.get(key);
    if (own) own.push(lane);
    else together.set(key, [lane]);
  }
  const shown: ShownLane[] = [];
  const at = new Map<string, number>();
  const begun = new Set<string>();
  for (const lane of lanes) {
    const key = keyOf.get(lane);
    if (key === undefined) {
      at.set(lane.name, shown.push(lane) - 1);
      continue;
    }
    if (begun.has(key)) continue;
    begun.add(key);
    const copies = together.get(key)!;
    const isOpen = open.has(key);
    const marks = isOpen ? [] : copies.flatMap((c) => c.marks).sort((a, b) => a.x - b.x);
    const name = `${assetOf(lane.name)} x ${copies.length}`;
    const head = shown.push({ name, heads: false, marks, fold: { key, count: copies.length, isOpen } }) - 1;
    for (const copy of copies) at.set(copy.name, isOpen ? shown.push(copy) - 1 : head);
  }
  return { lanes: shown, at };
}

/** Scene and asset of each lane that is to be folded. */
function keys(lanes: readonly Lane[], assetOf: (address: string) => string | null): Map<Lane, string> {
  const found = new Map<Lane, string>();
  if (lanes.length <= FEW) return found;
  const counts = new Map<string, number>();
  let scene = '';
  for (const lane of lanes) {
    if (lane.heads) scene = lane.name;
    const asset = lane.heads || lane.name.startsWith('#') ? null : assetOf(lane.name);
    if (asset === null) continue;
    const key = `${scene}/${asset}`;
    found.set(lane, key);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  for (const [lane, key] of found) if (counts.get(key)! < COPIES) found.delete(lane);
  return found;
}
