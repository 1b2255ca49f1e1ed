import type { Ripple } from './model.js';

/** What happens at once in a ripple: the entries of one hop at one time. */
export interface RippleMoment {
  /** By the shortest way. */
  hop: number;
  /** By the quickest way. */
  seconds: number;
  keys: string[];
}

/** The moments of a ripple in the order in which they are played back: by time, and at one time by hop. Cost: a sort of the entries. */
export function rippleMoments({ entries }: Ripple): RippleMoment[] {
  const moments: RippleMoment[] = [];
  for (const e of [...entries].sort((a, b) => a.time - b.time || a.hop - b.hop)) {
    const last = moments[moments.length - 1];
    if (last?.hop === e.hop && last.seconds === e.time) last.keys.push(e.key);
    else moments.push({ hop: e.hop, seconds: e.time, keys: [e.key] });
  }
  return moments;
}
