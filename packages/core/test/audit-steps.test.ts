import { describe, expect, it } from '@jest/globals';
import { asPart, audit, auditSteps, finish, IncrementalAudit, type WorkStep } from '../src/index.js';
import { randomProject } from './random-project.js';
import { seeds } from './random.js';

const TODAY = '2026-11-28';

function stepsOf<T>(work: Generator<WorkStep, T>): { steps: WorkStep[]; result: T } {
  const steps: WorkStep[] = [];
  for (;;) {
    const next = work.next();
    if (next.done) return { steps, result: next.value };
    steps.push(next.value);
  }
}

describe('an audit in steps', () => {
  it('comes to what it comes to at once, and its steps never go back', () => {
    for (let seed = 0; seed < seeds(6); seed++) {
      const project = randomProject(seed);
      const { steps, result } = stepsOf(auditSteps(project, { today: TODAY }));
      expect(result).toEqual(audit(project, { today: TODAY }));
      expect(steps[0]).toMatchObject({ doing: 'expanding placements', done: 0 });
      expect(steps.map((s) => s.done)).toEqual(steps.map((s) => s.done).sort((a, b) => a - b));
      expect(new Set(steps.map((s) => s.of)).size).toBe(1);
      expect(steps.at(-1)!.done).toBe(steps[0].of);
    }
  });
  it('opens a live audit as one at once does', () => {
    const project = randomProject(3);
    const { result, steps } = stepsOf(IncrementalAudit.opening(project, TODAY));
    expect(result.result).toEqual(IncrementalAudit.open(project, TODAY).result);
    expect(steps.length).toBeGreaterThan(10);
  });
});

describe('work that is part of larger work', () => {
  function* halves(): Generator<WorkStep, string> {
    yield { doing: 'first', done: 0, of: 2 };
    yield { doing: 'second', done: 1, of: 2 };
    return 'done';
  }
  it('takes its share of the larger one', () => {
    const { steps, result } = stepsOf(asPart(halves(), { done: 1, share: 3, of: 4 }));
    expect(steps).toEqual([
      { doing: 'first', done: 1, of: 4 },
      { doing: 'second', done: 2.5, of: 4 },
    ]);
    expect(result).toBe('done');
    expect(finish(halves())).toBe('done');
  });
});
