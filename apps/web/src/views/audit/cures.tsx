import type { Cure, Finding } from '@oquel/core';
import { useEffect, useState, type ReactNode } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import { countText, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';

/** Cures of a finding that have been tried, with what each takes away and brings; taken as one edit. */
export function Cures({ fingerprint }: { fingerprint: string }): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const [cures, setCures] = useState<readonly Cure[] | null>(null);
  useEffect(() => {
    let there = true;
    setCures(null);
    session.cures(fingerprint).then(
      (found) => there && setCures(found),
      () => there && setCures([]),
    );
    return () => {
      there = false;
    };
  }, [session, fingerprint, project]);
  if (!cures) return <p className="soft">Trying cures ...</p>;
  if (cures.length === 0) return <p className="soft">No list of changes cures this; it wants a thought.</p>;
  return (
    <ul className="cures">
      {cures.map((cure) => (
        <li key={cure.label} className="row">
          <button
            type="button"
            className="tick"
            onClick={() => session.edit({ label: cure.label, changes: cure.changes })}
          >
            {cure.label}
          </button>
          <span className="soft">
            takes {countText(cure.gone.length, 'finding')} away
            {cure.added.length > 0 && `, brings ${brings(cure.added)}`}
          </span>
        </li>
      ))}
    </ul>
  );
}

function brings(added: readonly Finding[]): string {
  return added.map((f) => `${SEVERITY_WORD[f.severity]} ${f.rule}`).join(', ');
}
