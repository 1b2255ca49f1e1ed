import {
  asItsAsset,
  differencesOf,
  differs,
  printValue,
  placementEditsOf,
  type AssetIndex,
  type ChangeSet,
  type Placement,
  type ProjectIndex,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { areaText } from '../../parts/plan/area.js';
import { setting, some } from './stage-edits.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  chosen: readonly Placement[];
  onEdit: (changeSet: ChangeSet) => void;
}

/** Where what is chosen differs from its prefab, and the way back. */
export function Differing({ index, owner, chosen, asset, onEdit }: Props & { asset: AssetIndex }): ReactNode {
  const all = chosen.map((p) => differencesOf(index, p));
  const n = all.filter(differs).length;
  if (n === 0) return null;
  const [first] = all;
  const said = [
    ...first.values.filter((v) => !v.isKey).map((v) => `${v.property} = ${printValue(v.value)}`),
    ...first.muted.map((m) => `${m.id} off`),
    ...(first.area ? [areaText(first.area)] : []),
  ].join(', ');
  const ids = chosen.map((p) => p.id);
  return (
    <span className="differing">
      <b>{chosen.length === 1 ? `Differs from ${asset.decl.id}:` : `${n} differ from ${asset.decl.id}`}</b>{' '}
      {chosen.length === 1 && <span>{said}</span>}{' '}
      <button
        type="button"
        className="word"
        onClick={() =>
          onEdit({
            label: `${owner.decl.id}: ${some(ids)} as every ${asset.decl.id} again`,
            changes: placementEditsOf(owner, ids, (p) => asItsAsset(index, p)),
          })
        }
      >
        Reset
      </button>
    </span>
  );
}

/** Which peer keeps and which steers what is chosen, in a project that has peers. */
export function PeerFields({ index, owner, chosen, onEdit }: Props): ReactNode {
  const peers = index.project.peers ?? [];
  if (peers.length === 0) return null;
  const ids = chosen.map((p) => p.id);
  return (['authority', 'operator'] as const).map((part) => {
    const values = new Set(chosen.map((p) => p[part] ?? ''));
    const value = values.size === 1 ? [...values][0] : '*';
    return (
      <label key={part}>
        {part}{' '}
        <select
          className="line"
          value={value}
          onChange={(e) =>
            onEdit(setting(owner, ids, part, e.target.value === '' ? undefined : e.target.value))
          }
        >
          <option value="">as its container</option>
          {value === '*' && (
            <option value="*" disabled>
              several
            </option>
          )}
          {peers.map((p) => (
            <option key={p.name}>{p.name}</option>
          ))}
          {value !== '' && value !== '*' && !peers.some((p) => p.name === value) && <option>{value}</option>}
        </select>
      </label>
    );
  });
}
