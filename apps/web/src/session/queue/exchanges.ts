import type { Clock } from './ports.js';
import { refusalOf } from './refusal.js';

/** Pauses before something is sent again; they grow to the last one. */
const PAUSES_MS = [500, 1000, 2000, 4000, 8000, 15_000, 30_000];

/** Whoever has something to exchange with a server. */
export interface Exchanging {
  isBehind(): boolean;
  /** One exchange. @throws whatever means that the same is to be tried again */
  once(): Promise<void>;
  changed(): void;
}

/** Does one exchange after the other as long as there is something to do; after one that failed it waits, each time longer. */
export class Exchanges {
  isClosed = false;
  /** Why the server cannot be asked now; null if it can. */
  trouble: string | null = null;
  private running = false;
  private resume: (() => void) | null = null;
  private pauses = 0;

  constructor(
    private readonly of: Exchanging,
    private readonly clock: Clock,
  ) {}

  async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (!this.isClosed && !this.resume && this.of.isBehind()) {
        try {
          await this.of.once();
          this.pauses = 0;
          this.trouble = null;
        } catch (error) {
          this.wait(refusalOf(error).words);
        }
        if (!this.isClosed) this.of.changed();
      }
    } finally {
      this.running = false;
    }
  }
  /** What waits need not wait for its turn. */
  hurry(): void {
    this.resume?.();
  }
  close(): void {
    this.isClosed = true;
    this.resume?.();
  }
  private wait(words: string): void {
    this.trouble = words;
    const pause = PAUSES_MS[Math.min(this.pauses++, PAUSES_MS.length - 1)];
    const cancel = this.clock.later(pause, () => this.resume?.());
    this.resume = () => {
      cancel();
      this.resume = null;
      void this.run();
    };
  }
}
