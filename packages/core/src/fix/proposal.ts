import type { Finding } from '../audit/finding.js';
import type { Change, ChangeSet } from '../edit/change.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { bindingWords } from '../wireline/binding-words.js';
import type { Binding, Placement } from '../project/types.js';

/** Proposes fixes for the findings of one rule; whether they fix is looked at afterwards. */
export type ProposeFixes = (index: ProjectIndex, finding: Finding) => ChangeSet[];

/** The binding that a finding speaks of, with its owner; null if it speaks of something else. */
export function bindingOf(
  index: ProjectIndex,
  { subject }: Finding,
): { owner: AssetIndex; binding: Binding } | null {
  return 'binding' in subject ? find(index, subject.asset, subject.binding) : null;
}
export function find(
  index: ProjectIndex,
  asset: string,
  id: string,
): { owner: AssetIndex; binding: Binding } | null {
  const owner = index.assets[index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
  const binding = owner?.bindings[owner.bindingAt.get(id) ?? -1];
  return owner && binding ? { owner, binding } : null;
}
export function placementOf(
  index: ProjectIndex,
  { subject }: Finding,
): { owner: AssetIndex; placement: Placement; slot: number } | null {
  if (!('placement' in subject) || subject.placement === undefined) return null;
  const owner = index.assets[index.assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  const slot = owner?.placementAt.get(subject.placement);
  return owner && slot !== undefined ? { owner, placement: owner.placements[slot], slot } : null;
}

export function removeBinding(owner: AssetIndex, binding: Binding): ChangeSet {
  const { id } = binding;
  return {
    label: `Remove: ${bindingWords(binding)}`,
    changes: [{ op: 'remove', list: 'bindings', asset: owner.decl.id, id }],
  };
}
export function changeBinding(owner: AssetIndex, item: Binding, label: string): ChangeSet {
  return { label, changes: [replaceBinding(owner, item)] };
}
export function replaceBinding(owner: AssetIndex, item: Binding): Change {
  return { op: 'replace', list: 'bindings', asset: owner.decl.id, id: item.id, item };
}
export function changePlacement(owner: AssetIndex, item: Placement, label: string): ChangeSet {
  const change: Change = { op: 'replace', list: 'placements', asset: owner.decl.id, id: item.id, item };
  return { label, changes: [change] };
}
