import { assetAtPath } from '../edit/wiring.js';
import type { ProjectIndex } from '../project/index-project.js';

/** `Asset/action` of every action that a binding which is on delivers to. Cost: bindings, and for each its path. */
export function wiredActions(index: ProjectIndex): Set<string> {
  const wired = new Set<string>();
  for (const owner of index.assets) {
    for (const { to, enabled } of owner.bindings) {
      if (enabled === false) continue;
      if ('every' in to) wired.add(`${to.every}/${to.action}`);
      else if ('at' in to) {
        const asset = assetAtPath(index, owner, to.at);
        if (asset) wired.add(`${asset.decl.id}/${to.action}`);
      }
    }
  }
  return wired;
}
