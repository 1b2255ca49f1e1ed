import type { Readable } from 'node:stream';
import { Worker } from 'node:worker_threads';
import type { PlayReport } from '@oquel/core';
import { badRequest, ProblemError, tooLarge } from '../http/problem.js';
import { LIMITS } from '../limits.js';

export interface JudgeAsk {
  session: string;
  loadSet?: string;
  tolerance?: number;
  wiring?: string;
}
export type ToJudge = { piece: Uint8Array } | { end: true };
export type FromJudge = { taken: true; lines?: string[] } | { report: PlayReport } | { refused: string };

/**
 * Judges a sending in a thread of its own while it comes in; no more of it is read than the thread deals with.
 * @throws ProblemError 400, 413, 503
 */
export async function judge(
  document: Uint8Array,
  ask: JudgeAsk,
  body: Readable,
  watch: (lines: string[]) => void = () => undefined,
): Promise<PlayReport> {
  const worker = new Worker(new URL('./judge.worker.js', import.meta.url), {
    workerData: { document, ask },
    resourceLimits: { maxOldGenerationSizeMb: LIMITS.heavy.memory },
  });
  const timer = setTimeout(() => body.destroy(tooSlow()), LIMITS.plays.time);
  try {
    const answers = new Answers(worker, watch);
    await answers.taken();
    let [bytes, ahead] = [0, 0];
    for await (const piece of body) {
      bytes += (piece as Buffer).byteLength;
      if (bytes > LIMITS.plays.body) throw tooLarge(LIMITS.plays.body);
      // What a request gives is part of a larger buffer; the thread gets a copy.
      worker.postMessage({ piece: Uint8Array.from(piece as Buffer) } satisfies ToJudge);
      if (++ahead > LIMITS.plays.ahead) {
        await answers.taken();
        ahead--;
      }
    }
    worker.postMessage({ end: true } satisfies ToJudge);
    return await answers.report();
  } catch (error) {
    const { code } = error as { code?: string };
    throw code?.startsWith('Z_') ? badRequest('the body is not gzip, though it says so') : error;
  } finally {
    clearTimeout(timer);
    void worker.terminate();
  }
}

/** What the thread has answered, in order. */
class Answers {
  private readonly come: FromJudge[] = [];
  private wake: (() => void) | null = null;
  private failure: Error | null = null;

  constructor(worker: Worker, watch: (lines: string[]) => void) {
    worker.on('message', (answer: FromJudge) => {
      if ('taken' in answer && answer.lines && answer.lines.length > 0) watch(answer.lines);
      this.come.push(answer);
      this.wake?.();
    });
    worker.on('error', (error) => this.fail(error));
    worker.on('exit', () => this.fail(new Error('the thread that judges plays has ended')));
  }
  async taken(): Promise<void> {
    await this.next();
  }
  async report(): Promise<PlayReport> {
    for (;;) {
      const answer = await this.next();
      if ('report' in answer) return answer.report;
    }
  }
  private async next(): Promise<FromJudge> {
    while (this.come.length === 0) {
      if (this.failure) throw this.failure;
      await new Promise<void>((resolve) => (this.wake = resolve));
    }
    const answer = this.come.shift()!;
    if ('refused' in answer) throw badRequest(answer.refused);
    return answer;
  }
  private fail(error: Error): void {
    this.failure ??=
      (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooLarge(LIMITS.plays.body) : error;
    this.wake?.();
  }
}
function tooSlow(): ProblemError {
  const detail = `a sending may take ${LIMITS.plays.time / 60_000} minutes; send it in parts`;
  return new ProblemError(503, 'too-slow', 'It took too long', detail);
}
