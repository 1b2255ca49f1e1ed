import { writeSync } from 'node:fs';
import { Worker } from 'node:worker_threads';

/** Nothing is said of what takes less. */
const AFTER_MS = 1000;
const ERASE = '\r\x1b[K';

/**
 * Says on a terminal what is under way, once it takes longer than a second. Commands compute without a pause, so a thread of its own
 * writes; what it has written is gone before anything else is printed.
 */
export class Progress {
  private worker: Worker | null = null;
  private begun = 0;
  /** 1 while the thread may write. */
  private readonly may = new Int32Array(new SharedArrayBuffer(4));

  /** @param terminal the number of an open file */
  constructor(private readonly terminal = 2) {}

  begin(what: string): void {
    this.end();
    this.begun = performance.now();
    Atomics.store(this.may, 0, 1);
    this.worker ??= this.started();
    this.worker.postMessage({ what, terminal: this.terminal });
  }
  end(): void {
    if (Atomics.exchange(this.may, 0, 0) === 0) return;
    if (performance.now() - this.begun >= AFTER_MS) writeSync(this.terminal, ERASE);
  }

  private started(): Worker {
    const worker = new Worker(PROGRAM, { eval: true, workerData: { may: this.may, AFTER_MS, ERASE } });
    // A command ends when it is done.
    worker.unref();
    return worker;
  }
}

const PROGRAM = `
  const { parentPort, workerData: { may, AFTER_MS, ERASE } } = require('node:worker_threads');
  const { writeSync } = require('node:fs');
  let now = null;
  parentPort.on('message', (next) => { now = { ...next, begun: Date.now() }; });
  setInterval(() => {
    const took = now === null ? 0 : Date.now() - now.begun;
    if (took < AFTER_MS || Atomics.load(may, 0) === 0) return;
    try {
      writeSync(now.terminal, ERASE + now.what + ' ... ' + Math.floor(took / 1000) + ' s');
    } catch {
      now = null;
    }
  }, 200);
`;
