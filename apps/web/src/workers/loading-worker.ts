/** What a worker posts first, before any answer: from then on it hears what is posted to it. */
export const READY = 'ready';

/** Pauses before a worker that could not be loaded is loaded again; they grow to the last one. */
const PAUSES_MS = [500, 1000, 2000, 4000, 8000, 15_000];

/**
 * A worker whose program may not be at hand at once, because the server is away just as a window opens: it is loaded
 * again until it says {@link READY}, and what is posted meanwhile waits for it, in order.
 */
export class LoadingWorker {
  private worker: Worker | null = null;
  private ready = false;
  private ended = false;
  private tries = 0;
  private readonly posted: { message: unknown; transfer: Transferable[] }[] = [];
  private readonly listeners: [string, EventListenerOrEventListenerObject][] = [];

  constructor(private readonly load: () => Worker) {
    this.begin();
  }

  postMessage(message: unknown, transfer: Transferable[] = []): void {
    if (this.ready) this.worker!.postMessage(message, transfer);
    else this.posted.push({ message, transfer });
  }
  addEventListener(type: string, listener: EventListenerOrEventListenerObject): void {
    this.listeners.push([type, listener]);
    if (this.ready) this.worker!.addEventListener(type, listener);
  }
  removeEventListener(type: string, listener: EventListenerOrEventListenerObject): void {
    const at = this.listeners.findIndex(([t, l]) => t === type && l === listener);
    if (at >= 0) this.listeners.splice(at, 1);
    this.worker?.removeEventListener(type, listener);
  }
  terminate(): void {
    this.ended = true;
    this.worker?.terminate();
  }

  private begin(): void {
    if (this.ended) return;
    const worker = this.load();
    this.worker = worker;
    const failed = (): void => {
      worker.terminate();
      const pause = PAUSES_MS[Math.min(this.tries++, PAUSES_MS.length - 1)];
      setTimeout(() => this.begin(), pause);
    };
    const heard = ({ data }: MessageEvent): void => {
      if (data !== READY) return;
      worker.removeEventListener('message', heard);
      worker.removeEventListener('error', failed);
      this.ready = true;
      for (const [type, listener] of this.listeners) worker.addEventListener(type, listener);
      for (const { message, transfer } of this.posted.splice(0)) worker.postMessage(message, transfer);
    };
    worker.addEventListener('message', heard);
    worker.addEventListener('error', failed);
  }
}
