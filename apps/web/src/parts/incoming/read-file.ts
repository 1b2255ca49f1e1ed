import { proxy, wrap, type Remote } from 'comlink';
import type { Auditor } from '../../workers/auditor.js';
import type { Report } from '../../workers/in-slices.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';
import { isoToday } from '../../format.js';

/** Reading and auditing a file is given up after this time. */
const LIMIT_MS = 120_000;

/**
 * Reads a file in a worker of its own, which ends when the signal says so, or when it takes too long.
 * @throws Error in words for the person
 */
export async function readFile(file: File, cancel: AbortSignal, report: Report): Promise<Incoming | Unfit> {
  const worker = new Worker(new URL('../../workers/audit.worker.ts', import.meta.url), { type: 'module' });
  const late = AbortSignal.timeout(LIMIT_MS);
  const ended = new Promise<never>((_, reject) => {
    cancel.addEventListener('abort', () => reject(new Error('Reading was cancelled')));
    late.addEventListener('abort', () => reject(new Error(`Reading took longer than ${LIMIT_MS / 1000} s`)));
    worker.addEventListener('error', () => reject(new Error('The browser has not enough memory for it')));
  });
  try {
    const auditor: Remote<Auditor> = wrap<Auditor>(worker);
    const today = isoToday();
    const read = async (): Promise<Incoming | Unfit> =>
      auditor.incoming(new Uint8Array(await file.arrayBuffer()), today, proxy(report));
    return await Promise.race([read(), ended]);
  } finally {
    worker.terminate();
  }
}
