import { describe, expect, it } from '@jest/globals';
import { audit, canonicalJson, readProject } from '../src/index.js';
import { Naive } from './naive.js';
import { readAgain, SECOND_RULES } from './naive-rules/index.js';
import { seeds } from './random.js';
import { randomProject } from './random-project.js';

describe('rules on random projects', () => {
  it('find what a second, plain reading of them finds: the same subjects at the same places', () => {
    const fired = new Set<string>();
    for (let seed = 0; seed < seeds(600); seed++) {
      const project = randomProject(seed);
      const { findings } = audit(readProject(project).project, { today: '2026-11-24' });
      const found = findings
        .filter((f) => SECOND_RULES.includes(f.rule))
        .map((f) => `${f.rule}/${f.class ?? ''} ${canonicalJson(f.subject)} ${f.occurrences.join(' ')}`);
      for (const f of findings) fired.add(f.rule);
      expect({ seed, found: found.sort() }).toEqual({
        seed,
        found: readAgain(new Naive(project)),
      });
    }
    // All had something to find.
    expect(SECOND_RULES.filter((rule) => !fired.has(rule))).toEqual([]);
  });
});
