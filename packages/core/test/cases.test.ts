import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { ALL_RULES, audit, canonicalJson, readProject, type Finding } from '../src/index.js';

interface Case {
  about: string;
  only: string[];
  expect: Partial<Finding>[];
  today?: string;
  gate?: string;
  summary?: Record<string, number>;
  metrics?: Record<string, number>;
  project: unknown;
}
const folder = new URL('./cases/', import.meta.url);
const known = new Set(ALL_RULES.map((r) => r.meta.name));

/** A case holds if the findings of its rules are exactly those expected: nothing missing, nothing more. */
describe('cases', () => {
  for (const file of readdirSync(folder).sort()) {
    const c = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case;
    it(`${file}: ${c.about.slice(0, 80)}`, () => {
      expect(c.only.filter((rule) => !known.has(rule))).toEqual([]);
      const result = audit(readProject(c.project).project, { today: c.today ?? '2026-11-24' });
      const judged = result.findings.filter((f) => c.only.includes(f.rule));
      const withWaived = c.expect.some((e) => 'waived' in e);
      expect(judged.map((f) => line(f, withWaived)).sort()).toEqual(
        c.expect.map((f) => line(f, withWaived)).sort(),
      );
      if (c.gate) expect(result.gate).toBe(c.gate);
      if (c.summary) expect(result.summary).toMatchObject(c.summary);
      if (c.metrics) expect(result.metrics).toMatchObject(c.metrics);
    });
  }
});

function line(f: Partial<Finding>, withWaived: boolean): string {
  const { rule, class: cls, severity, subject, occurrences, waived } = f;
  return canonicalJson({
    rule,
    class: cls,
    severity,
    subject,
    occurrences,
    ...(withWaived ? { waived: waived ?? false } : {}),
  });
}
