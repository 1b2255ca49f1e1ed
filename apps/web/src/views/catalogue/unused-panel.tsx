import { unusedDeclarations, withoutUnused, type ProjectIndex, type Unused } from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { usePreview } from '../../session/use-preview.js';
import { useSession } from '../../session/session-context.js';
import { countText } from '../../format.js';

const MOST_SHOWN = 1_000;

/** Declarations that nothing names: looked at, and taken away in one go. */
export function UnusedPanel({ index, onClose }: { index: ProjectIndex; onClose: () => void }): ReactNode {
  const session = useSession();
  const unused = useMemo(() => unusedDeclarations(index), [index]);
  const [ticks, setTicks] = useState<ReadonlyMap<string, boolean>>(new Map());
  // What the game declares would come again with its next manifest.
  const isTicked = (u: Unused): boolean => ticks.get(keyOf(u)) ?? !u.isOfGame;
  const chosen = unused.filter(isTicked);
  const changes = useMemo(
    () =>
      withoutUnused(
        index,
        unused.filter((u) => ticks.get(keyOf(u)) ?? !u.isOfGame),
      ),
    [index, unused, ticks],
  );
  const found = usePreview(changes.length > 0 ? changes : null, 300);
  return (
    <article className="entrypanel unused" aria-label="Unused declarations">
      <div className="row">
        <h2>{countText(unused.length, 'unused declaration')}</h2>
        <button type="button" className="word" onClick={onClose}>
          Close
        </button>
      </div>
      {unused.length === 0 ? (
        <p>Every declaration is used.</p>
      ) : (
        <>
          <div className="row">
            <button
              type="button"
              className="tick"
              disabled={chosen.length === 0}
              title="One edit, which can be undone"
              onClick={() => {
                const what = chosen.length === 1 ? chosen[0].name : countText(chosen.length, 'declaration');
                session.edit({ label: `removed ${what}`, changes });
              }}
            >
              Remove {chosen.length}
            </button>
            <button
              type="button"
              className="word"
              onClick={() => setTicks(new Map(unused.map((u) => [keyOf(u), chosen.length < unused.length])))}
            >
              {chosen.length < unused.length ? 'Choose all' : 'Choose none'}
            </button>
            <span className="soft" role="status">
              {found && `Findings: ${found.added.length} new, ${found.gone.length} gone.`}
            </span>
          </div>
          <ul aria-label="Unused declarations">
            {unused.slice(0, MOST_SHOWN).map((u) => (
              <li key={keyOf(u)}>
                <label>
                  <input
                    type="checkbox"
                    checked={isTicked(u)}
                    onChange={(e) => setTicks(new Map(ticks).set(keyOf(u), e.target.checked))}
                  />
                  <span>
                    {u.asset !== '' && <span className="soft">{u.asset}: </span>}
                    <span className="mono">{u.text}</span>
                    {u.isOfGame && (
                      <span className="soft"> declared by the game; its next manifest adds it again</span>
                    )}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          {unused.length > MOST_SHOWN && <p className="soft">and {unused.length - MOST_SHOWN} more</p>}
        </>
      )}
    </article>
  );
}
function keyOf({ kind, asset, name }: Unused): string {
  return `${kind}:${asset}/${name}`;
}
