import {
  type AssetIndex,
  type Binding,
  type ChangeSet,
  type Field,
  type ProjectIndex,
  bindingWords,
  freeBindingId,
  oneForEachValue,
  valuesOfType,
} from '@oquel/core';

export function removal(owner: AssetIndex, binding: Binding): ChangeSet {
  const asset = owner.decl.id;
  const { id } = binding;
  return {
    label: `${asset}: removed ${bindingWords(binding)}`,
    changes: [{ op: 'remove', list: 'bindings', asset, id }],
  };
}
/** One for each value of a field, so that each has its own answer. */
export function eachValue(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  { name, type }: Field,
): ChangeSet {
  const label = `${owner.decl.id}: one binding for each ${name}: ${bindingWords(binding)}`;
  return { label, changes: oneForEachValue(owner, binding, name, valuesOfType(index, type)) };
}
/** The same once more, right behind it. */
export function duplication(owner: AssetIndex, binding: Binding): ChangeSet {
  const asset = owner.decl.id;
  const id = freeBindingId(owner, binding.id.replace(/-\d+$/, ''));
  const index = owner.bindingAt.get(binding.id)! + 1;
  return {
    label: `${asset}: duplicated ${bindingWords(binding)}`,
    changes: [{ op: 'insert', list: 'bindings', asset, index, item: { ...binding, id } }],
  };
}
export function muting(owner: AssetIndex, binding: Binding): ChangeSet {
  const { enabled, ...rest } = binding;
  const muted = enabled !== false;
  const label = `${owner.decl.id}: ${muted ? 'muted' : 'unmuted'} ${bindingWords(binding)}`;
  return { label, changes: [replace(owner, muted ? { ...rest, enabled: false } : rest)] };
}
export function replacement(owner: AssetIndex, binding: Binding): ChangeSet {
  return {
    label: `${owner.decl.id}: changed to ${bindingWords(binding)}`,
    changes: [replace(owner, binding)],
  };
}
export function replace(owner: AssetIndex, item: Binding): ChangeSet['changes'][number] {
  return { op: 'replace', list: 'bindings', asset: owner.decl.id, id: item.id, item };
}
