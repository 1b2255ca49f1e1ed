import { MOST_ALIKE, type FixOfMany, type Finding } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Outcome } from '../../parts/fixes.js';
import { useSession } from '../../session/session-context.js';
import { countText } from '../../format.js';

/** Fixes all findings of a kind at once, after showing what is done for each. */
export function FixAlike({ finding, alike }: { finding: Finding; alike: number }): ReactNode {
  const session = useSession();
  const [found, setFound] = useState<FixOfMany | 'trying' | 'none' | null>(null);
  const look = (): void => {
    setFound('trying');
    session.fixAlike(finding.fingerprint).then(
      (fix) => setFound(fix && fix.steps.length > 0 ? fix : 'none'),
      () => setFound('none'),
    );
  };
  if (found === null) {
    return (
      <button type="button" className="word" onClick={look}>
        Fix all {alike} of this kind ...
      </button>
    );
  }
  if (found === 'trying')
    return <p className="soft">Trying fixes for {Math.min(alike, MOST_ALIKE)} findings ...</p>;
  if (found === 'none') return <p className="soft">No finding of this kind has an automatic fix.</p>;
  return (
    <div className="alike" role="group" aria-label="Fixes for all of this kind">
      <ul>
        {found.steps.map((s) => (
          <li key={s.finding.fingerprint}>
            {s.label} <span className="soft">for: {s.finding.message}</span>
          </li>
        ))}
      </ul>
      <Outcome gone={found.gone} added={found.added} />
      <div className="row">
        <button
          type="button"
          className="tick"
          aria-pressed="true"
          onClick={() =>
            session.edit({
              label: `fixed ${countText(found.steps.length, 'finding')}: ${finding.rule}`,
              changes: found.changes,
            })
          }
        >
          Apply all {found.steps.length}
        </button>
        <button type="button" className="tick" onClick={() => setFound(null)}>
          Cancel
        </button>
        {found.left > 0 && <span className="soft">{found.left} would remain</span>}
      </div>
    </div>
  );
}
