import { describe, expect, it } from '@jest/globals';
import {
  againstBaseline,
  audit,
  BrokenBaseline,
  BrokenDocument,
  fromFolder,
  readBaseline,
  toFolder,
  type AuditResult,
} from '../src/index.js';
import { randomProject } from './random-project.js';
import { demo, TODAY, caseProjects } from './export-projects.js';

describe('the folder form', () => {
  it('gives back the same project, and the same bytes when written again', () => {
    const odd = {
      ...demo,
      assets: [...demo.assets, { id: 'cabin', kind: 'prefab' as const }],
      extra: { kept: true },
    };
    for (const project of [odd, ...caseProjects, ...Array.from({ length: 40 }, (_, i) => randomProject(i))]) {
      const files = toFolder(project);
      expect(new Set([...files.keys()].map((k) => k.toLowerCase())).size).toBe(files.size);
      const { project: back } = fromFolder((path) => files.get(path) ?? null);
      expect(JSON.stringify(back)).toBe(JSON.stringify(project));
      expect([...toFolder(back)]).toEqual([...files]);
    }
  });

  const broken: [string, Record<string, string | null>, string, RegExp][] = [
    ['no project file', { 'project.json': null }, 'project.json', /the file/],
    ['a file that is gone', { 'prefabs/Cabin.json': null }, 'prefabs/Cabin.json', /the file/],
    ['torn JSON', { 'prefabs/Cabin.json': '{"id": ' }, 'prefabs/Cabin.json', /JSON/],
    [
      'a broken asset',
      { 'prefabs/Cabin.json': '{"id": "Cabin", "kind": "hut"}' },
      'prefabs/Cabin.json/kind',
      /"scene"/,
    ],
    [
      'a way out of the folder',
      { 'project.json': '{"assets": ["../x.json"]}' },
      'project.json/assets/0',
      /a file such as/,
    ],
    ['no list', { 'project.json': '{}' }, 'project.json/assets', /a list of files/],
  ];
  it.each(broken)('says in which file it is broken: %s', (_name, changed, pointer, expected) => {
    const files = toFolder(demo);
    const read = (): unknown => fromFolder((p) => (p in changed ? changed[p] : (files.get(p) ?? null)));
    let problems: BrokenDocument['problems'] = [];
    try {
      read();
    } catch (error) {
      if (error instanceof BrokenDocument) problems = error.problems;
    }
    expect(problems[0].pointer).toBe(pointer);
    expect(problems[0].expected).toMatch(expected);
  });
});

describe('a baseline', () => {
  const now = audit(demo, { today: TODAY });
  it('lets pass what was there, and stops at a new finding or a new place of an old one', () => {
    expect(againstBaseline(now, now, 'error').result.gate).toBe('pass');
    expect(againstBaseline(now, { ...now, findings: now.findings.slice(1) }, 'error').result.gate).toBe(
      'stop',
    );
    const fewer: AuditResult = {
      ...now,
      findings: now.findings.map((f) => ({ ...f, occurrences: f.occurrences.slice(1) })),
    };
    expect(againstBaseline(now, fewer, 'error').since.added.length).toBeGreaterThan(0);
    expect(againstBaseline(now, fewer, 'error').result.gate).toBe('stop');
    expect(againstBaseline(now, fewer, 'none').result.gate).toBe('pass');
    expect(againstBaseline({ ...now, findings: [] }, now, 'error').since.gone).toHaveLength(
      now.findings.length,
    );
  });
  it.each(['{', '{}', '{"format": "oquel.audit/1"}', '{"format": "oquel.audit/1", "findings": [{}]}'])(
    'is refused when it is none: %s',
    (text) => expect(() => readBaseline(text)).toThrow(BrokenBaseline),
  );
});
