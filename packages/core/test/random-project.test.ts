import { expect, it } from '@jest/globals';
import { audit, RULES } from '../src/index.js';
import { randomProject } from './random-project.js';

it('random projects reach every rule', () => {
  const missing = new Set(RULES.map(({ meta }) => meta.name));
  for (let seed = 0; seed < 400; seed++) {
    for (const { rule } of audit(randomProject(seed), { today: '2026-11-24' }).findings) missing.delete(rule);
  }
  expect([...missing]).toEqual([]);
});
