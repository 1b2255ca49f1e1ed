import {
  arrangeDeclaration,
  mergeEntries,
  moveEntry,
  redeclare,
  usesOfName,
  type AssetIndex,
  type Change,
  type ChangeSet,
  type Declaration,
  type DeclarationKind,
  type Finding,
  type NameUses,
  type ProjectIndex,
} from '@oquel/core';
import type { Arranging } from './declaration-row.js';

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
  { kind, name }: { kind: DeclarationKind; name: string },
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
  const changes = redeclare(index, { asset: id, kind, name }, next, findings);
  const uses = old ? usesOfName(index, { kind, asset: id, of: '', name }) : NO_USES;
  const isAsked =
    old !== undefined &&
    (next === null || next.name !== name || JSON.stringify(fieldsOf(next)) !== JSON.stringify(fieldsOf(old)));
  return { changeSet: { label, changes }, uses, isAsked };
}
/** Another order, a copy, a merge or a move, as one edit; what concerns its uses is asked. */
export function arranging(
  index: ProjectIndex,
  owner: AssetIndex,
  kind: DeclarationKind,
  name: string,
  how: Arranging,
): Redeclaration {
  const asset = owner.decl.id;
  const ref = { kind, asset, name };
  const uses = usesOfName(index, { ...ref, of: '' });
  const done = (label: string, changes: Change[], isAsked: boolean): Redeclaration => ({
    changeSet: { label: `${asset}: ${label}`, changes },
    uses,
    isAsked: isAsked && changes.length > 0,
  });
  if (how === 'copy') {
    const copyAs = freeName(owner, kind, name);
    return done(
      `${copyAs}, a copy of the ${kind} ${name}`,
      arrangeDeclaration(index, ref, { copyAs }),
      false,
    );
  }
  if ('by' in how) {
    return done(
      `moved the ${kind} ${name} ${how.by < 0 ? 'up' : 'down'}`,
      arrangeDeclaration(index, ref, how),
      false,
    );
  }
  if ('to' in how) return done(`moved the ${kind} ${name} to ${how.to}`, moveEntry(index, ref, how.to), true);
  const changes = mergeEntries(index, ref, { ...ref, name: how.into });
  return done(`merged the ${kind} ${name} into ${how.into}`, changes, true);
}
/** `open2` behind `open`. */
function freeName(owner: AssetIndex, kind: DeclarationKind, name: string): string {
  const names = kind === 'event' ? owner.eventAt : kind === 'action' ? owner.actionAt : owner.propertyAt;
  const stem = name.replace(/\d+$/, '');
  for (let n = 2; ; n++) if (!names.has(`${stem}${n}`)) return `${stem}${n}`;
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
