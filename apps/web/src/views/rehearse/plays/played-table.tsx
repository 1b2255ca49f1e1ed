import type { PlayedAsset } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../../parts/places.js';
import { useSessionState } from '../../../session/session-context.js';
import { useRehearsed } from '../../../session/use-coverage.js';
import { Cell, DataTable, Row, RowHead } from '../../../parts/ui/data-table.js';

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
      <DataTable className="playedtable" heads={['asset', 'bindings', 'rehearsed', 'played', 'never played']}>
        {played.map((p) => (
          <Row key={p.asset}>
            <RowHead className="mono">{p.asset}</RowHead>
            <Cell>{p.of}</Cell>
            <Cell>{rehearsed(p.asset)}</Cell>
            <Cell>{p.played}</Cell>
            <Cell>
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
            </Cell>
          </Row>
        ))}
      </DataTable>
    </section>
  );
}
