import type { AssetIndex, ProjectIndex } from './index-project.js';

const byIndex = new WeakMap<ProjectIndex, ReadonlyMap<string, readonly AssetIndex[]>>();
/** The assets that have a tag, in order of the document. Cost: all tags, once for each state of a project. */
export function assetsWithTag(index: ProjectIndex, tag: string): readonly AssetIndex[] {
  let known = byIndex.get(index);
  if (!known) byIndex.set(index, (known = byTag(index)));
  return known.get(tag) ?? [];
}
function byTag({ assets }: ProjectIndex): Map<string, AssetIndex[]> {
  const tagged = new Map<string, AssetIndex[]>();
  for (const asset of assets) {
    for (const tag of new Set(asset.decl.tags)) {
      const list = tagged.get(tag);
      if (list) list.push(asset);
      else tagged.set(tag, [asset]);
    }
  }
  return tagged;
}
