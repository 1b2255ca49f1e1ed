import type { AssetIndex } from '../project/index-project.js';
import type { Binding, Condition } from '../project/types.js';
import type { Change } from './change.js';
import { freeBindingId } from './wiring.js';

/** The same binding for some values of a field: each asks for its own, in the place of what it asked of that field before. */
export function bindingsForValues(
  owner: AssetIndex,
  binding: Binding,
  field: string,
  values: readonly (string | boolean)[],
): Binding[] {
  const taken = new Set<string>();
  const others = (binding.if ?? []).filter((c: Condition) => !('payload' in c && c.payload === field));
  return values.map((value): Binding => {
    const id = freeBindingId(owner, binding.id.replace(/-\d+$/, ''), taken);
    taken.add(id);
    return { ...binding, id, if: [{ payload: field, is: value }, ...others] };
  });
}

/** Puts bindings right behind another one of their owner. */
export function insertBehind(owner: AssetIndex, binding: Binding, items: readonly Binding[]): Change[] {
  const at = owner.bindingAt.get(binding.id)! + 1;
  return items.map((item, i) => ({
    op: 'insert',
    list: 'bindings',
    asset: owner.decl.id,
    index: at + i,
    item,
  }));
}

/** Makes of one binding one for each value of a field; it becomes that of the first value itself. */
export function oneForEachValue(
  owner: AssetIndex,
  binding: Binding,
  field: string,
  values: readonly (string | boolean)[],
): Change[] {
  const [first, ...rest] = bindingsForValues(owner, binding, field, values);
  if (!first) return [];
  const { id } = binding;
  const item = { ...first, id };
  return [
    { op: 'replace', list: 'bindings', asset: owner.decl.id, id, item },
    ...insertBehind(owner, binding, rest),
  ];
}
