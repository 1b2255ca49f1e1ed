import { secondsText, type WalkEnd } from '@oquel/core';
import { useReducer, useSyncExternalStore, useEffect, type ReactNode } from 'react';
import { countText } from '../../../format.js';
import type { WalkPlay } from './walk-play.js';

const PACES = [0.1, 0.25, 0.5, 1, 2, 4];
const ENDS: Record<WalkEnd, string> = {
  runaway: 'It does not settle: an endless loop has ended the walk. The log names it; go back to before it.',
  records: 'As much has happened as a walk can hold. Keep it, or begin anew.',
  steps: 'As much was done as a walk can hold. Keep it, or begin anew.',
  time: 'It has gone on as long as a walk can. Keep it, or begin anew.',
  'load-set': 'Its load set does not exist any more. Choose what is loaded.',
};

/** Time: held or running, how fast, thing by thing, and back to any moment. */
export function Transport({ play }: { play: WalkPlay }): ReactNode {
  const seen = useSyncExternalStore(play.onList, play.seenNow);
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => play.run(), [play]);
  // The clock is read more often than anything else of this line.
  useEffect(() => {
    const timer = setInterval(again, 250);
    return () => clearInterval(timer);
  }, []);
  const { walk, held, looked, edited, aside } = play;
  const { end } = walk;
  const first = edited?.added.at(0) ?? edited?.gone.at(0);
  return (
    <div className="row transport" role="group" aria-label="Time">
      <button
        type="button"
        className="tick"
        aria-keyshortcuts="Space"
        onClick={() => {
          play.hold(!held);
          again();
        }}
      >
        {held ? 'let time go on' : 'hold time'}
      </button>
      <button type="button" className="tick" aria-keyshortcuts="," onClick={() => play.off()}>
        thing before
      </button>
      <button type="button" className="tick" aria-keyshortcuts="." onClick={() => play.on()}>
        next thing
      </button>
      <input
        type="range"
        aria-label="Moment"
        aria-valuetext={secondsText(round(play.time))}
        min={0}
        max={walk.now}
        step={1000}
        value={play.time}
        onChange={(e) => {
          play.lookAt(Number(e.target.value));
          again();
        }}
      />
      <span className="mono clock">{secondsText(round(play.time))}</span>
      <select
        className="line"
        aria-label="Pace of time"
        value={play.pace}
        onChange={(e) => {
          play.pace = Number(e.target.value);
          again();
        }}
      >
        {PACES.map((p) => (
          <option key={p} value={p}>
            {p} ×
          </option>
        ))}
      </select>
      <span className="verdictline" role="status">
        {end && <b className="fault error">{ENDS[end]}</b>}
        {!end && looked && (
          <>
            An earlier moment of {secondsText(round(walk.now))}.{' '}
            <button type="button" className="word" onClick={() => play.begin()}>
              Go on from here
            </button>{' '}
            <button type="button" className="word" onClick={() => play.lookAt(Infinity)}>
              To the present
            </button>
          </>
        )}
        {!end && !looked && aside && (
          <>
            What was walked after this is set aside.{' '}
            <button type="button" className="word" onClick={() => play.bringBack()}>
              Bring it back
            </button>
          </>
        )}
        {!end && !aside && edited && first && (
          <>
            {looked && ' '}By the edit {countText(edited.added.length, 'record')} new, {edited.gone.length}{' '}
            gone.{' '}
            <button type="button" className="word" onClick={() => play.lookAt(first.t)}>
              Look at the first
            </button>
          </>
        )}
        {!end && !looked && !aside && !edited && seen.records.length === 0 && (
          <span className="soft">Nothing has happened yet.</span>
        )}
      </span>
    </div>
  );
}

/** To tenths of a second. */
function round(t: number): number {
  return Math.round(t / 100_000) * 100_000;
}
