import { sleep } from './run.mjs';
import { say } from './say.mjs';

const MOST = 5;
const FIRST_MS = 500;
/** What has run for so long begins anew with short pauses. */
const STEADY_MS = 60_000;

/** Counts how often something had to be started again, and waits longer each time; gives up after some times. */
export class Restarts {
  constructor(what) {
    this.what = what;
    this.count = 0;
    this.since = Date.now();
  }
  /** Waits for the next try; false where there were too many. */
  async next(why) {
    if (Date.now() - this.since > STEADY_MS) this.count = 0;
    if (this.count >= MOST) return false;
    const pause = FIRST_MS * 2 ** this.count++;
    say(
      `${this.what} ended by itself (${why}); it is started again in ${pause / 1000} s (${this.count} of ${MOST}).`,
    );
    await sleep(pause);
    this.since = Date.now();
    return true;
  }
}
