import type { Finding } from '../audit/finding.js';
import type { Change } from '../edit/change.js';
import { isName } from '../project/name.js';
import type { ProjectIndex } from '../project/index-project.js';
import { changesOfWalk } from '../edit/walk-changes.js';
import type { NameKind, NameRef } from '../names/name.js';
import { replacing } from '../names/uses.js';
import { walkNames } from '../names/walk.js';
import { renamedWaivers } from './waivers.js';

/** Kinds that the game may call what it likes; the others are names that a wire line can hold. */
const FREE: ReadonlySet<NameKind> = new Set(['enumValue', 'tableKey', 'rehearsal']);

/**
 * Gives anything another name and carries every use of it along, as one edit. Findings of the audit as it is now let waivers
 * be carried, too. Linear in the document and the findings.
 */
export function renameName(
  index: ProjectIndex,
  ref: NameRef,
  to: string,
  findings: readonly Finding[] = [],
): Change[] {
  const visit = replacing(ref, to);
  const after = walkNames(index, visit);
  const waivers = renamedWaivers(index, visit, findings);
  return changesOfWalk(index.project, waivers ? { ...after, waivers } : after);
}

/** Why something cannot have a name, as words that complete "This name …"; null if it can. */
export function nameFault(index: ProjectIndex, ref: NameRef, to: string): string | null {
  if (FREE.has(ref.kind)) {
    if (to.trim() === '') return 'is empty';
  } else if (!isName(to)) {
    return 'must begin with a letter or _, and have only letters, digits, _ and - after it';
  }
  if (to === ref.name || ref.kind === 'tag') return null;
  return namesLike(index, ref).includes(to) ? 'is taken' : null;
}

/** The names of one kind that stand in the same list. Cost: the list. */
export function namesLike(
  index: ProjectIndex,
  { kind, asset, of }: Pick<NameRef, 'kind' | 'asset' | 'of'>,
): readonly string[] {
  const { project } = index;
  const names = (list: readonly { name: string }[] | undefined): string[] => (list ?? []).map((d) => d.name);
  const owner = index.assets[index.assetAt.get(asset) ?? -1];
  switch (kind) {
    case 'asset':
      return project.assets.map((a) => a.id);
    case 'event':
      return names(owner?.events);
    case 'action':
      return names(owner?.actions);
    case 'property':
      return names(owner?.properties);
    case 'placement':
      return owner ? owner.placements.map((p) => p.id) : [];
    case 'binding':
      return owner ? owner.bindings.map((b) => b.id) : [];
    case 'param':
      return names(owner?.actions.find((a) => a.name === of)?.params);
    case 'eventField':
      return names(owner?.events.find((e) => e.name === of)?.payload);
    case 'channelField':
      return names(project.channels?.find((c) => c.name === of)?.payload);
    case 'channel':
      return names(project.channels);
    case 'enum':
      return names(project.enums);
    case 'enumValue':
      return project.enums?.find((e) => e.name === of)?.values ?? [];
    case 'table':
      return names(project.tables);
    case 'tableKey':
      return project.tables?.find((t) => t.name === of)?.keys ?? [];
    case 'loadSet':
      return names(project.loadSets);
    case 'peer':
      return names(project.peers);
    case 'rehearsal':
      return names(project.rehearsals);
    case 'tag':
      return [...new Set(project.assets.flatMap((a) => a.tags ?? []))];
  }
}
