import type { Rehearsal } from '@oquel/core';
import { useCallback, useEffect, useState } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { Rehearsed } from '../../workers/auditor-answers.js';

export interface Running {
  state: 'running' | 'there' | 'stopped' | 'failed';
  /** The last run that came to an end, which stays in sight while the next one runs. */
  run: Rehearsed | null;
  why: string;
}

/** Runs a rehearsal in the worker, again after every edit, so that what is seen is what the wiring does now. */
export function useRun(rehearsal: Rehearsal | undefined): Running & { stop: () => void; again: () => void } {
  const session = useSession();
  const { project } = useSessionState();
  const [running, setRunning] = useState<Running>({ state: 'running', run: null, why: '' });
  const [turn, setTurn] = useState(0);
  const text = rehearsal ? JSON.stringify(rehearsal) : '';
  const name = rehearsal?.name;
  useEffect(() => setRunning({ state: 'running', run: null, why: '' }), [name]);
  useEffect(() => {
    if (text === '') return;
    let current = true;
    setRunning((old) => ({ ...old, state: 'running' }));
    session.rehearse(JSON.parse(text) as Rehearsal).then(
      (run) => {
        if (!current) return;
        setRunning((old) => (run ? { state: 'there', run, why: '' } : { ...old, state: 'stopped' }));
      },
      (error: unknown) => {
        const why = error instanceof Error ? error.message : String(error);
        if (current) setRunning((old) => ({ ...old, state: 'failed', why }));
      },
    );
    return () => {
      current = false;
    };
    // What the project's other parts hold decides the run as much as its script.
  }, [session, text, project, turn]);
  const stop = useCallback(() => session.stopRehearsing(), [session]);
  const again = useCallback(() => setTurn((t) => t + 1), []);
  return { ...running, stop, again };
}
