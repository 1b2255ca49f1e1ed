import {
  compareRuns,
  runRehearsals,
  type Expansion,
  type Rehearsal,
  type RehearsalsResult,
  type TraceRecord,
} from '@oquel/core';
import type { Rehearsed } from './auditor-answers.js';

/** Records that a run is looked at by; a loop that never rests makes millions. */
const MOST_RECORDS = 60_000;
/** Milliseconds that a run goes on before other questions are answered. */
const SLICE_MS = 24;

/** Runs rehearsals in slices, so that other questions are answered meanwhile; a run overtakes the one before. */
export class RehearsalRuns {
  private run = 0;
  private readonly lastRuns = new Map<string, TraceRecord[]>();
  /** Ends whatever rehearsal is running: its answer is null. */
  stop(): void {
    this.run++;
  }
  /** Runs one rehearsal to be looked at; null if it was stopped, or overtaken by another run. */
  async look(x: Expansion, rehearsal: Rehearsal): Promise<Rehearsed | null> {
    const records: TraceRecord[] = [];
    let [scenes, left]: [string[], number] = [[], 0];
    const result = await this.slices(x, [rehearsal], (line) => {
      if (line.kind === 'rehearsal') scenes = line.scenes;
      else if ('n' in line) {
        if (records.length < MOST_RECORDS || line.kind === 'runaway') records.push(line);
        else left++;
      }
    });
    if (!result) return null;
    const before = this.lastRuns.get(rehearsal.name);
    const difference = before ? compareRuns(before, records) : null;
    this.lastRuns.set(rehearsal.name, records);
    return { verdict: result.verdicts[0], scenes, records, left, difference };
  }
  /** Runs some of them, and answers what is asked meanwhile; null if it was stopped, or overtaken. */
  async slices(
    x: Expansion,
    rehearsals: readonly Rehearsal[],
    take: Parameters<typeof runRehearsals>[2],
  ): Promise<RehearsalsResult | null> {
    const mine = ++this.run;
    const run = runRehearsals(x, rehearsals, take, take !== null);
    let begun = performance.now();
    for (;;) {
      const step = run.next();
      if (step.done) return step.value;
      if (performance.now() - begun < SLICE_MS) continue;
      // What was asked meanwhile is answered first.
      await new Promise((resolve) => setTimeout(resolve));
      if (mine !== this.run) return null;
      begun = performance.now();
    }
  }
}
