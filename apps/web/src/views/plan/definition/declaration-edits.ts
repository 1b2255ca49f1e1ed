import {
  redeclare,
  usesOfName,
  type AssetIndex,
  type ChangeSet,
  type Declaration,
  type DeclarationKind,
  type Finding,
  type NameUses,
  type ProjectIndex,
} from '@oquel/core';

/** A declaration put in the place of another, as one edit, with what uses it. */
export interface Redeclaration {
  changeSet: ChangeSet;
  uses: NameUses;
  /** Whether what uses it is concerned: another name, other fields, or none at all. */
  isAsked: boolean;
}

/** Null takes it away; a name that is not there yet comes last. */
export function redeclaring(
  index: ProjectIndex,
  findings: readonly Finding[],
  { decl: { id }, ...asset }: AssetIndex,
  kind: DeclarationKind,
  name: string,
  next: Declaration['value'] | null,
): Redeclaration {
  const list: readonly Declaration['value'][] =
    kind === 'event' ? asset.events : kind === 'action' ? asset.actions : asset.properties;
  const old = list.find((d) => d.name === name);
  const verb =
    next === null
      ? 'removed'
      : !old
        ? 'declared'
        : next.name === name
          ? 'changed'
          : `renamed to ${next.name}`;
  const label =
    verb.startsWith('renamed') && next
      ? `${id}: renamed the ${kind} ${name} to ${next.name}`
      : `${id}: ${verb} the ${kind} ${name}`;
  const changes = redeclare(index, id, kind, name, next, findings);
  const uses = old ? usesOfName(index, { kind, asset: id, of: '', name }) : NO_USES;
  const isAsked =
    old !== undefined &&
    (next === null || next.name !== name || JSON.stringify(fieldsOf(next)) !== JSON.stringify(fieldsOf(old)));
  return { changeSet: { label, changes }, uses, isAsked };
}
const NO_USES: NameUses = { bindings: [], placements: [], declarations: [], rehearsals: [] };
function fieldsOf(value: Declaration['value']): unknown {
  return 'params' in value
    ? value.params
    : 'payload' in value
      ? value.payload
      : 'type' in value
        ? value.type
        : [];
}

/** Everything that an asset declares, in its order. */
export function declarationsOf(asset: AssetIndex): Declaration[] {
  return [
    ...asset.events.map((value): Declaration => ({ kind: 'event', value })),
    ...asset.actions.map((value): Declaration => ({ kind: 'action', value })),
    ...asset.properties.map((value): Declaration => ({ kind: 'property', value })),
  ];
}
