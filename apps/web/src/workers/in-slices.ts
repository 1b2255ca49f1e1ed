import type { WorkStep } from '@oquel/core';

/** Hears how far work is; answers false once nobody waits for it any more. */
export type Report = (step: WorkStep) => boolean | Promise<boolean>;

/** The work was cancelled by the one who asked for it. */
export class Cancelled extends Error {
  constructor() {
    super('cancelled');
    this.name = 'Cancelled';
  }
}

/** Milliseconds of work between two reports. */
const REPORT_MS = 120;

/**
 * Does long work in steps, and reports how far it is from time to time. Other questions are answered meanwhile, so the
 * work must not rely on anything that they change. Without a report it is done at once. A slice is in milliseconds.
 * @throws Cancelled
 */
export async function inSlices<T>(
  work: Generator<WorkStep, T>,
  report: Report | null,
  slice = REPORT_MS,
): Promise<T> {
  let reported = -Infinity;
  let wanted = true;
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    if (!report || performance.now() - reported < slice) continue;
    // The answer is not waited for: a busy window would hold up the work.
    void Promise.resolve(report(step.value)).then((goOn) => {
      wanted &&= goOn;
    });
    await new Promise((resolve) => setTimeout(resolve));
    if (!wanted) throw new Cancelled();
    reported = performance.now();
  }
}
