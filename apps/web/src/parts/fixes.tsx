import type { TriedFix, Finding, FindingChange } from '@oquel/core';
import { useEffect, useState, type ReactNode } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';
import { SEVERITY_WORD } from './ui/severity-mark.js';
import { countText } from '../format.js';

/** Fixes of a finding that have been tried, with what each takes away and brings; taken as one edit. */
export function Fixes({ fingerprint }: { fingerprint: string }): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const [fixes, setFixes] = useState<readonly TriedFix[] | null>(null);
  useEffect(() => {
    let there = true;
    setFixes(null);
    session.fixes(fingerprint).then(
      (found) => there && setFixes(found),
      () => there && setFixes([]),
    );
    return () => {
      there = false;
    };
  }, [session, fingerprint, project]);
  if (!fixes) return <p className="soft">Trying fixes ...</p>;
  if (fixes.length === 0) return <p className="soft">There is no automatic fix; this needs a decision.</p>;
  return (
    <ul className="fixes">
      {fixes.map((fix) => (
        <li key={fix.label} className="row">
          <button
            type="button"
            className="tick"
            onClick={() => session.edit({ label: fix.label, changes: fix.changes })}
          >
            {fix.label}
          </button>
          <Outcome gone={fix.gone} added={fix.added} />
        </li>
      ))}
    </ul>
  );
}

/** What changes do to the findings; opened, which ones. */
export function Outcome({ gone, added }: FindingChange): ReactNode {
  return (
    <details className="outcome">
      <summary className="soft">
        takes {countText(gone.length, 'finding')} away
        {added.length > 0 && `, brings ${brings(added)}`}
      </summary>
      <ul>
        {gone.slice(0, 8).map((f) => (
          <li key={f.fingerprint} className="soft">
            gone: {f.message}
          </li>
        ))}
        {gone.length > 8 && <li className="soft">and {gone.length - 8} more</li>}
        {added.slice(0, 8).map((f) => (
          <li key={f.fingerprint} className={`fault ${f.severity}`}>
            new: {f.message}
          </li>
        ))}
        {added.length > 8 && <li className="soft">and {added.length - 8} more</li>}
      </ul>
    </details>
  );
}
function brings(added: readonly Finding[]): string {
  if (added.length > 3) return countText(added.length, 'new finding');
  return added.map((f) => `${SEVERITY_WORD[f.severity]} ${f.rule}`).join(', ');
}
