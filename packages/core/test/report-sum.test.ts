import { describe, expect, it } from '@jest/globals';
import {
  compileWiring,
  expand,
  indexProject,
  PlayObserver,
  rehearse,
  ReportSum,
  traceText,
  type CompiledWiring,
  type PlayReport,
} from '../src/index.js';
import { projectOf } from './naive-rehearsal/project-of.js';
import { randomScript } from './naive-rehearsal/script.js';
import { Random, seeds } from './random.js';

type Session = readonly [name: string, lines: readonly string[]];
function observed(compiled: CompiledWiring, sessions: readonly Session[]): PlayReport {
  const observer = new PlayObserver(compiled);
  for (const [name, lines] of sessions) lines.forEach((line, i) => observer.take(line, name, i + 1));
  observer.end();
  return observer.report();
}
/** What a game wrote, with lines lost, doubled and broken on the way. */
function damaged(r: Random, lines: readonly string[]): string[] {
  return lines.flatMap((line) => {
    if (r.chance(0.1)) return [];
    if (r.chance(0.1)) return [line, line];
    return r.chance(0.05) ? ['{'] : [line];
  });
}
/**
 * Lists in an order of their own: what is seen equally often may stand either way. What is only reported when a session ends
 * is reported by another one first.
 */
function sorted({ seconds: _, ...report }: PlayReport): object {
  return JSON.parse(JSON.stringify(report), (key, value: unknown) =>
    key === 'first'
      ? undefined
      : Array.isArray(value) && typeof value[0] === 'object'
        ? [...(value as object[])].map((v) => JSON.stringify(v)).sort()
        : value,
  ) as object;
}

describe('reports taken together', () => {
  it.each(Array.from({ length: seeds(6) }, (_, i) => i))(
    'say what one report of all sessions says, however they are divided: batch %i',
    (batch) => {
      let wrong = 0;
      for (let seed = batch * 40; seed < batch * 40 + 40; seed++) {
        const project = projectOf(seed);
        const x = expand(indexProject(project));
        if (x.count > 400) continue;
        const r = new Random(seed);
        const sessions = ['a', 'b', 'c', 'd'].map((name): Session => {
          const rehearsal = randomScript(new Random(seed * 10 + name.charCodeAt(0)), project);
          delete rehearsal.loadSet;
          const lines: string[] = [];
          rehearse(x, [rehearsal], (l) => 'n' in l && lines.push(traceText(l)));
          return [name, damaged(r, lines)];
        });
        const compiled = compileWiring(x);
        const whole = observed(compiled, sessions);
        const sum = new ReportSum();
        const first = 1 + r.int(3);
        for (const part of [sessions.slice(0, first), sessions.slice(first)])
          expect(sum.add(observed(compiled, part))).toBe(true);
        expect({ seed, ...sorted(sum.report()!) }).toEqual({ seed, ...sorted(whole) });
        wrong += whole.missing.length + whole.doubled.length + whole.broken.count;
      }
      expect(wrong).toBeGreaterThan(10);
    },
  );

  it('are of one wiring only, and change none of the reports', () => {
    const compiled = compileWiring(expand(indexProject(projectOf(3))));
    const other = compileWiring(expand(indexProject({ ...projectOf(3), name: 'Another' })));
    const report = observed(compiled, [['a', ['{"kind":"raise","at":"nowhere:x","event":"onA"}']]]);
    const before = JSON.stringify(report);
    const sum = new ReportSum();
    expect(sum.report()).toBeNull();
    expect(sum.add(report)).toBe(true);
    expect(sum.add(observed(other, [['b', []]]))).toBe(false);
    expect(sum.add(report)).toBe(true);
    expect(sum.report()).toMatchObject({ records: 2, sessions: 2, unknown: [{ count: 2, sessions: 2 }] });
    expect(sum.count).toBe(2);
    expect(JSON.stringify(report)).toBe(before);
  });
});
