import type { Finding } from '../audit/finding.js';
import type { ChangeSet } from '../edit/change.js';
import { assetInside } from '../project/inside.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Type } from '../project/types.js';
import { fieldFilled } from './bindings.js';
import { bindingOf, placementOf, type ProposeFixes } from './proposal.js';

/** The key that is meant is put into its table; a table that is not there is declared with it. */
export const fixByNewKey: ProposeFixes = (index, finding) => {
  if (finding.evidence.kind !== 'names') return [];
  const type = typeWanted(index, finding);
  if (type?.startsWith('key:') !== true) return [];
  const name = type.slice(4);
  const { wanted } = finding.evidence;
  const tables = index.project.tables ?? [];
  const isThere = tables.some((t) => t.name === name);
  const value = isThere
    ? tables.map((t) => (t.name === name ? { ...t, keys: [...t.keys, wanted] } : t))
    : [...tables, { name, keys: [wanted] }];
  const label = isThere
    ? `Add the key "${wanted}" to ${name}`
    : `Declare the key table ${name} with "${wanted}"`;
  return [{ label, changes: [{ op: 'set', part: 'tables', value }] } satisfies ChangeSet];
};

/** The type of what the finding speaks of: an argument, or a value of a placement or of an asset. */
function typeWanted(index: ProjectIndex, finding: Finding): Type | undefined {
  const { subject } = finding;
  const found = bindingOf(index, finding);
  if (found)
    return 'param' in subject
      ? fieldFilled(index, found.owner, found.binding, subject.param)?.type
      : undefined;
  if (!('property' in subject)) return undefined;
  // A value inside is named with its path.
  const dot = subject.property.lastIndexOf('.');
  const property = subject.property.slice(dot + 1);
  const placed = placementOf(index, finding);
  const of = placed
    ? (index.assets[index.assetAt.get(placed.placement.asset) ?? -1] as AssetIndex | undefined)
    : index.assets[index.assetAt.get(subject.asset) ?? -1];
  const inside = of && dot > 0 ? assetInside(index, of, subject.property.slice(0, dot)) : of;
  return inside?.properties[inside.propertyAt.get(property) ?? -1]?.type;
}
