import { describe, expect, it } from '@jest/globals';
import { audit, canonicalJson, readProject } from '../src/index.js';
import { Naive } from './naive.js';
import { NaiveRules } from './naive-rules.js';
import { randomProject } from './random-project.js';

describe('rules on random projects', () => {
  it('find what a second, plain reading of them finds: the same subjects at the same places', () => {
    const fired = new Set<string>();
    for (let seed = 0; seed < 700; seed++) {
      const project = randomProject(seed);
      const { findings } = audit(readProject(project).project, { today: '2026-11-24' });
      const found = findings
        .filter((f) => NaiveRules.RULES.includes(f.rule))
        .map((f) => `${f.rule}/${f.class ?? ''} ${canonicalJson(f.subject)} ${f.occurrences.join(' ')}`);
      for (const f of findings) fired.add(f.rule);
      expect({ seed, found: found.sort() }).toEqual({
        seed,
        found: new NaiveRules(new Naive(project)).run(),
      });
    }
    // All had something to find.
    expect(NaiveRules.RULES.filter((rule) => !fired.has(rule))).toEqual([]);
  });
});
