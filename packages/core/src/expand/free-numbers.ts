import type { ProjectIndex } from '../project/index-project.js';

/** For each free instance so many bindings and nodes are kept free, which those that come share. */
export const FREE_BINDINGS = 8;
export const FREE_NODES = 8;
/** Prefabs with more copies get no room in each of them. */
const MOST_COPIES = 50;

/** Room that edits may use before all are numbered anew, by asset. */
export interface FreeNumbers {
  /** How many things may be placed in each instance. */
  instances: Int32Array;
  /** How many events and actions each instance may get. */
  nodes: Int32Array;
}
/**
 * Room in scenes is large, in prefabs and widgets small, and none in those with many copies. Linear in the document.
 */
export function freeNumbers(index: ProjectIndex): FreeNumbers {
  const copies = copiesOfAssets(index);
  const few = index.assets.map(({ at, decl }) => decl.kind === 'scene' || copies[at] <= MOST_COPIES);
  return {
    instances: Int32Array.from(index.assets, ({ at, decl, placements }) => {
      if (decl.kind === 'scene') return 16 + (placements.length >> 3);
      return few[at] ? 4 : 0;
    }),
    nodes: Int32Array.from(few, (isFew) => (isFew ? 6 : 0)),
  };
}

/** How often each asset stands in the scenes, spawned or not; at most a little more than {@link MOST_COPIES}, also in loops. */
function copiesOfAssets({ assets }: ProjectIndex): Int32Array {
  const copies = new Int32Array(assets.length);
  const open: number[] = [];
  for (const { at, decl } of assets) if (decl.kind === 'scene') open.push(at);
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    for (const placed of assets[at].placed) {
      if (placed >= 0 && copies[placed]++ <= MOST_COPIES) open.push(placed);
    }
  }
  return copies;
}
