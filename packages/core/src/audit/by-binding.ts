import type { Expansion } from '../expand/expansion.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import type { BindingRef } from './finding.js';

/** One authored binding with the records of its expanded copies. */
export interface Authored {
  owner: AssetIndex;
  binding: Binding;
  subject: BindingRef;
  /** Where its records begin in the list. */
  records: number[];
}

/** Groups records that begin with an expanded binding's number by the authored binding. Linear. */
export function authoredBindings(x: Expansion, list: Int32Array, stride: number): Iterable<Authored> {
  const groups = new Map<Binding, Authored>();
  for (let r = 0; r < list.length; r += stride) {
    const instance = x.ownerOf(list[r]);
    const owner = x.assetOf(instance);
    const binding = owner.bindings[list[r] - x.bindingBase[instance]];
    const group = groups.get(binding);
    if (group) group.records.push(r);
    else
      groups.set(binding, {
        owner,
        binding,
        subject: { asset: owner.decl.id, binding: binding.id },
        records: [r],
      });
  }
  return groups.values();
}
