import './rehearse.css';
import {
  statesAfter,
  verdictText,
  type Expectation,
  type Rehearsal,
  type Step,
  type TraceRecord,
} from '@oquel/core';
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { Rehearsed } from '../../workers/auditor.js';
import { AllPanel } from './all-panel.js';
import { LanesDrawing } from './lanes-drawing.js';
import { Log } from './log.js';
import { PlanPane } from './plan-pane.js';
import { RecordPanel } from './record-panel.js';
import { useRehearseAddress, type RehearseAddress } from './rehearse-address.js';
import { added, freeName, withSteps } from './script-edits.js';
import { sceneOf } from './plan-pane.js';
import { ScriptPanel } from './script-panel.js';
import { StatesPanel } from './states-panel.js';
import { usePlaying } from './use-playing.js';
import { useCursor } from './use-cursor.js';
import { useRun, type Running } from './use-run.js';
import { countText } from '../../format.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';

/** The dry run: a script, what follows from it over time, and what it leaves behind. */
export function RehearseView(): ReactNode {
  const session = useSession();
  const { id, project } = useSessionState();
  const address = useRehearseAddress();
  const { shows, go } = address;
  const rehearsals = project.rehearsals ?? [];
  const rehearsal =
    rehearsals.find((r) => r.name === address.name) ?? (address.name === '' ? rehearsals[0] : undefined);
  const choose = useCallback((name: string) => go({ name, shows: '', cursor: '', thing: '' }, false), [go]);
  const create = (): void => {
    const name = freeName(project);
    if (session.edit(added(project, { name, steps: [] }))) choose(name);
  };
  return (
    <div className="rehearse">
      <h1 className="unseen">Rehearse</h1>
      <div className="rehearsebar row">
        <select
          className="line"
          aria-label="Rehearsal"
          value={rehearsal?.name ?? ''}
          onChange={(e) => choose(e.target.value)}
        >
          {!rehearsal && <option value="">choose a rehearsal</option>}
          {rehearsals.map((r) => (
            <option key={r.name}>{r.name}</option>
          ))}
        </select>
        <button type="button" className="tick" onClick={create}>
          New
        </button>
        <button
          type="button"
          className="tick"
          aria-pressed={shows === 'all'}
          onClick={() => go({ shows: shows === 'all' ? '' : 'all' }, false)}
        >
          all of them
        </button>
        <Link className="tick" to={`/p/${id}/rehearse/walk`}>
          Walk it
        </Link>
        <Link className="tick" to={`/p/${id}/rehearse/plays`}>
          Plays
        </Link>
      </div>
      {shows === 'all' ? (
        <AllPanel onOpen={choose} />
      ) : rehearsal ? (
        <OneRehearsal key={rehearsal.name} rehearsal={rehearsal} address={address} onName={choose} />
      ) : (
        <div className="middle">
          <p>
            {address.name === ''
              ? 'This project has no rehearsal yet. One is a script of what happens to the game, and what should follow.'
              : `There is no rehearsal named “${address.name}”.`}
          </p>
          <p>
            <button type="button" className="tick" onClick={create}>
              Make a new one
            </button>
          </p>
        </div>
      )}
    </div>
  );
}

const NOTHING: readonly TraceRecord[] = [];

function OneRehearsal({
  rehearsal,
  address,
  onName,
}: {
  rehearsal: Rehearsal;
  address: RehearseAddress;
  onName: (name: string) => void;
}): ReactNode {
  const session = useSession();
  const { id, index, project } = useSessionState();
  const { go } = address;
  const running = useRun(rehearsal);
  const { run } = running;
  const records = run?.records ?? NOTHING;
  const { wanted, toCursor } = useCursor(address);
  const last = records.at(-1)?.n ?? 0;
  const cursor = wanted() ?? last;
  const [scale, setScale] = useState(60);
  const [speed, setSpeed] = useState(1);
  const byNumber = useMemo(() => new Map(records.map((r) => [r.n, r])), [records]);
  const addedNumbers = useMemo(() => new Set(run?.difference?.added.map((r) => r.n)), [run]);
  const expected = useMemo(
    () => new Set(rehearsal.steps.flatMap((s) => ('expect' in s ? [JSON.stringify(s.expect)] : []))),
    [rehearsal],
  );
  const changes = useMemo(() => statesAfter(records, cursor), [records, cursor]);
  const { playing, setPlaying } = usePlaying(records, cursor, speed, toCursor);
  const here = byNumber.get(cursor);
  const at = nextTime(rehearsal);
  const addSteps = (steps: readonly Step[]): void => {
    session.edit(withSteps(project, rehearsal, steps));
  };
  const expect = (what: Expectation): void => {
    // Judged at its time after everything else, so the very moment of the cursor will do.
    addSteps([{ at: (here?.t ?? 0) / 1e6, expect: what }]);
  };
  const step = (by: 1 | -1): void => {
    const from = wanted() ?? last;
    const i = records.findIndex((r) => r.n === from) + by;
    if (i < 0) toCursor(0);
    else if (i < records.length) toCursor(records[i].n);
  };
  useKeys({ ' ': () => setPlaying(!playing), '.': () => step(1), ',': () => step(-1) });
  const panel = useSidePanel({
    name: 'rehearse',
    label: 'Width of the script',
    side: 'left',
    share: 0.25,
    min: 260,
  });
  return (
    <div className="onerehearsal" style={panel.style}>
      {panel.divider}
      <ScriptPanel
        rehearsal={rehearsal}
        records={records}
        cursor={cursor}
        at={at}
        onName={onName}
        onCursor={toCursor}
        pointed={
          address.thing === ''
            ? ''
            : `${sceneOf(address, run?.scenes ?? [], rehearsal, index)}:${address.thing}`
        }
      />
      <div className="rehearsalstage">
        <div className="row transport" role="group" aria-label="Play">
          <button
            type="button"
            className="tick"
            aria-keyshortcuts="Space"
            onClick={() => setPlaying(!playing)}
          >
            {playing ? 'hold' : 'play'}
          </button>
          <button type="button" className="tick" aria-keyshortcuts="," onClick={() => step(-1)}>
            back
          </button>
          <button type="button" className="tick" aria-keyshortcuts="." onClick={() => step(1)}>
            step
          </button>
          <input
            type="range"
            aria-label="Where the cursor stands"
            min={0}
            max={records.at(-1)?.n ?? 0}
            value={cursor}
            onChange={(e) => toCursor(Number(e.target.value))}
          />
          <select
            className="line"
            aria-label="Speed"
            value={speed}
            onChange={(e) => setSpeed(Number(e.target.value))}
          >
            {[0.25, 0.5, 1, 2, 4, 8].map((s) => (
              <option key={s} value={s}>
                {s} ×
              </option>
            ))}
          </select>
          <select
            className="line"
            aria-label="Width of a second"
            value={scale}
            onChange={(e) => setScale(Number(e.target.value))}
          >
            {[15, 30, 60, 120, 240].map((s) => (
              <option key={s} value={s}>
                1 s = {s} px
              </option>
            ))}
          </select>
          <Verdict running={running} onCursor={toCursor} />
        </div>
        <div className="happened">
          {records.length === 0 && run ? (
            <div className="middle">It has no steps yet.</div>
          ) : (
            <LanesDrawing
              index={index}
              records={records}
              byNumber={byNumber}
              cursor={cursor}
              added={addedNumbers}
              scale={scale}
              onCursor={toCursor}
            />
          )}
          <Log
            records={records}
            cursor={cursor}
            added={addedNumbers}
            left={run?.left ?? 0}
            onCursor={toCursor}
          />
        </div>
        <PlanPane
          address={address}
          rehearsal={rehearsal}
          scenes={run?.scenes ?? []}
          records={records}
          here={here}
          at={at}
          onSteps={addSteps}
          onExpect={expect}
        >
          <div className="detail">
            {here && (
              <RecordPanel
                index={index}
                base={`/p/${id}`}
                record={here}
                cause={byNumber.get(here.cause)}
                onCursor={toCursor}
                onPlan={(where) => {
                  const [scene, path] = where.split(':', 2);
                  go({ scene, thing: path.replace(/#\d+/g, '') });
                }}
              />
            )}
            <StatesPanel
              title={cursor >= last ? 'At the end' : cursor === 0 ? 'At the beginning' : 'At the cursor'}
              changes={changes}
              expected={expected}
              onExpect={expect}
            />
          </div>
        </PlanPane>
      </div>
    </div>
  );
}

/** What the run came to, or that it still runs and can be stopped; and what differs from the one before. */
function Verdict({
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
  const told = [
    lost > 0 ? `${countText(lost, 'delivery', 'deliveries')} lost` : '',
    refused > 0 ? `${countText(refused, 'event')} refused` : '',
  ].filter(Boolean);
  return told.length > 0 ? `but ${told.join(' and ')}` : '';
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

/** A second after the last step: what is done next comes after what was done before. */
function nextTime(rehearsal: Rehearsal): number {
  const last = rehearsal.steps.reduce((t, s) => Math.max(t, s.at), 0);
  return rehearsal.steps.length === 0 ? 1 : Math.floor(last) + 1;
}

/** Keys that work wherever nothing is typed. */
function useKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || !(e.key in keys)) return;
      const target = e.target;
      if (
        target instanceof HTMLElement &&
        target.closest('input, textarea, select, button, a, [role="button"], [role="dialog"]')
      )
        return;
      e.preventDefault();
      keys[e.key]();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}
