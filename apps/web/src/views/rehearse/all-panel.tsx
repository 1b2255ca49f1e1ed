import { verdictText, type BindingCoverage, type ProjectIndex } from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../parts/places.js';
import { useSession, useSessionState } from '../../session/session-context.js';

/** All rehearsals with their verdicts, and what no rehearsal has served yet. */
export function AllPanel({ onOpen }: { onOpen: (name: string) => void }): ReactNode {
  const session = useSession();
  const { id, index, project, rehearsed } = useSessionState();
  const counts = project.policy?.rehearsals === true;
  const rehearsals = project.rehearsals ?? [];
  return (
    <div className="allrehearsals">
      <section aria-label="Verdicts">
        <div className="row">
          <h2>
            {rehearsals.length} {rehearsals.length === 1 ? 'rehearsal' : 'rehearsals'}
          </h2>
          <button type="button" className="tick" onClick={() => void session.rehearseAll()}>
            Run all
          </button>
          <label className="field">
            <input
              type="checkbox"
              checked={counts}
              onChange={(e) => {
                const { rehearsals: _old, ...rest } = project.policy ?? {};
                const value = e.target.checked ? { ...rest, rehearsals: true } : rest;
                const label = e.target.checked
                  ? 'rehearsals count for the gate'
                  : 'rehearsals no longer count for the gate';
                session.edit({ label, changes: [{ op: 'set', part: 'policy', value }] });
              }}
            />
            a failing one stops the gate
          </label>
        </div>
        <ol className="verdicts">
          {rehearsals.map(({ name, note }) => {
            const verdict = rehearsed?.verdicts.find((v) => v.name === name);
            return (
              <li key={name} data-verdict={name}>
                <button type="button" className="word" onClick={() => onOpen(name)}>
                  {name}
                </button>{' '}
                {verdict ? (
                  <b className={`fault ${verdict.pass ? 'good' : 'error'}`}>
                    {verdict.pass ? 'passes' : 'fails'}
                  </b>
                ) : (
                  <span className="soft">not run yet</span>
                )}
                {verdict && (
                  <div className="soft">{verdictText(verdict).replace(/^.*?(passes|FAILS|run): /s, '')}</div>
                )}
                {note && <div className="soft">{note}</div>}
              </li>
            );
          })}
        </ol>
      </section>
      <section aria-label="Coverage">
        {rehearsed ? (
          <Coverage index={index} base={`/p/${id}`} byBinding={rehearsed.byBinding} />
        ) : (
          <p className="soft">Run all of them to see which bindings none of them uses.</p>
        )}
      </section>
    </div>
  );
}

function Coverage({
  index,
  base,
  byBinding,
}: {
  index: ProjectIndex;
  base: string;
  byBinding: readonly BindingCoverage[];
}): ReactNode {
  const [open, setOpen] = useState('');
  const byAsset = useMemo(() => {
    const found = new Map<string, { served: number; of: number; unserved: BindingCoverage[] }>();
    for (const b of byBinding) {
      let entry = found.get(b.asset);
      if (!entry) found.set(b.asset, (entry = { served: 0, of: 0, unserved: [] }));
      entry.of += b.of;
      entry.served += b.served;
      if (b.served < b.of) entry.unserved.push(b);
    }
    return [...found];
  }, [byBinding]);
  const served = byAsset.reduce((sum, [, e]) => sum + e.served, 0);
  const of = byAsset.reduce((sum, [, e]) => sum + e.of, 0);
  return (
    <>
      <h2>
        {served} of {of} bindings were used, counted over all instances
      </h2>
      <ul className="covered">
        {byAsset.map(([asset, e]) => (
          <li key={asset}>
            <button
              type="button"
              className="plain coverline"
              aria-expanded={open === asset}
              onClick={() => setOpen(open === asset ? '' : asset)}
            >
              <span className="mono">{asset}</span>
              <span className="bar" aria-hidden="true">
                <i style={{ width: `${(100 * e.served) / e.of}%` }} />
              </span>
              <b>
                {e.served} of {e.of}
              </b>
            </button>
            {open === asset && (
              <ul>
                {e.unserved.slice(0, 200).map((b) => {
                  const place = bindingPlace(index, base, b.asset, b.binding);
                  return (
                    <li key={b.binding}>
                      {place ? <Link to={place.href}>{b.binding}</Link> : b.binding}{' '}
                      <span className="soft">
                        {b.of > 1 ? `in ${b.of - b.served} of ${b.of} copies not` : 'not'} used
                        {b.refused ? '; its condition was never true' : ''}
                      </span>
                    </li>
                  );
                })}
                {e.unserved.length === 0 && <li className="soft">all used</li>}
                {e.unserved.length > 200 && <li className="soft">and {e.unserved.length - 200} more</li>}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
