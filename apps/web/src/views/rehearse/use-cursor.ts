import { useCallback, useEffect, useRef, useState } from 'react';
import type { RehearseAddress } from './rehearse-address.js';

/** Milliseconds after which the address follows a cursor that has come to rest. */
const REST = 150;

/**
 * The cursor: it leads, and the address follows once it rests, since that is too slow for keys and for playing.
 * `wanted` tells what was asked for last, even before it is drawn; null is the end.
 */
export function useCursor({ cursor: addressed, go }: RehearseAddress): {
  wanted: () => number | null;
  toCursor: (n: number) => void;
} {
  const latest = useRef(addressed);
  // What the address says, then what it was asked for since and does not say yet: it may come late, one by one.
  const sent = useRef([addressed]);
  const [shown, setShown] = useState(addressed);
  useEffect(() => {
    // What comes back is what was sent, unless somebody went back or sent a link.
    const back = sent.current.indexOf(addressed);
    if (back >= 0) {
      sent.current.splice(0, back);
      return;
    }
    sent.current = [addressed];
    latest.current = addressed;
    setShown(addressed);
  }, [addressed]);
  useEffect(() => {
    if (shown === sent.current.at(-1)) return;
    const timer = setTimeout(() => {
      sent.current.push(shown);
      go({ cursor: shown === null ? '' : String(shown) });
    }, REST);
    return () => clearTimeout(timer);
  }, [shown, go]);
  const toCursor = useCallback((n: number) => {
    latest.current = n;
    setShown(n);
  }, []);
  return { wanted: useCallback(() => latest.current, []), toCursor };
}
