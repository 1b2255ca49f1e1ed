import { walkWiring } from '@oquel/core';
import { useEffect } from 'react';
import { useSession, useSessionState } from '../session/session-context.js';
import { inSlices } from '../workers/in-slices.js';

/** Milliseconds at a time, so that no gesture waits for it. */
const SLICE = 15;
/** A browser translates what has run some times. */
const TIMES = 2;
/** Expanded bindings above which it would keep the window busy for too long. */
const MOST = 250_000;

/**
 * Compiles the wiring for a walk, and drops it, when the first audit is done and the browser has nothing else to do: the
 * browser has translated by then what compiles, and the first walk is there as soon as later ones. Draws nothing.
 */
export function WalkAhead(): null {
  const session = useSession();
  const isAudited = useSessionState().audit !== null;
  useEffect(() => {
    const { audit, index } = session.getState();
    if (!audit || audit.metrics.expandedBindings > MOST) return;
    let isWanted = true;
    const compile = async (): Promise<void> => {
      for (let i = 0; i < TIMES; i++) await inSlices(walkWiring(index, undefined), () => isWanted, SLICE);
    };
    // Whoever walks learns what is wrong; here nobody has asked.
    const stop = whenNothingElse(() => void compile().catch(() => undefined));
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
