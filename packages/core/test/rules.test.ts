import { describe, expect, it } from '@jest/globals';
import { ALL_RULES, audit, canonicalJson, readProject, type Finding } from '../src/index.js';
import { ROWS as CORRECTNESS } from './rules/correctness.js';
import { ROWS as DELIVERY_AND_WAIVERS } from './rules/delivery-and-waivers.js';
import { ROWS as LISTENERS_AND_SHAPE } from './rules/listeners-and-shape.js';
import { ROWS as TARGETS } from './rules/targets.js';
import { wire, event, scene, project, two, type Json, type Row } from './rules/write.js';

const TABLE: Row[] = [...TARGETS, ...LISTENERS_AND_SHAPE, ...CORRECTNESS, ...DELIVERY_AND_WAIVERS];

describe('rules', () => {
  it.each(TABLE)('%s: %s', (rule, _shows, document, expected) => {
    const { findings } = audit(readProject(document).project, { today: '2026-11-24' });
    const found = findings.filter((f) => f.rule === rule);
    // Strictly: a list of nothing would equal a list of undefined classes.
    expect(found.map((f) => f.class)).toStrictEqual(expected.map(([cls]) => cls));
    found.forEach((f, i) => expect(f.subject).toMatchObject(expected[i][1]));
  });

  it('the table knows only rules that there are, and shows no row twice', () => {
    const names = new Set(ALL_RULES.map((r) => r.meta.name));
    expect(TABLE.filter(([rule]) => !names.has(rule))).toEqual([]);
    expect(new Set(TABLE.map(([rule, shows]) => `${rule}: ${shows}`)).size).toBe(TABLE.length);
    const judged = new Set(TABLE.map(([rule]) => rule));
    expect([...names].filter((name) => !judged.has(name))).toEqual([]);
  });
  it('every rule says what it finds, why that matters and how it is fixed, and fills its messages', () => {
    for (const { meta, messages } of ALL_RULES) {
      for (const text of [meta.what, meta.why, meta.fix, ...Object.values(messages)]) {
        expect(text).toMatch(/^\S.*\S$/s);
      }
      expect(meta.what.endsWith('.') && meta.why.endsWith('.') && meta.fix.endsWith('.')).toBe(true);
    }
  });
});

describe('a waiver', () => {
  const dangling = two([wire('mast.onGust', 'lost.x')]);
  const of = (waiver: Json): Finding[] =>
    audit(readProject({ ...dangling, waivers: [waiver] }).project, { today: '2026-11-24' }).findings;
  const [{ fingerprint }] = audit(readProject(dangling).project, { today: '2026-11-24' }).findings;
  const base = { fingerprint, reason: 'r', by: 'b' };
  const cases: [string, Json, boolean, string[]][] = [
    ['covers its finding', base, true, []],
    ['covers the places that it lists', { ...base, occurrences: ['ridge:.'] }, true, []],
    ['does not cover a place that it does not list', { ...base, occurrences: ['hut:.'] }, false, []],
    ['that has ended covers nothing', { ...base, until: '2026-11-23' }, false, ['stale-waiver']],
    ['of what is gone is idle', { ...base, fingerprint: 'ffff' }, false, ['idle-waiver']],
    [
      'of what is gone and past its end is stale alone',
      { ...base, fingerprint: 'ffff', until: '2026-01-01' },
      false,
      ['stale-waiver'],
    ],
  ];
  it.each(cases)('%s', (_name, waiver, waived, others) => {
    const found = of(waiver);
    expect(found.find((f) => f.fingerprint === fingerprint)!.waived === true).toBe(waived);
    expect(found.map((f) => f.rule).filter((r) => r.endsWith('waiver'))).toEqual(others);
  });
  it('for a rule that the policy has switched off is not idle', () => {
    const off = { ...dangling, policy: { severity: { 'dangling-target': 'off' } }, waivers: [base] };
    const { findings, summary } = audit(readProject(off).project, { today: '2026-11-24' });
    expect(findings.filter((f) => /waiver|dangling/.test(f.rule))).toEqual([]);
    expect(summary.waived).toBe(0);
  });
});

describe('a naming pattern', () => {
  it('that would backtrack for ever does not hold the audit up', () => {
    const name = 'a'.repeat(60);
    const evil = project([scene({ events: [event(`${name}_`)] })], {
      policy: { names: { event: '^(a+)+$' } },
    });
    const { findings } = audit(readProject(evil).project, { today: '2026-11-24' });
    expect(findings.map((f) => canonicalJson(f.subject))).toContain(
      canonicalJson({ asset: 'ridge', event: `${name}_` }),
    );
  });
  it.each(['(?=a)', '(a)\\1', '('])('that cannot be searched in linear time is refused: %s', (pattern) => {
    expect(() => readProject(project([], { policy: { names: { event: pattern } } }))).toThrow(
      /regular expression/,
    );
  });
});
