import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-cli-'));
});
const file = (name: string, content: unknown): string => written(folder, name, content);
const sound = { format: 'oquel.project/1', name: 'Hut', assets: [{ id: 'hut', kind: 'scene' }] };
const dangling = {
  ...sound,
  assets: [
    {
      id: 'hut',
      kind: 'scene',
      events: [{ name: 'onOpened', cause: { type: 'use' } }],
      bindings: [{ id: 'b', from: { at: '.', event: 'onOpened' }, to: { at: 'lamp', action: 'light' } }],
    },
  ],
};
const chained = { ...dangling, policy: { severity: { 'dangling-target': 'warning' } } };

describe('oquel audit', () => {
  const codes: [string, () => string[], number][] = [
    ['a sound project passes', () => [file('sound.json', sound)], 0],
    ['an error stops', () => [file('d.json', dangling)], 1],
    ['an error passes without a gate', () => [file('d.json', dangling), '--gate', 'none'], 0],
    ['a warning passes by default', () => [file('c.json', chained)], 0],
    ['a warning stops if asked', () => [file('c.json', chained), '--gate', 'warning'], 1],
    ['the demo is stopped', () => [DEMO], 1],
  ];
  it.each(codes)('%s', async (_name, args, code) => {
    expect((await oquel('audit', ...args())).code).toBe(code);
  });

  const wrong: [string, () => string[], RegExp][] = [
    ['no file', () => ['audit'], /missing required argument 'file'/],
    [
      'a file that is not there',
      () => ['audit', join(folder, 'gone.json')],
      /gone\.json cannot be read: it does not exist/,
    ],
    ['another folder', () => ['audit', folder], /folder without project\.json/],
    [
      'torn JSON',
      () => ['audit', file('torn.json', '{"format": ')],
      /torn\.json is not a valid project.*line 1/s,
    ],
    ['a broken document', () => ['audit', file('b.json', { ...sound, name: 3 })], /found 3 at \/name/],
    [
      'an unknown format',
      () => ['audit', DEMO, '--format', 'xml'],
      /Allowed choices are text, json, sarif, junit, csv/,
    ],
    [
      'a report of an unknown format',
      () => ['audit', DEMO, '--report', 'xml=a.xml'],
      /expected text, json, sarif/,
    ],
    ['a report without a file', () => ['audit', DEMO, '--report', 'sarif='], /then = and a file/],
    ['a report without a format', () => ['audit', DEMO, '--report', 'out.sarif'], /then = and a file/],
    [
      'a report where a file is a folder',
      () => ['audit', DEMO, '--report', `json=${folder}`],
      /cannot be written/,
    ],
    ['a day that is none', () => ['audit', DEMO, '--today', '2026-02-30'], /expected a day such as/],
    [
      'a baseline that is none',
      () => ['audit', DEMO, '--baseline', DEMO],
      /is no baseline: expected "oquel\.audit\/1"/,
    ],
    ['an unknown command', () => ['mend', DEMO], /unknown command 'mend'/],
  ];
  it.each(wrong)('ends with 2 and says why: %s', async (_name, args, message) => {
    const { code, err, out } = await oquel(...args());
    expect(code).toBe(2);
    expect(err).toMatch(message);
    expect(out).toBe('');
  });

  it('refuses a project that multiplies beyond all bounds, quickly and with the place', async () => {
    const levels = Array.from({ length: 12 }, (_, i) => ({
      id: `L${i}`,
      kind: i === 0 ? 'scene' : 'prefab',
      placements: i === 11 ? [] : Array.from({ length: 9 }, (__, k) => ({ id: `p${k}`, asset: `L${i + 1}` })),
    }));
    const { code, err } = await oquel('audit', file('deep.json', { ...sound, assets: levels }));
    expect(code).toBe(2);
    expect(err).toMatch(/instances, more than the 5,000,000 allowed.*L0 \(9 × L1\) > L1 \(9 × L2\)/);
  });

  it('prints the audit as JSON, and notes what it does not know', async () => {
    const { out, err } = await oquel(
      'audit',
      file('x.json', { ...dangling, mood: 'grey' }),
      '--format',
      'json',
    );
    expect(err).toBe('note: unknown property at /mood (kept)\n');
    const result = JSON.parse(out) as {
      format: string;
      gate: string;
      summary: object;
      findings: { rule: string }[];
    };
    expect(result).toMatchObject({ format: 'oquel.audit/1', gate: 'stop', summary: { error: 1 } });
    expect(result.findings[0].rule).toBe('dangling-target');
  });

  it('prints the same text for the same project', async () => {
    const [a, b] = [await oquel('audit', DEMO), await oquel('audit', DEMO)];
    expect(a.out).toBe(b.out);
    expect(a.out).toContain('gate STOPPED');
    expect(a.out).toContain('"horn-7" is not in pylon-ridge');
  });

  it('judges waivers on the day given', async () => {
    const waived = {
      ...dangling,
      waivers: [{ fingerprint: '', reason: 'lamp comes', by: 'ines', until: '2026-12-01' }],
    };
    const { out } = await oquel('audit', file('w.json', dangling), '--format', 'json');
    waived.waivers[0].fingerprint = (
      JSON.parse(out) as { findings: { fingerprint: string }[] }
    ).findings[0].fingerprint;
    const path = file('waived.json', waived);
    expect((await oquel('audit', path, '--today', '2026-12-01')).code).toBe(0);
    const later = await oquel('audit', path, '--today', '2026-12-02');
    expect(later.code).toBe(1);
    expect(later.out).toContain('stale-waiver');
  });
});

describe('oquel convert, graph and schema', () => {
  it('turns a document into a folder and back, and takes away files of assets that are gone', async () => {
    const to = join(folder, 'veyra');
    expect((await oquel('convert', DEMO, to)).code).toBe(0);
    expect((await oquel('convert', to, join(folder, 'back.json'))).code).toBe(0);
    const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as object;
    expect(JSON.parse(readFileSync(join(folder, 'back.json'), 'utf8'))).toEqual(demo);
    const [a, b] = [
      await oquel('audit', DEMO, '--format', 'json'),
      await oquel('audit', to, '--format', 'json'),
    ];
    expect(b).toEqual(a);
    await oquel('convert', file('sound.json', sound), to);
    expect(readdirSync(join(to, 'prefabs'))).toEqual([]);
    expect(readdirSync(join(to, 'scenes'))).toEqual(['hut.json']);
  });
  it('writes over nothing of somebody else’s', async () => {
    const theirs = mkdtempSync(join(tmpdir(), 'oquel-theirs-'));
    writeFileSync(join(theirs, 'notes.txt'), 'mine');
    const { code, err } = await oquel('convert', DEMO, theirs);
    expect(code).toBe(2);
    expect(err).toMatch(/holds other things/);
    expect(readdirSync(theirs)).toEqual(['notes.txt']);
  });
  it('judges by a baseline what is new alone', async () => {
    const { out } = await oquel('audit', DEMO, '--format', 'json');
    const baseline = file('baseline.json', out);
    expect((await oquel('audit', DEMO, '--baseline', baseline)).code).toBe(0);
    const worse = JSON.parse(readFileSync(DEMO, 'utf8')) as { assets: { id: string; bindings: object[] }[] };
    worse.assets[1].bindings.push({
      id: 'new',
      from: { at: 'mast-1', event: 'onCalm' },
      to: { at: 'x', action: 'y' },
    });
    const { code, out: text } = await oquel('audit', file('worse.json', worse), '--baseline', baseline);
    expect(code).toBe(1);
    expect(text).toContain('since the baseline: 1 new, 0 gone');
    expect(text).toMatch(/dangling-target\/placement \[new\]: When mast-1 raises onCalm: "x"/);
  });
  it('prints the graph and the schema', async () => {
    expect((await oquel('graph', DEMO)).out).toContain('<graphml');
    expect((await oquel('graph', DEMO, '--format', 'csv')).out).toMatch(/^from,to,kind/);
    expect(JSON.parse((await oquel('schema')).out)).toMatchObject({ title: 'Oquel project' });
    expect(JSON.parse((await oquel('schema', '--declarations')).out)).toMatchObject({
      title: 'Oquel declarations',
    });
  });
});

describe('several reports from one run', () => {
  const timeless = (report: string): string => report.replace(/ time="[\d.]+"/g, '');
  it('hold what each format prints, and leave the exit code as it is', async () => {
    const formats = ['json', 'sarif', 'junit', 'csv', 'text'];
    const to = (format: string): string => join(folder, 'reports', `audit.${format}`);
    const args = formats.flatMap((format) => ['--report', `${format}=${to(format)}`]);
    const one = await oquel('audit', DEMO, '--today', '2026-11-24', ...args);
    expect(one.code).toBe(1);
    for (const format of formats) {
      const { out } = await oquel('audit', DEMO, '--today', '2026-11-24', '--format', format);
      expect(timeless(readFileSync(to(format), 'utf8'))).toBe(timeless(out));
    }
    expect(one.out).toBe(readFileSync(to('text'), 'utf8'));
  });
  it('name the file and the line of each finding in JUnit, of a folder too', async () => {
    const game = join(folder, 'my game');
    await oquel('convert', DEMO, game);
    const { out } = await oquel('audit', game, '--today', '2026-11-24', '--format', 'junit');
    const cases = [
      ...out.matchAll(
        /<testcase classname="oquel\.([\w-]+)" name="[^"]*" time="0" file="([^"]*)" line="(\d+)"/g,
      ),
    ];
    expect(cases.length).toBeGreaterThan(80);
    for (const [, rule, file, line] of cases) {
      expect([rule, file]).toEqual([rule, expect.stringMatching(/^my game\/.+\.json$/)]);
      const lines = readFileSync(join(folder, file), 'utf8').split('\n');
      expect(lines[Number(line) - 1].trim()).not.toBe('');
    }
    expect(out).toContain('file="my game/scenes/pylon-ridge.json"');
  });
  it('are of the listed files alone; one that is not listed is reported', async () => {
    const game = join(folder, 'stray');
    await oquel('convert', DEMO, game);
    const clean = await oquel('audit', game, '--today', '2026-11-24');
    expect(clean.err).toBe('');
    writeFileSync(join(game, 'scenes', 'forgotten.json'), '{"id": "forgotten", "kind": "scene"}');
    writeFileSync(join(game, 'scenes', 'README.md'), 'not ours');
    const { code, out, err } = await oquel('audit', game, '--today', '2026-11-24');
    expect({ code, out }).toEqual({ code: clean.code, out: clean.out });
    expect(err).toBe(
      'note: scenes/forgotten.json is no part of the project; project.json does not list it\n',
    );
  });
  it('of which the last one to a file stays', async () => {
    const file = join(folder, 'twice.out');
    await oquel('audit', DEMO, '--report', `csv=${file}`, '--report', `json=${file}`);
    expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ format: 'oquel.audit/1' });
  });
});

describe('a SARIF report', () => {
  interface Result {
    locations: { physicalLocation: Place }[];
    properties: { subject: { binding?: string; param?: string } };
  }
  interface Place {
    artifactLocation: { uri: string };
    region: { startLine: number; endLine: number };
  }
  it.each([
    ['of a folder', () => 'veyra'],
    ['of a document', () => 'veyra.json'],
  ])('%s names the line of each binding that it speaks of', async (_name, target) => {
    const path = join(folder, target());
    await oquel('convert', DEMO, path);
    const { out } = await oquel('audit', path, '--format', 'sarif');
    const { results } = (JSON.parse(out) as { runs: { results: Result[] }[] }).runs[0];
    // Of an argument it is the line of the argument.
    const ofBindings = results.filter(
      ({ properties: { subject } }) => subject.binding !== undefined && subject.param === undefined,
    );
    expect(ofBindings.length).toBeGreaterThan(10);
    for (const { locations, properties } of ofBindings) {
      const { artifactLocation, region } = locations[0].physicalLocation;
      const lines = readFileSync(join(folder, decodeURI(artifactLocation.uri)), 'utf8').split('\n');
      const text = lines.slice(region.startLine - 1, region.endLine).join('\n');
      expect(text).toContain(`"${properties.subject.binding}"`);
    }
  });
});
