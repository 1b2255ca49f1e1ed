import {
  asItsAsset,
  differencesOf,
  differs,
  muting,
  printValue,
  type AssetIndex,
  type ChangeSet,
  type Placement,
  type ProjectIndex,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { WholeSentence } from '../../parts/ui/sentence.js';

/** What a placement brings along from its prefab or widget, and where it differs from it: each can be put off here. */
export function OwnWiring({
  index,
  owner,
  at,
  base,
  onEdit,
}: {
  index: ProjectIndex;
  owner: AssetIndex;
  at: string;
  base: string;
  onEdit: (changeSet: ChangeSet) => void;
}): ReactNode {
  const slot = owner.placementAt.get(at);
  const asset = slot === undefined ? undefined : index.assets[owner.placed[slot]];
  if (slot === undefined || !asset) return null;
  const placement = owner.placements[slot];
  const d = differencesOf(index, placement);
  const lost = d.muted.filter((m) => !m.binding);
  if (asset.bindings.length === 0 && !differs(d)) return null;
  const put = (label: string, item: Placement): void =>
    onEdit({
      label: `${owner.decl.id}: ${label}`,
      changes: [{ op: 'replace', list: 'placements', asset: owner.decl.id, id: at, item }],
    });
  const off = new Set(placement.muted);
  return (
    <section className="ownwiring" aria-label={`Inside ${at}`}>
      <h2>
        Inside {at}{' '}
        <Link className="soft" to={`${base}/wire?scope=${asset.decl.id}&at=.`}>
          as every {asset.decl.id}
        </Link>
        {differs(d) && (
          <button
            type="button"
            className="word"
            onClick={() => put(`${at} as every ${asset.decl.id} again`, asItsAsset(index, placement))}
          >
            Reset all differences
          </button>
        )}
      </h2>
      <ul>
        {asset.bindings.map((b) => (
          <li key={b.id} className={off.has(b.id) ? 'off' : ''}>
            <button
              type="button"
              className="tick"
              aria-pressed={off.has(b.id)}
              aria-label={`${b.id} off in ${at}`}
              onClick={() =>
                put(
                  `${at}: ${b.id} ${off.has(b.id) ? 'unmuted' : 'muted here'}`,
                  muting(placement, b.id, !off.has(b.id)),
                )
              }
            >
              muted here
            </button>
            <WholeSentence binding={b} />
          </li>
        ))}
        {lost.map((m) => (
          <li key={m.id} className="off">
            <button
              type="button"
              className="tick"
              aria-pressed="true"
              onClick={() => put(`${at}: ${m.id} is unmuted`, muting(placement, m.id, false))}
            >
              muted here
            </button>
            <span className="fault error">
              {asset.decl.id} has no binding {m.id}
            </span>
          </li>
        ))}
        {d.values
          .filter((v) => !v.isKey)
          .map(({ property, value, usual }) => (
            <li key={property} className="differing">
              <button
                type="button"
                className="word"
                onClick={() => put(`${at}: ${property} reset`, withoutValue(placement, property))}
              >
                Reset
              </button>
              <span>
                <span className="mono">
                  {property} = {printValue(value)}
                </span>{' '}
                <span className="soft">
                  {usual === undefined ? 'not a property of it' : `instead of ${printValue(usual)}`}
                </span>
              </span>
            </li>
          ))}
      </ul>
    </section>
  );
}

function withoutValue({ properties, ...rest }: Placement, property: string): Placement {
  const { [property]: _, ...others } = properties ?? {};
  return Object.keys(others).length > 0 ? { ...rest, properties: others } : rest;
}
