import type { PlayedAsset } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../../parts/places.js';
import { useSessionState } from '../../../session/session-context.js';
import { useRehearsed } from '../../../session/use-coverage.js';

/** Which bindings have served, beside those that rehearsals have used; what never has is listed. */
export function PlayedTable({ played }: { played: readonly PlayedAsset[] }): ReactNode {
  const { id, index } = useSessionState();
  const coverage = useRehearsed();
  const [open, setOpen] = useState('');
  const rehearsed = (asset: string): string => {
    if (!coverage) return '–';
    const owner = index.assets[index.assetAt.get(asset) ?? -1];
    return String(owner.bindings.filter((b) => (coverage(asset, b.id)?.served ?? 0) > 0).length);
  };
  if (played.length === 0) return null;
  return (
    <section aria-label="Served in play">
      <h3>Served in play</h3>
      <table className="playedtable">
        <thead>
          <tr>
            <th scope="col">asset</th>
            <th scope="col">bindings</th>
            <th scope="col">rehearsed</th>
            <th scope="col">played</th>
            <th scope="col">never played</th>
          </tr>
        </thead>
        <tbody>
          {played.map((p) => (
            <tr key={p.asset}>
              <th scope="row" className="mono">
                {p.asset}
              </th>
              <td>{p.of}</td>
              <td>{rehearsed(p.asset)}</td>
              <td>{p.played}</td>
              <td>
                {p.never.length === 0 ? (
                  'all were'
                ) : (
                  <button
                    type="button"
                    className="word"
                    aria-expanded={open === p.asset}
                    aria-label={`Never played in ${p.asset}: ${p.never.length}`}
                    onClick={() => setOpen(open === p.asset ? '' : p.asset)}
                  >
                    {p.never.length}
                  </button>
                )}
                {open === p.asset && (
                  <ul className="never">
                    {p.never.map((binding) => {
                      const place = bindingPlace(index, `/p/${id}`, p.asset, binding);
                      return (
                        <li key={binding}>{place ? <Link to={place.href}>{place.text}</Link> : binding}</li>
                      );
                    })}
                  </ul>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
