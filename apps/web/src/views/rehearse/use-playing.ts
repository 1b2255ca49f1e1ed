import { firstNotBefore, type TraceRecord } from '@oquel/core';
import { useEffect, useRef, useState } from 'react';

/** Moves the cursor along with the clock while it plays; ends at the last record. Seconds of the game per second. */
export function usePlaying(
  records: readonly TraceRecord[],
  cursor: number,
  speed: number,
  onCursor: (n: number) => void,
): { playing: boolean; setPlaying: (on: boolean) => void } {
  const [playing, setPlaying] = useState(false);
  const latest = useRef({ records, cursor, onCursor });
  latest.current = { records, cursor, onCursor };
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    const { records: all, cursor: from } = latest.current;
    // From the end it begins anew.
    const begin = from >= (all.at(-1)?.n ?? 0) ? 0 : from;
    let t = all.find((r) => r.n === begin)?.t ?? -1;
    if (begin === 0) latest.current.onCursor(0);
    const timer = setInterval(() => {
      const now = performance.now();
      t += (now - last) * 1000 * speed;
      last = now;
      const { records: list, onCursor: move } = latest.current;
      move(lastBefore(list, t));
      if (t >= (list.at(-1)?.t ?? 0)) setPlaying(false);
    }, 50);
    return () => clearInterval(timer);
  }, [playing, speed]);
  return { playing, setPlaying };
}

/** The number of the last record that is not later than a time; 0 for none. Records stand in order of time. */
export function lastBefore(records: readonly TraceRecord[], t: number): number {
  const later = firstNotBefore(records.length, (place) => records[place].t <= t);
  return later === 0 ? 0 : records[later - 1].n;
}
