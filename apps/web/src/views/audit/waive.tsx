import type { Finding, Project, Waiver } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import { whoIsIt } from '../../session/who.js';
import { waivesAtOnce } from '../../session/access.js';
import { isoToday } from '../../format.js';

/** Puts waivers in the place of those that are there, as one edit. */
export function waiversEdit(
  { waivers: before = [] }: Project,
  label: string,
  next: readonly Waiver[],
): Parameters<ReturnType<typeof useSession>['edit']>[0] {
  const value = [...next];
  return {
    label,
    changes: [
      value.length === 0 && before.length > 0
        ? { op: 'set', part: 'waivers' }
        : { op: 'set', part: 'waivers', value },
    ],
  };
}

/** Accepts a finding on purpose: why, by whom, and until when. */
export function Waive({ finding }: { finding: Finding }): ReactNode {
  const session = useSession();
  const { project, access } = useSessionState();
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState('');
  const [here, setHere] = useState(false);
  const [tried, setTried] = useState(false);
  const waivers = project.waivers ?? [];
  if (finding.rule === 'stale-waiver' || finding.rule === 'idle-waiver') {
    return <p className="soft">A finding about a waiver cannot be waived: see Waivers above.</p>;
  }
  if (finding.waived) {
    const own = waivers.filter((w) => w.fingerprint === finding.fingerprint);
    return (
      <div className="row">
        <span>
          {own
            .map((w) => `Waived by ${w.by}: “${w.reason}”${w.until ? `, until ${w.until}` : ''}`)
            .join('; ')}
        </span>
        <button
          type="button"
          className="tick"
          onClick={() =>
            session.edit(
              waiversEdit(
                project,
                `removed the waiver of ${finding.rule} back`,
                waivers.filter((w) => w.fingerprint !== finding.fingerprint),
              ),
            )
          }
        >
          Remove the waiver
        </button>
      </div>
    );
  }
  const isAtOnce = waivesAtOnce(access);
  const past = until !== '' && until < isoToday();
  const waive = (): void => {
    setTried(true);
    if (reason.trim() === '' || past) return;
    const waiver: Waiver = {
      fingerprint: finding.fingerprint,
      reason: reason.trim(),
      by: whoIsIt(),
      ...(until === '' ? {} : { until }),
      ...(here ? { occurrences: finding.occurrences } : {}),
      ...(isAtOnce ? {} : { proposed: true as const }),
    };
    const did = isAtOnce ? 'waived' : 'proposed to waive';
    session.edit(waiversEdit(project, `${did} ${finding.rule}: ${waiver.reason}`, [...waivers, waiver]));
  };
  const proposed = waivers.filter((w) => w.proposed && w.fingerprint === finding.fingerprint);
  if (proposed.length > 0) return <Proposals proposed={proposed} />;
  return (
    <div className="row waive">
      <input
        className="line"
        style={{ flex: 1, minWidth: 180 }}
        aria-label="Why it is waived"
        aria-invalid={tried && reason.trim() === ''}
        placeholder="the reason"
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && waive()}
      />
      <label>
        until{' '}
        <input
          className="line"
          type="date"
          aria-label="Until when it is waived"
          aria-invalid={tried && past}
          value={until}
          onChange={(e) => setUntil(e.target.value)}
        />
      </label>
      {finding.occurrences.length > 0 && (
        <button type="button" className="tick" aria-pressed={here} onClick={() => setHere(!here)}>
          only at its current places
        </button>
      )}
      <button
        type="button"
        className="tick"
        title={isAtOnce ? undefined : 'It counts once a lead of the project accepts it'}
        onClick={waive}
      >
        {isAtOnce ? 'Waive' : 'Propose to waive'}
      </button>
      {tried && (reason.trim() === '' || past) && (
        <span className="fault error" role="alert">
          {past ? 'the date has passed' : 'a waiver needs a reason'}
        </span>
      )}
    </div>
  );
}

/** What was proposed to waive a finding: a lead accepts it, and signs it with that; anybody who edits may withdraw it. */
function Proposals({ proposed }: { proposed: readonly Waiver[] }): ReactNode {
  const session = useSession();
  const { project, access } = useSessionState();
  const waivers = project.waivers ?? [];
  const withdraw = (w: Waiver): boolean =>
    session.edit(
      waiversEdit(
        project,
        `withdrew a proposed waiver: ${w.reason}`,
        waivers.filter((x) => x !== w),
      ),
    );
  return (
    <>
      {proposed.map((w, i) => (
        <div key={i} className="row">
          <span>
            {w.by} proposes to waive it: “{w.reason}”{w.until ? `, until ${w.until}` : ''}
          </span>
          {waivesAtOnce(access) && (
            <button type="button" className="tick" onClick={() => session.edit(acceptEdit(project, w))}>
              Accept
            </button>
          )}
          <button type="button" className="tick" onClick={() => withdraw(w)}>
            Withdraw
          </button>
        </div>
      ))}
    </>
  );
}
/** Makes a proposal count, signed by who accepts it. */
export function acceptEdit(
  project: Project,
  proposal: Waiver,
): Parameters<ReturnType<typeof useSession>['edit']>[0] {
  const { proposed: _, ...rest } = proposal;
  const accepted = { ...rest, by: whoIsIt(), reason: `${proposal.reason} (proposed by ${proposal.by})` };
  const next = (project.waivers ?? []).map((w) => (w === proposal ? accepted : w));
  return waiversEdit(project, `accepted a waiver: ${proposal.reason}`, next);
}
