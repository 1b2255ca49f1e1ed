import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import { conformanceCase, readProjectText } from '@oquel/core';
import { projectOf } from '../../../packages/core/test/naive-rehearsal/project-of.js';
import { randomScript } from '../../../packages/core/test/naive-rehearsal/script.js';
import { Random } from '../../../packages/core/test/random.js';
import { oquel } from './harness.js';

const path = (from: string): string => fileURLToPath(new URL(`../../../${from}`, import.meta.url));
const KIT = path('docs/conformance/cases');
const CASES = path('packages/core/test/rehearsals');
const names = readdirSync(CASES).filter((f) => f.endsWith('.json'));

const RANDOM_CASES = 60;

/** A runtime that writes the expected trace, changed by an expression over its text. */
function pretender(change: string): string {
  const file = join(mkdtempSync(join(tmpdir(), 'oquel-kit-')), 'run.mjs');
  writeFileSync(
    file,
    `import { readFileSync } from 'node:fs';
     const trace = readFileSync(process.argv[3].replace('steps.json', 'trace.jsonl'), 'utf8');
     process.stdout.write(${change});`,
  );
  return `node ${file} {wiring} {steps}`;
}

describe('the conformance kit', () => {
  it.each(names)('%s: is what the core compiles and runs now', (name) => {
    const { project } = readProjectText(readFileSync(join(CASES, name), 'utf8'));
    for (const [file, text] of conformanceCase(project)) {
      expect(readFileSync(join(KIT, name.replace('.json', ''), file), 'utf8')).toBe(text);
    }
  });
  it('has no cases besides', () => {
    expect(readdirSync(KIT).sort()).toEqual(names.map((n) => n.replace('.json', '')).sort());
  });
});

describe('oquel conformance', () => {
  it('passes the runtime that comes with Oquel', async () => {
    const { code, out } = await oquel(
      'conformance',
      '--run',
      `node ${path('docs/conformance/with-runtime.mjs')} {wiring} {steps}`,
    );
    expect(out).toContain(`${names.length} of ${names.length} cases conform`);
    expect(code).toBe(0);
  });
  const python = `python3 ${path('docs/conformance/example/wiring.py')} {wiring} {steps}`;
  it('passes the example in another language, which shares no code', async () => {
    const { code, out } = await oquel('conformance', '--run', python);
    expect(out).toContain(`${names.length} of ${names.length} cases conform`);
    expect(code).toBe(0);
  });
  it('passes the example on random projects too', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'oquel-kit-'));
    for (let seed = 0; seed < RANDOM_CASES; seed++) {
      const project = projectOf(seed);
      const rehearsal = randomScript(new Random(seed + 7_000_000), project);
      const files = conformanceCase({ ...project, rehearsals: [rehearsal] });
      // What never ends takes the slow one too long.
      if (files.get('trace.jsonl')!.split('\n').length > 1500) continue;
      for (const [file, text] of files) {
        const to = join(folder, `random-${seed}`, file);
        mkdirSync(dirname(to), { recursive: true });
        writeFileSync(to, text);
      }
    }
    const { code, out } = await oquel('conformance', '--cases', folder, '--run', python);
    expect(out).not.toContain('FAILED');
    expect(code).toBe(0);
    expect(readdirSync(folder).length).toBeGreaterThan(RANDOM_CASES / 2);
  });
  it.each<[string, string, RegExp]>([
    [
      'writes another value',
      `trace.replace('"n":2,', '"n":3,')`,
      /FAILED {2}timers: line 3\n {4}expected .*"n":2.*\n {4}found .*"n":3/,
    ],
    ['writes too little', `trace.trimEnd().split('\\n').slice(0, -1).join('\\n') + '\\n'`, /found {4}\n/],
    ['writes too much', `trace + '{}\\n'`, /found {4}\{\}/],
    ['fails', `process.exit(3)`, /it ended with 3/],
  ])('says where a runtime that %s differs', async (_, change, message) => {
    const { code, out } = await oquel('conformance', '--only', 'timers', '--run', pretender(change));
    expect(code).toBe(1);
    expect(out).toMatch(message);
    expect(out).toContain('0 of 1 cases conform');
  });
  it('refuses a command without its places, and a case that does not exist', async () => {
    expect(await oquel('conformance', '--run', 'run {wiring}')).toMatchObject({
      code: 2,
      err: expect.stringContaining('the command must contain {steps}'),
    });
    expect(await oquel('conformance', '--only', 'tides', '--run', 'run {wiring} {steps}')).toMatchObject({
      code: 2,
      err: 'there is no case "tides"\n',
    });
  });
});
