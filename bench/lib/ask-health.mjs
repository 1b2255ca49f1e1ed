import { parentPort, workerData } from 'node:worker_threads';
import { sleep } from '../../scripts/lib/run.mjs';

/** Asks a server for its health until a message comes, and tells the longest answer, in milliseconds. */
let over = false;
parentPort.once('message', () => (over = true));
let [worst, times] = [0, 0];
for (; !over; times++) {
  const begun = performance.now();
  const { status } = await fetch(`${workerData}/api/health`);
  if (status === 429) throw new Error('the benchmark itself asks too often');
  worst = Math.max(worst, performance.now() - begun);
  await sleep(25);
}
parentPort.postMessage({ worst, times });
