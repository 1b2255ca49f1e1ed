import type { Finding } from '../audit/finding.js';
import { changeFields } from '../catalogue/edits.js';
import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { indexProject, type ProjectIndex } from '../project/index-project.js';
import { append } from '../util/append.js';
import type { Declaration, DeclarationKind } from '../wireline/declaration.js';
import { renameName } from './rename.js';

const PART = { event: 'events', action: 'actions', property: 'properties' } as const;

/**
 * Puts one declaration of an asset in the place of another of its kind: a new name, and new names of fields, are carried
 * along everywhere, as one edit. Null takes the declaration away, and what uses it is left for the audit; a name that is not
 * there yet comes last. Linear in the document.
 */
export function redeclare(
  index: ProjectIndex,
  { asset, kind, name }: { asset: string; kind: DeclarationKind; name: string },
  next: Declaration['value'] | null,
  findings: readonly Finding[] = [],
): Change[] {
  const changes: Change[] = [];
  let { project } = index;
  const also = (more: Change[]): void => {
    if (more.length === 0) return;
    append(changes, more);
    project = applyChanges(project, more).project;
  };
  const listOf = (): readonly Declaration['value'][] =>
    project.assets.find((a) => a.id === asset)?.[PART[kind]] ?? [];
  const isThere = listOf().some((d) => d.name === name);
  if (next && isThere && next.name !== name) {
    also(renameName(index, { kind, asset, of: '', name }, next.name, findings));
  }
  if (next && isThere && kind !== 'property') {
    const fields = ('params' in next ? next.params : 'payload' in next ? next.payload : undefined) ?? [];
    also(changeFields(indexProject(project), { kind, asset, name: next.name }, fields));
  }
  const list = listOf();
  const at = list.findIndex((d) => d.name === (next?.name ?? name));
  const value =
    next === null
      ? list.filter((_, i) => i !== at)
      : at < 0
        ? [...list, next]
        : list.map((d, i) => (i === at ? next : d));
  if (next === null && value.length === 0) also([{ op: 'set', asset, part: PART[kind] }] as Change[]);
  else also([{ op: 'set', asset, part: PART[kind], value }] as Change[]);
  return changes;
}
