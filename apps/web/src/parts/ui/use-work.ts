import type { WorkStep } from '@oquel/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Report } from '../../workers/in-slices.js';

/** Work of a component that takes long: how far it is; it ends when it is cancelled or when the component goes. */
export interface Work {
  step: WorkStep | null;
  /** Begins; what ran before is cancelled. The signal is for what can be aborted, the report for what is done in steps. */
  begin: () => { report: Report; signal: AbortSignal };
  cancel: () => void;
}

export function useWork(): Work {
  const [step, setStep] = useState<WorkStep | null>(null);
  const running = useRef<AbortController | null>(null);
  const cancel = useCallback(() => running.current?.abort(), []);
  useEffect(() => cancel, [cancel]);
  const begin = useCallback(() => {
    running.current?.abort();
    const controller = new AbortController();
    running.current = controller;
    setStep(null);
    const report: Report = (next) => {
      if (!controller.signal.aborted) setStep(next);
      return !controller.signal.aborted;
    };
    return { report, signal: controller.signal };
  }, []);
  return { step, begin, cancel };
}
