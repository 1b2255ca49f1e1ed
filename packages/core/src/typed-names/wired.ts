import { bindingEnds } from '../edit/binding-ends.js';
import type { ProjectIndex } from '../project/index-project.js';

/** `Asset/action` of every action that a binding which is on delivers to. Cost: bindings, and for each its ends. */
export function wiredActions(index: ProjectIndex): Set<string> {
  const wired = new Set<string>();
  for (const owner of index.assets) {
    for (const binding of owner.bindings) {
      const { to, enabled } = binding;
      if (enabled === false || 'channel' in to) continue;
      if ('every' in to) wired.add(`${to.every}/${to.action}`);
      else {
        const { receiver } = bindingEnds(index, owner, binding);
        if (receiver) wired.add(`${receiver.decl.id}/${to.action}`);
      }
    }
  }
  return wired;
}
