import { rippleMoments, type Ripple, type RippleMoment } from '@oquel/core';
import { useEffect, useMemo, useState } from 'react';

/** Milliseconds that a moment stays, besides the seconds of the game until the next one; these at the most. */
const STAY = 550;
const MOST_WAIT = 2_500;

export interface Moments {
  moments: readonly RippleMoment[];
  /** The one that is shown; -1 before the first. */
  at: number;
  setAt: (at: number) => void;
  playing: boolean;
  setPlaying: (on: boolean) => void;
}

/** Plays a ripple back, moment by moment, in the time of the game. */
export function useMoments(ripple: Ripple): Moments {
  const moments = useMemo(() => rippleMoments(ripple), [ripple]);
  const [at, setAt] = useState(0);
  const [playing, setPlaying] = useState(false);
  const shown = Math.min(at, moments.length - 1);
  useEffect(() => {
    if (!playing) return;
    if (shown >= moments.length - 1) return setPlaying(false);
    const wait = (moments[shown + 1].seconds - (moments[shown]?.seconds ?? 0)) * 1000;
    const timer = setTimeout(() => setAt(shown + 1), STAY + Math.min(MOST_WAIT, wait));
    return () => clearTimeout(timer);
  }, [playing, shown, moments]);
  return {
    moments,
    at: shown,
    setAt,
    playing,
    setPlaying: (on) => {
      // From the end it begins anew.
      if (on && shown >= moments.length - 1) setAt(0);
      setPlaying(on);
    },
  };
}
