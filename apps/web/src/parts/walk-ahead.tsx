import { useEffect } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';
import { wiringForWalk } from '../session/walk-wiring.js';

/**
 * Compiles the wiring for a walk once, when the first audit is done and the browser has nothing else to do: the first walk is
 * one key away, and the browser has translated by then what compiles.
 */
export function WalkAhead(): null {
  const session = useSession();
  const isAudited = useSessionState().audit !== null;
  useEffect(() => {
    if (!isAudited) return;
    let isWanted = true;
    const compile = (): void => {
      const { index } = session.getState();
      // Whoever walks is told what is wrong; here nobody has asked.
      wiringForWalk(index, '', () => isWanted).catch(() => undefined);
    };
    const stop = whenNothingElse(compile);
    return () => {
      isWanted = false;
      stop();
    };
  }, [session, isAudited]);
  return null;
}

function whenNothingElse(run: () => void): () => void {
  if (!('requestIdleCallback' in window)) {
    const timer = setTimeout(run, 1000);
    return () => clearTimeout(timer);
  }
  const asked = window.requestIdleCallback(run);
  return () => window.cancelIdleCallback(asked);
}
