import {
  renameName,
  type Action,
  type AssetIndex,
  type Change,
  type ChangeSet,
  type EventDecl,
  type Finding,
  type ProjectIndex,
  type Property,
} from '@oquel/core';

/** Edits of what an asset declares, as change sets with a sentence each. */

export type Declared = 'event' | 'action' | 'property';

const PART = { event: 'events', action: 'actions', property: 'properties' } as const;
export interface Declarations {
  event: EventDecl;
  action: Action;
  property: Property;
}
export const KIND_WORD: Record<Declared, string> = { event: 'event', action: 'action', property: 'property' };

/** Puts one declaration in the place of another of the same name; null takes it away, a name that is new comes last. */
export function declaring<K extends Declared>(
  asset: AssetIndex,
  kind: K,
  name: string,
  next: Declarations[K] | null,
): ChangeSet {
  const list = asset[PART[kind]] as readonly Declarations[K][];
  const at = list.findIndex((d) => d.name === name);
  const value = [...list];
  if (next === null) value.splice(at, 1);
  else value[at < 0 ? value.length : at] = next;
  const { id } = asset.decl;
  const verb = next === null ? 'removed' : at < 0 ? 'declared' : 'changed';
  const change = { op: 'set', asset: id, part: PART[kind], value } as Change;
  return { label: `${id}: ${verb} the ${KIND_WORD[kind]} ${name}`, changes: [change] };
}

export function renamingDeclared(
  index: ProjectIndex,
  findings: readonly Finding[],
  asset: AssetIndex,
  kind: Declared,
  name: string,
  to: string,
): ChangeSet {
  const label = `${asset.decl.id}: renamed the ${KIND_WORD[kind]} ${name} to ${to}`;
  const ref = { kind, asset: asset.decl.id, of: '', name };
  return { label, changes: renameName(index, ref, to, findings) };
}

/** A name that no declaration of that kind has yet: `onEvent`, `onEvent2` ... */
export function freeName(asset: AssetIndex, kind: Declared, stem: string): string {
  const taken = new Set(asset[PART[kind]].map((d: { name: string }) => d.name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? stem : `${stem}${n}`;
    if (!taken.has(name)) return name;
  }
}
