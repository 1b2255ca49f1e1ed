import { statesAfter, type Expectation, type Rehearsal, type Step, type TraceRecord } from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { useSidePanel } from '../../parts/ui/side-panel.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { LanesDrawing } from './lanes-drawing.js';
import { Log } from './log.js';
import { PlanPane, sceneOf } from './plan-pane.js';
import { RecordPanel } from './record-panel.js';
import type { RehearseAddress } from './rehearse-address.js';
import { RunVerdict } from './run-verdict.js';
import { withSteps } from './script-edits.js';
import { ScriptPanel } from './script-panel.js';
import { StatesPanel } from './states-panel.js';
import { useCursor } from './use-cursor.js';
import { useKeys } from './use-keys.js';
import { usePlaying } from './use-playing.js';
import { useRun } from './use-run.js';

const NOTHING: readonly TraceRecord[] = [];

/** One rehearsal: its script, its run over time, and what stands where at the cursor. */
export function OneRehearsal({
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
          <RunVerdict running={running} onCursor={toCursor} />
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

/** A second after the last step: what is done next comes after what was done before. */
function nextTime(rehearsal: Rehearsal): number {
  const last = rehearsal.steps.reduce((t, s) => Math.max(t, s.at), 0);
  return rehearsal.steps.length === 0 ? 1 : Math.floor(last) + 1;
}
