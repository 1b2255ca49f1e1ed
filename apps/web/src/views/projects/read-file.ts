import { wrap, type Remote } from 'comlink';
import type { Auditor } from '../../workers/auditor.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';

/** Reads a file in a worker of its own, since a large one takes its time. */
export async function readFile(file: File): Promise<{ incoming: Incoming } | { unfit: Unfit }> {
  const worker = new Worker(new URL('../../workers/audit.worker.ts', import.meta.url), { type: 'module' });
  try {
    const auditor: Remote<Auditor> = wrap<Auditor>(worker);
    const today = new Date().toISOString().slice(0, 10);
    const read = await auditor.incoming(new Uint8Array(await file.arrayBuffer()), today);
    return 'problems' in read ? { unfit: read } : { incoming: read.incoming };
  } finally {
    worker.terminate();
  }
}
