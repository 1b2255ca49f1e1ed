import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';

/** Positions of an asset's bindings by what their paths are like; each list is made once. */
export interface PathKinds {
  /** Those that lead to what does not stand in the asset: by an absolute path, or a selection in the whole project. */
  far: readonly number[];
  /** Those with a path through a stand-in: where it leads depends on the copy, not only on the text. */
  spawned: readonly number[];
}

const known = new WeakMap<AssetIndex, PathKinds>();
/** Cost: the asset's bindings, once. */
export function pathKinds(asset: AssetIndex): PathKinds {
  const before = known.get(asset);
  if (before) return before;
  const positions = (test: (binding: Binding) => boolean): number[] =>
    asset.bindings.flatMap((binding, position) => (test(binding) ? [position] : []));
  const kinds = { far: positions(isFar), spawned: positions(isThroughStandIn) };
  known.set(asset, kinds);
  return kinds;
}

function isFar({ from, to }: Binding): boolean {
  if ('at' in from && from.at.includes(':')) return true;
  if ('at' in to && to.at.includes(':')) return true;
  return 'every' in to && to.within === 'project';
}
export function isThroughStandIn({ from, to }: Binding): boolean {
  return ('at' in from && from.at.includes('~')) || ('at' in to && to.at.includes('~'));
}
