import { thresholds, type Finding } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { gateNow } from '../session/gate.js';
import type { LastEdit } from '../session/session-state.js';
import { useSession, useSessionState } from '../session/session-context.js';
import { useWatched } from '../session/watched.js';
import { SeverityMark, SEVERITY_WORD } from './ui/severity-mark.js';
import { WorkProgress } from './ui/work-progress.js';
import { countText } from '../format.js';

const SEVERITIES: Finding['severity'][] = ['error', 'warning', 'info'];

/** The audit at all times: gate, counts, longest chain, cycles, and what the last edit did to them. */
export function AuditStrip(): ReactNode {
  const session = useSession();
  const state = useSessionState();
  const { id, audit, rehearsed, played, lastEdit, project } = state;
  const base = `/p/${id}/audit`;
  if (!audit) {
    return (
      <footer className="strip" aria-label="Audit">
        <Auditing />
        <Saved />
      </footer>
    );
  }
  const { summary, metrics } = audit;
  const failed = rehearsed?.verdicts.filter((v) => !v.pass).length ?? 0;
  const { gate } = gateNow(state);
  const { maxChain } = thresholds(project.policy);
  return (
    <footer className="strip" aria-label="Audit">
      <Link className={`gate ${gate}`} to={base}>
        {gate === 'stop' ? 'Gate: stopped' : 'Gate: passed'}
      </Link>
      {SEVERITIES.map((s) => (
        <Link key={s} to={`${base}?severity=${s}`} data-count={s}>
          <SeverityMark severity={s} />
          {countText(summary[s], SEVERITY_WORD[s])}
        </Link>
      ))}
      <Link to={`${base}?rule=long-chain`}>
        longest chain <b>{metrics.longestChain}</b> of {maxChain}
      </Link>
      <Link to={`${base}?rule=relay-cycle`}>
        cycles <b>{metrics.cycles}</b>
      </Link>
      {rehearsed && rehearsed.verdicts.length > 0 && (
        <Link to={`/p/${id}/rehearse?shows=all`} data-rehearsed>
          rehearsals{' '}
          <b>
            {rehearsed.verdicts.length - failed} of {rehearsed.verdicts.length}
          </b>{' '}
          pass
        </Link>
      )}
      {played && (
        <span>
          shows what <b>{played.name}</b> has played{' '}
          <button type="button" className="word" onClick={() => session.showPlayed(null)}>
            Show what is rehearsed
          </button>
        </span>
      )}
      <span className="last" role="status" title={lastEdit?.label}>
        {lastEdit && (
          <>
            <b>{lastEdit.who === null ? 'last edit' : `edit by ${lastEdit.who}`}:</b>{' '}
            <LastEditText last={lastEdit} />
          </>
        )}
      </span>
      <Saved />
    </footer>
  );
}

function Auditing(): ReactNode {
  return <WorkProgress what="Auditing" step={useWatched(useSession().auditStep)} />;
}

/** Whether everything that was done here is stored. */
function Saved(): ReactNode {
  const { saving, waiting, connected, trouble } = useSessionState();
  const offline = saving === 'offline' || !connected;
  return (
    <span
      className={`saved ${offline ? 'waiting' : ''}`}
      data-saving={offline ? 'offline' : saving}
      title={trouble ?? undefined}
    >
      {offline && `server not answering${waiting > 0 ? `: ${countText(waiting, 'edit')} waiting` : ''}`}
      {!offline && (saving === 'saved' ? 'saved' : 'saving ...')}
    </span>
  );
}

function LastEditText({ last }: { last: LastEdit }): ReactNode {
  if (!last.change) return <>auditing ...</>;
  const { added, gone } = last.change;
  const worst = added[0];
  const parts = [
    ...SEVERITIES.map((s) => ({ s, n: added.filter((f) => f.severity === s).length }))
      .filter(({ n }) => n > 0)
      .map(({ s, n }) => `+${countText(n, SEVERITY_WORD[s])}`),
    ...(gone.length > 0 ? [`${gone.length} gone`] : []),
  ];
  if (parts.length === 0) return <>no finding changed</>;
  const named = worst ?? gone[0];
  return (
    <>
      {parts.join(', ')} · {worst ? named.message : `gone: ${named.message}`}
    </>
  );
}
