import type { Finding, Project, Waiver } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import { whoIsIt } from '../../session/who.js';
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
  const { project } = useSessionState();
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
    };
    session.edit(waiversEdit(project, `waived ${finding.rule}: ${waiver.reason}`, [...waivers, waiver]));
  };
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
      <button type="button" className="tick" onClick={waive}>
        Waive
      </button>
      {tried && (reason.trim() === '' || past) && (
        <span className="fault error" role="alert">
          {past ? 'the date has passed' : 'a waiver needs a reason'}
        </span>
      )}
    </div>
  );
}
