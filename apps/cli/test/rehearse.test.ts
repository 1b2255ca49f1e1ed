import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { XMLParser } from 'fast-xml-parser';
import type { Project } from '@oquel/core';
import { main } from '../src/main.js';

const DEMO = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));
const CASES = fileURLToPath(new URL('../../../packages/core/test/rehearsals/', import.meta.url));
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-rehearse-'));
});
async function oquel(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  let [out, err] = ['', ''];
  const code = await main(args, { out: (t) => (out += t), err: (t) => (err += t) });
  return { code, out, err };
}
/** The demo with a change, written to a file. */
function demoWith(change: (project: Project) => void): string {
  const project = JSON.parse(readFileSync(DEMO, 'utf8')) as Project;
  change(project);
  const path = join(folder, `${Math.random()}.json`);
  writeFileSync(path, JSON.stringify(project));
  return path;
}
const bindingsOf = (project: Project, asset: string): NonNullable<Project['assets'][0]['bindings']> =>
  project.assets.find((a) => a.id === asset)!.bindings!;

describe('oquel rehearse', () => {
  it('the trace is printed as it is written down, byte for byte', async () => {
    const { code, out } = await oquel('rehearse', `${CASES}spawn.json`, '--trace', '--format', 'json');
    expect(out).toBe(readFileSync(`${CASES}spawn.jsonl`, 'utf8'));
    expect(code).toBe(0);
  });
  it('without a trace the heads, verdicts and coverage alone', async () => {
    const { out } = await oquel('rehearse', `${CASES}spawn.json`, '--format', 'json');
    const all = readFileSync(`${CASES}spawn.jsonl`, 'utf8').split('\n');
    expect(out.split('\n')).toEqual(all.filter((line) => !/"n":\d/.test(line)));
  });
  it('the demo: what fails tells why, also by a condition, and what runs away its cycle', async () => {
    const { code, out } = await oquel('rehearse', DEMO);
    expect(code).toBe(1);
    expect(out).toMatch(/A gust stops the summit line passes: 6 of 6 expectations hold/);
    expect(out).toMatch(/Boarding at the west platform FAILS.*\n.*beacon-7 has lit = true; it is false/);
    expect(out).toMatch(/A gust of just twelve FAILS.*\n.*brake-1 has force = 12; it is 0/);
    expect(out).toMatch(/A third overload within ten seconds passes: 3 of 3/);
    expect(out).toMatch(/relay-west note > line-office:relay-east note > line-office:relay-west note/);
    expect(out).toMatch(/\d+ of 271 expanded bindings served a raise/);
  });
  it.each<[string, (p: Project) => void, string]>([
    [
      'the dimming listens to leaving',
      (p) => {
        const dim = bindingsOf(p, 'valley-station').find((b) => b.id === 'mat-6-dim')!;
        dim.from = { at: 'mat-6', event: 'onLeft' };
      },
      'Boarding at the west platform',
    ],
    [
      'one relay tells the other once',
      (p) => void (bindingsOf(p, 'line-office').find((b) => b.id === 'tell-west')!.limit = 1),
      'An alarm reaches the office',
    ],
    [
      'one relay no longer answers',
      (p) => void (bindingsOf(p, 'line-office').find((b) => b.id === 'tell-east')!.enabled = false),
      'An alarm reaches the office',
    ],
    [
      'the brakes ask for twelve or more',
      (p) => {
        const gust = bindingsOf(p, 'pylon-ridge').find((b) => b.id === 'gust-1')!;
        gust.if = [{ payload: 'speed', is: { atLeast: 12 } }];
      },
      'A gust of just twelve',
    ],
  ])('mended, it passes: %s', async (_name, mend, name) => {
    expect((await oquel('rehearse', DEMO, '--name', name)).code).toBe(1);
    const { code, out } = await oquel('rehearse', demoWith(mend), '--name', name);
    expect(out).toContain(`${name} passes`);
    expect(code).toBe(0);
  });
  it('as JUnit: a case for each, with why it fails', async () => {
    const { code, out } = await oquel('rehearse', DEMO, '--format', 'junit');
    const { testsuites } = new XMLParser({ ignoreAttributes: false }).parse(out) as {
      testsuites: {
        '@_tests': string;
        '@_failures': string;
        testsuite: { testcase: { '@_name': string; failure?: object }[] };
      };
    };
    expect(testsuites).toMatchObject({ '@_tests': '5', '@_failures': '3' });
    const { testcase } = testsuites.testsuite;
    expect(testcase.map((c) => [c['@_name'], c.failure !== undefined])).toEqual([
      ['A gust stops the summit line', false],
      ['Boarding at the west platform', true],
      ['An alarm reaches the office', true],
      ['A third overload within ten seconds', false],
      ['A gust of just twelve', true],
    ]);
    expect(code).toBe(1);
  });
  it('as text with its trace: each record with time and number', async () => {
    const { out } = await oquel('rehearse', DEMO, '--name', 'A gust stops the summit line', '--trace');
    expect(out).toMatch(/^A gust stops the summit line \(valley-station, pylon-ridge, line-office\)\n/);
    expect(out).toMatch(/ 1 s +\d+ {2}pylon-ridge:mast-1 raises onGust \(speed = 22\) by host\n/);
  });
  it.each<[string, string[], RegExp]>([
    [
      'a name that is not there',
      [DEMO, '--name', 'nothing'],
      /has no rehearsal "nothing"; it has "A gust stops/,
    ],
    ['a file that is not there', ['gone.json'], /gone\.json cannot be read: it does not exist/],
    ['a format that is none', [DEMO, '--format', 'yaml'], /Allowed choices are text, json, junit/],
  ])('wrong use ends with 2: %s', async (_name, args, said) => {
    const { code, err } = await oquel('rehearse', ...args);
    expect(code).toBe(2);
    expect(err).toMatch(said);
  });
  it('a project without rehearsals passes and says so', async () => {
    const { code, out } = await oquel(
      'rehearse',
      demoWith((p) => delete p.rehearsals),
    );
    expect(out).toContain('the project has no rehearsals');
    expect(code).toBe(0);
  });
});

describe('rehearsals and the gate', () => {
  const counted = (more: (p: Project) => void = () => undefined): string =>
    demoWith((p) => {
      p.policy = { ...p.policy, rehearsals: true };
      // Nothing but rehearsals stops it.
      p.policy.severity = {};
      for (const a of p.assets) a.bindings = a.id === 'line-office' ? a.bindings : [];
      more(p);
    });
  const gateOf = async (file: string, ...args: string[]): Promise<[number, unknown, unknown]> => {
    const { code, out } = await oquel('audit', file, '--format', 'json', ...args);
    const { gate, rehearsals } = JSON.parse(out) as { gate: string; rehearsals?: unknown };
    return [code, gate, rehearsals];
  };
  it('a failing rehearsal stops it only where the policy says so, and is named', async () => {
    const [, , unasked] = await gateOf(DEMO);
    expect(unasked).toBeUndefined();
    const [code, gate, reported] = await gateOf(counted());
    expect([code, gate]).toEqual([1, 'stop']);
    expect(reported).toMatchObject({ run: 5 });
    expect((await oquel('audit', counted())).out).toMatch(
      /of 5 rehearsals failed: .*An alarm reaches the office/,
    );
    expect((await oquel('audit', counted(), '--format', 'junit')).out).toContain('name="rehearsals"');
  });
  it('it does not with --gate none, nor where it failed in the baseline already', async () => {
    const file = counted();
    expect((await gateOf(file, '--gate', 'none'))[0]).toBe(0);
    const baseline = join(folder, 'baseline.json');
    writeFileSync(baseline, (await oquel('audit', file, '--format', 'json', '--gate', 'error')).out);
    expect((await gateOf(file, '--baseline', baseline))[1]).toBe('pass');
    const worse = counted((p) => p.rehearsals!.push({ name: 'worse', loadSet: 'none', steps: [] }));
    expect((await gateOf(worse, '--baseline', baseline))[1]).toBe('stop');
  });
});
