import { createHash } from 'node:crypto';
import { describe, expect, it } from '@jest/globals';
import { canonicalJson, canonicalParts, projectHash, type Project } from '../src/index.js';
import { randomProject } from './random-project.js';
import { Random, seeds } from './random.js';

/** The same by its definition: keys sorted, no blanks. */
function plainly(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(plainly).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const keys = Object.keys(value).sort();
  const record = value as Record<string, unknown>;
  const parts = keys
    .filter((k) => record[k] !== undefined)
    .map((k) => `${JSON.stringify(k)}:${plainly(record[k])}`);
  return `{${parts.join(',')}}`;
}
function randomValue(r: Random, depth: number): unknown {
  if (depth === 0 || r.chance(0.3)) {
    return r.pick<unknown>([0, -1.5, 1e21, 'a', 'ä\u2028"\\', '\ud800', true, null, [], {}]);
  }
  if (r.chance(0.4)) {
    // Long lists are cut.
    const length = r.chance(0.1) ? 400 + r.int(300) : r.int(5);
    return Array.from({ length }, () => randomValue(r, length > 10 ? Math.min(1, depth - 1) : depth - 1));
  }
  const out: Record<string, unknown> = {};
  for (let i = r.int(6); i > 0; i--) {
    const key = r.pick(['b', 'a', 'B', 'ä', '10', '9', 'constructor', 'toString', '']);
    out[key] = r.chance(0.1) ? undefined : randomValue(r, depth - 1);
  }
  if (r.chance(0.1)) {
    Object.defineProperty(out, '__proto__', {
      value: 1,
      enumerable: true,
      configurable: true,
      writable: true,
    });
  }
  return out;
}

describe('canonical JSON', () => {
  it.each(Array.from({ length: seeds(8) }, (_, i) => i))(
    'is the same whole, in parts and by its definition, batch %i',
    (batch) => {
      for (let seed = batch * 25; seed < batch * 25 + 25; seed++) {
        const value = randomValue(new Random(seed), 5);
        const whole = canonicalJson(value);
        expect(whole).toBe(plainly(value));
        expect([...canonicalParts(value)].join('')).toBe(whole);
        expect(canonicalJson(JSON.parse(whole))).toBe(whole);
      }
    },
  );

  it('leaves what it is given as it was', () => {
    const value = { b: [{ d: 1, c: 2 }], a: { f: 3, e: 4 } };
    const before = JSON.stringify(value);
    canonicalJson(value);
    expect(JSON.stringify(value)).toBe(before);
  });
});

describe('the hash of a project', () => {
  it('is the SHA-256 of its canonical JSON, whoever computes it', () => {
    for (let seed = 0; seed < 20; seed++) {
      const project = randomProject(seed);
      const expected = createHash('sha256').update(canonicalJson(project)).digest('hex');
      expect(projectHash(project)).toBe(expected);
    }
  });
  it('does not change from release to release: games and builds keep it', () => {
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Quay',
      assets: [{ id: 'quay', kind: 'scene' }],
    };
    expect(projectHash(project)).toBe('6307e21e0d5db4a1a080b42726d445266234cc7a12866d099437d059c83a66b6');
  });
});
