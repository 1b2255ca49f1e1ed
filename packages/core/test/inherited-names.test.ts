import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  canonicalJson,
  expand,
  indexProject,
  IncrementalAudit,
  readProjectText,
  rehearse,
  type Finding,
  type Project,
} from '../src/index.js';
import { put } from '../src/util/own.js';
import { randomScript } from './naive-rehearsal/script.js';
import { Random } from './random.js';
import { randomChange } from './random-change.js';
import { randomProject } from './random-project.js';

/** The names of random projects, and names that every object inherits, or that mean something to it. */
const PLAIN = [
  'line',
  'open',
  'n',
  'onA',
  'onB',
  'onC',
  'doA',
  'doB',
  'doC',
  'tension',
  'weather',
  'lost',
  'P0',
];
const ODD = Object.getOwnPropertyNames(Object.prototype).concat('prototype', 'length').slice(0, 14);
/** Each odd name stands for another plain one with each turn. */
function namesOf(turn: number): { odd: Record<string, string>; back: Record<string, string> } {
  const pairs = PLAIN.map((plain, i) => [plain, ODD[(i + turn) % ODD.length]] as const);
  return { odd: Object.fromEntries(pairs), back: Object.fromEntries(pairs.map(([a, b]) => [b, a])) };
}

/** Every name in a value under another one, as keys too. */
function renamed(value: unknown, names: Record<string, string>): unknown {
  if (typeof value === 'string') {
    return value.replace(/[A-Za-z_][A-Za-z0-9_]*/g, (word) =>
      Object.hasOwn(names, word) ? names[word] : word,
    );
  }
  if (Array.isArray(value)) return value.map((v) => renamed(v, names));
  if (typeof value !== 'object' || value === null) return value;
  const out: Record<string, unknown> = {};
  for (const [key, v] of Object.entries(value)) put(out, renamed(key, names) as string, renamed(v, names));
  return out;
}
/** As it is read from its text, which is how such names come in. */
function odd(project: Project, turn: number): Project {
  const named = renamed(project, namesOf(turn).odd) as Project;
  for (const asset of named.assets) asset.kind = project.assets[named.assets.indexOf(asset)].kind;
  return readProjectText(JSON.stringify(named)).project;
}
const judged = (findings: readonly Finding[], back: Record<string, string>): string[] =>
  findings
    .map(({ rule, class: cls, severity, subject, occurrences }) =>
      canonicalJson([
        rule,
        cls ?? null,
        severity,
        sortedLists(renamed(subject, back)),
        (renamed(occurrences, back) as string[]).sort(),
      ]),
    )
    .sort();
/** Lists that are sorted by names are so by other names now. */
function sortedLists(value: unknown): unknown {
  if (Array.isArray(value))
    return value.map(sortedLists).sort((a, b) => (canonicalJson(a) < canonicalJson(b) ? -1 : 1));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, sortedLists(v)]));
}

describe('names that every object inherits', () => {
  it('are audited like any others', () => {
    for (let seed = 0; seed < 250; seed++) {
      const plain = randomProject(seed);
      const today = '2026-11-28';
      const severity = { 'name-style': 'off' } as const;
      const policy = { ...plain.policy, severity };
      const [a, b] = [plain, odd(plain, seed)].map((p) => audit({ ...p, policy }, { today }));
      const found = judged(b.findings, namesOf(seed).back);
      expect({ seed, findings: found }).toEqual({ seed, findings: judged(a.findings, {}) });
      expect({ seed, ...b.metrics }).toEqual({ seed, ...a.metrics });
    }
  });
  it('are rehearsed like any others', () => {
    for (let seed = 0; seed < 120; seed++) {
      const plain = randomProject(seed);
      const script = randomScript(new Random(seed), plain);
      const { odd: names, back } = namesOf(seed);
      const run = (project: Project, rehearsal: typeof script, by: typeof back): string[] => {
        const lines: string[] = [];
        rehearse(expand(indexProject(project)), [rehearsal], (line) => {
          if (lines.length < 3000) lines.push(canonicalJson(renamed(line, by)));
        });
        return lines;
      };
      const theirs = run(odd(plain, seed), renamed(script, names) as typeof script, back);
      expect({ seed, lines: theirs }).toEqual({ seed, lines: run(plain, script, {}) });
    }
  });
  it('are edited and audited again like any others', () => {
    for (let seed = 0; seed < 40; seed++) {
      const r = new Random(seed);
      let project = odd(randomProject(seed), seed);
      const live = IncrementalAudit.open(project, '2026-11-28');
      for (let i = 0; i < 6; i++) {
        const change = JSON.parse(JSON.stringify(randomChange(r, project))) as ReturnType<
          typeof randomChange
        >;
        project = applyChanges(project, [change]).project;
        expect({ seed, i, findings: live.apply([change]).findings }).toEqual({
          seed,
          i,
          findings: audit(project, { today: '2026-11-28' }).findings,
        });
      }
    }
  });
  it.each(ODD)('an argument %s that is not given has no value', (name) => {
    const set = { name: 'set', params: [{ name, type: 'int' as const, optional: true }] };
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Lock',
      assets: [
        {
          id: 'gate',
          kind: 'scene',
          properties: [{ name: 'level', type: 'int', default: 0 }],
          events: [{ name: 'onUse', cause: { type: 'use' } }],
          actions: [{ ...set, effects: [{ set: 'level', to: { param: name } }] }],
          bindings: [
            {
              id: 'a',
              from: { at: '.', event: 'onUse' },
              to: { at: '.', action: 'set' },
              args: JSON.parse(`{${JSON.stringify(name)}:1}`) as Record<string, number>,
            },
            { id: 'b', from: { at: '.', event: 'onUse' }, to: { at: '.', action: 'set' }, args: {} },
          ],
        },
      ],
    };
    const rules = audit(project, { today: '2026-11-28' }).findings.map((f) => f.rule);
    expect(rules).not.toContain('opposing-actions');
  });
});
