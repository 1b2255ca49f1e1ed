import {
  assetInside,
  parseArg,
  reachableFrom,
  placementEditsOf,
  withInside,
  type AssetIndex,
  type ChangeSet,
  type Placement,
  type ProjectIndex,
  type Property,
  type Value,
} from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';

/** Copies inside whose keys are offered; the rest are set in their own prefab. */
const MOST = 24;

/** Keys of what stands inside the chosen placement, and whatever else is set there, to be set from here. */
export function InsideValues({
  index,
  owner,
  placement,
  onEdit,
}: {
  index: ProjectIndex;
  owner: AssetIndex;
  placement: Placement;
  onEdit: (changeSet: ChangeSet) => void;
}): ReactNode {
  const rows = useMemo(() => rowsOf(index, owner, placement), [index, owner, placement]);
  if (rows.length === 0) return null;
  const { id } = placement;
  return (
    <div className="row" role="group" aria-label={`Inside ${id}`}>
      <span className="soft">inside</span>
      {rows.map(({ path, property, value, usual }) => (
        <Entry<Value | undefined>
          key={`${id}/${path}.${property.name}`}
          label={`${property.name} of ${id}/${path}`}
          shown={`${path}.${property.name}`}
          width={92}
          placeholder={String(usual)}
          value={value === undefined ? '' : String(value)}
          read={(text): Read<Value | undefined> => {
            if (text.trim() === '') return { value: undefined };
            const parsed = parseArg(text, property.type, { index, payload: [], reader: null });
            if ('error' in parsed) return parsed;
            const isValue = typeof parsed.arg !== 'object' || Array.isArray(parsed.arg);
            return isValue ? { value: parsed.arg as Value } : { error: 'expected a value' };
          }}
          onTake={(next) =>
            onEdit({
              label: `${owner.decl.id}: set ${property.name} of ${id}/${path}${next === undefined ? ' back to its default' : ` to ${JSON.stringify(next)}`}`,
              changes: placementEditsOf(owner, [id], (p) => withInside(p, path, property.name, next)),
            })
          }
        />
      ))}
    </div>
  );
}

interface Row {
  path: string;
  property: Property;
  value: Value | undefined;
  usual: Value;
}
function rowsOf(index: ProjectIndex, owner: AssetIndex, placement: Placement): Row[] {
  const placed = index.assets[owner.placed[owner.placementAt.get(placement.id) ?? -1]] as
    AssetIndex | undefined;
  if (!placed) return [];
  const said = new Map(
    Object.entries(placement.inside ?? {}).map(([path, values]) => [path, new Map(Object.entries(values))]),
  );
  const paths = new Set(said.keys());
  for (const { path, asset, depth } of reachableFrom(index, placed)) {
    if (paths.size >= MOST) break;
    if (depth > 0 && asset.properties.some((p) => p.isKey)) paths.add(path);
  }
  return [...paths].flatMap((path) =>
    (assetInside(index, placed, path)?.properties ?? []).flatMap((property): Row[] => {
      const value = said.get(path)?.get(property.name);
      if (!property.isKey && value === undefined) return [];
      return [{ path, property, value, usual: property.default }];
    }),
  );
}
