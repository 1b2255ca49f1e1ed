import { describe, expect, it } from '@jest/globals';
import type { WorkStep } from '@oquel/core';
import { Cancelled, inSlices } from '../src/workers/in-slices.js';

/** Work of many steps, each of which takes a few milliseconds. */
function* slow(steps: number, log: number[]): Generator<WorkStep, string> {
  for (let i = 0; i < steps; i++) {
    yield { doing: 'counting', done: i, of: steps };
    log.push(i);
    const end = performance.now() + 4;
    while (performance.now() < end);
  }
  return 'counted';
}

describe('long work in slices', () => {
  it('reports from the first step on, and comes to its end', async () => {
    const [log, heard]: [number[], WorkStep[]] = [[], []];
    const report = (step: WorkStep): boolean => heard.push(step) > 0;
    await expect(inSlices(slow(100, log), report)).resolves.toBe('counted');
    expect(log).toHaveLength(100);
    expect(heard[0]).toEqual({ doing: 'counting', done: 0, of: 100 });
    // Not every step is worth a message.
    expect(heard.length).toBeGreaterThan(1);
    expect(heard.length).toBeLessThan(50);
  });
  it('ends when nobody waits for it any more, however the answer comes', async () => {
    for (const answer of [false, Promise.resolve(false)]) {
      const log: number[] = [];
      await expect(inSlices(slow(1000, log), () => answer)).rejects.toThrow(Cancelled);
      expect(log.length).toBeLessThan(1000);
    }
  });
  it('lets others be answered meanwhile', async () => {
    const log: number[] = [];
    let answered = -1;
    const work = inSlices(slow(100, log), () => true);
    setTimeout(() => (answered = log.length));
    await work;
    expect(answered).toBeGreaterThanOrEqual(0);
    expect(answered).toBeLessThan(100);
  });
});
