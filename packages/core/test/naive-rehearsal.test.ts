import { describe, expect, it } from '@jest/globals';
import {
  expand,
  indexProject,
  rehearse,
  traceText,
  type Project,
  type Rehearsal,
  type TraceLine,
} from '../src/index.js';
import { projectOf } from './naive-rehearsal/project-of.js';
import { NaiveRehearsal } from './naive-rehearsal/run.js';
import { randomScript } from './naive-rehearsal/script.js';
import { Random } from './random.js';

function lines(project: Project, rehearsal: Rehearsal): TraceLine[] {
  const out: TraceLine[] = [];
  rehearse(expand(indexProject(project)), [rehearsal], (line) =>
    out.push(JSON.parse(traceText(line)) as TraceLine),
  );
  return out;
}

describe('a second, plain reading of the rules of rehearsal', () => {
  it.each(Array.from({ length: 80 }, (_, i) => i))('gives the same traces, batch %i', (batch) => {
    let compared = 0;
    for (let seed = batch * 25; seed < batch * 25 + 25; seed++) {
      const project = projectOf(seed);
      if (expand(indexProject(project)).count > 400) continue;
      const rehearsal = randomScript(new Random(seed + 7_000_000), project);
      const ours = lines(project, rehearsal);
      // The naive one is too slow for runs that go on for ever.
      if (ours.length > 3500) continue;
      const naive = new NaiveRehearsal(project, rehearsal).run();
      const [, ...rest] = ours;
      expect({ seed, lines: rest.slice(0, -1) }).toEqual({ seed, lines: naive });
      compared++;
    }
    expect(compared).toBeGreaterThan(15);
  });

  it('the random scripts reach every kind of record, and every reason but those of cases of their own', () => {
    const seen = new Set<string>();
    for (let seed = 0; seed < 1500; seed++) {
      const project = projectOf(seed);
      if (expand(indexProject(project)).count > 400) continue;
      for (const line of lines(project, randomScript(new Random(seed + 7_000_000), project))) {
        seen.add('reason' in line && line.reason ? `${line.kind} ${line.reason}` : line.kind);
      }
    }
    expect(EVERY.filter((kind) => !seen.has(kind))).toEqual([]);
  });
});

const EVERY = [
  'born',
  'change',
  'expect',
  'expect dangling',
  'expect gone',
  'expect unloaded',
  'gone',
  'lost asleep',
  'lost dangling',
  'lost gone',
  'lost misfit',
  'lost paused',
  'lost unloaded',
  'pause',
  'performed',
  'publication',
  'raise',
  'refused asleep',
  'refused barred',
  'refused dangling',
  'refused filtered',
  'refused gone',
  'refused limit',
  'refused paused',
  'refused unloaded',
  'stopped empty',
  'stopped limit',
  'stopped not-bound',
  'stopped released',
  'cut',
  'wake',
];
