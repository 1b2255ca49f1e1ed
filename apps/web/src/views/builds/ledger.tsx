import type { ReactNode } from 'react';
import type { Build } from '../../api/client.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { useSessionState } from '../../session/session-context.js';
import { gateNow } from '../../session/gate.js';
import { standing } from './words.js';
import { dayText } from '../../format.js';

const SEVERITIES = ['error', 'warning', 'info'] as const;

/** Every build, the newest first, below what is now. */
export function Ledger({
  builds,
  chosen,
  onOpen,
}: {
  builds: readonly Build[];
  chosen: string;
  onOpen: (build: string) => void;
}): ReactNode {
  const state = useSessionState();
  const { audit } = state;
  return (
    <ol className="ledger scroll" aria-label="Builds, the newest first" tabIndex={0}>
      <li className="ledgerrow now">
        <b>Now</b>
        <Counts summary={audit?.summary as Record<string, number> | undefined} />
        <span className="soft">
          {audit ? (gateNow(state).gate === 'stop' ? 'the gate stops it' : 'passes') : ''}
        </span>
      </li>
      {[...builds].reverse().map((b) => (
        <li key={b.id}>
          <button
            type="button"
            className="ledgerrow"
            aria-current={b.id === chosen}
            onClick={() => onOpen(b.id)}
          >
            <b>{b.name}</b>
            <Counts summary={b.summary} />
            <span className="soft">
              {dayText(b.at)}, {b.who}
            </span>
            <span className={`standing ${standing(b).tone}`}>{standing(b).text}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}

function Counts({ summary }: { summary: Record<string, number> | undefined }): ReactNode {
  return (
    <span className="counts">
      {summary &&
        SEVERITIES.map((s) => (
          <span key={s}>
            <SeverityMark severity={s} label={SEVERITY_WORD[s]} /> {summary[s]}
          </span>
        ))}
    </span>
  );
}
