import { verdictText, type TraceRecord } from '@oquel/core';
import type { ReactNode } from 'react';
import { countText } from '../../format.js';
import type { Rehearsed } from '../../workers/auditor-answers.js';
import type { Running } from './use-run.js';

/** What the run came to, or that it still runs and can be stopped; and what differs from the one before. */
export function RunVerdict({
  running,
  onCursor,
}: {
  running: Running & { stop: () => void; again: () => void };
  onCursor: (n: number) => void;
}): ReactNode {
  const { state, run, stop, again } = running;
  if (state === 'running') {
    return (
      <span className="verdictline" role="status">
        Running ...{' '}
        <button type="button" className="tick" onClick={stop}>
          stop it
        </button>
      </span>
    );
  }
  if (state === 'failed') {
    return (
      <span className="verdictline fault error" role="alert">
        It could not be run: {running.why}
      </span>
    );
  }
  if (state === 'stopped') {
    return (
      <span className="verdictline" role="status">
        Stopped.{' '}
        <button type="button" className="word" onClick={again}>
          Run it again
        </button>
      </span>
    );
  }
  if (!run) return null;
  return (
    <span className="verdictline" role="status" data-pass={run.verdict.pass}>
      <b className={`fault ${run.verdict.pass ? 'good' : 'error'}`}>
        {run.verdict.pass ? 'Passes' : 'Fails'}
      </b>
      <span title={verdictText(run.verdict)}> {shortVerdict(run)}</span>
      <Difference run={run} onCursor={onCursor} />
    </span>
  );
}
function shortVerdict({ verdict: v, records }: Rehearsed): string {
  if ('error' in v) return 'its load set does not exist';
  const of = v.held + v.failed + v.unjudged;
  return [
    v.runaway ? 'it did not settle' : '',
    of > 0 ? `${v.held} of ${of} expectations hold` : 'but it checks nothing: it has no expectations',
    v.steps > 0 ? `${v.steps} broken ${v.steps === 1 ? 'step' : 'steps'}` : '',
    v.cut > 0 ? `${v.cut} left off` : '',
    missed(records),
  ]
    .filter(Boolean)
    .join(', ');
}
/** What did not come about though it was raised or sent: it does not fail a rehearsal, and is worth a look. */
function missed(records: readonly TraceRecord[]): string {
  const lost = records.filter((r) => r.kind === 'lost').length;
  const refused = records.filter((r) => r.kind === 'refused').length;
  const reasons = [
    lost > 0 ? `${countText(lost, 'delivery', 'deliveries')} lost` : '',
    refused > 0 ? `${countText(refused, 'event')} refused` : '',
  ].filter(Boolean);
  return reasons.length > 0 ? `but ${reasons.join(' and ')}` : '';
}
function Difference({ run, onCursor }: { run: Rehearsed; onCursor: (n: number) => void }): ReactNode {
  const { difference } = run;
  if (!difference || difference.added.length + difference.gone.length === 0) return null;
  const first = difference.added[0];
  return (
    <span data-difference>
      {' · since the last run '}
      {first ? (
        <button type="button" className="word" onClick={() => onCursor(first.n)}>
          {difference.added.length} new
        </button>
      ) : (
        '0 new'
      )}
      {`, ${difference.gone.length} gone`}
    </span>
  );
}
