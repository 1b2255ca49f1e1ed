import { describe, expect, it } from '@jest/globals';
import { audit, canonicalJson, readProject } from '../src/index.js';
import { Naive } from './naive.js';
import { NaiveTextRules } from './naive-text-rules.js';
import { randomProject } from './random-project.js';

describe('rules on what is written, on random projects', () => {
  it('find what a second, plain reading finds: the same subjects at the same places', () => {
    const fired = new Map<string, number>();
    for (let seed = 0; seed < 500; seed++) {
      const project = randomProject(seed);
      const found = audit(readProject(project).project, { today: '2026-11-25' })
        .findings.filter((f) => NaiveTextRules.RULES.includes(f.rule))
        .map((f) => {
          fired.set(f.rule, (fired.get(f.rule) ?? 0) + 1);
          return `${f.rule}/${f.class ?? ''} ${canonicalJson(f.subject)} ${f.occurrences.join(' ')}`;
        });
      const expected = new NaiveTextRules(project, new Naive(project)).run();
      expect({ seed, found: found.sort() }).toEqual({ seed, found: expected });
    }
    for (const rule of NaiveTextRules.RULES) expect(fired.get(rule)).toBeGreaterThan(30);
  });
});
