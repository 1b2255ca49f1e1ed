import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { examplesOf } from '../src/examples.js';
import { program } from '../src/program.js';
import { DEMO, written } from './harness.js';

const OQUEL = fileURLToPath(new URL('../../../dist/package/oquel.mjs', import.meta.url));
const KIT = fileURLToPath(new URL('../../../docs/conformance/with-runtime.mjs', import.meta.url));
const { commands } = program({ out: () => undefined, err: () => undefined }, () => undefined);
const EXAMPLES = commands.commands.flatMap((c) =>
  examplesOf(c.name()).map(({ line }) => [line, c.name()] as const),
);
/** Commands that end with 1 on the demo, as it has planted faults. */
const STOPS = /^oquel (compare|rehearse)|--check|--baseline/;

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-examples-'));
  copyFileSync(DEMO, join(folder, 'storm.json'));
  const runtime = new URL('../../../packages/runtime/dist/', import.meta.url).href;
  const adapter = readFileSync(KIT, 'utf8').replaceAll('../../packages/runtime/dist/', runtime);
  writeFileSync(join(folder, 'with-runtime.mjs'), adapter);
  written(folder, 'play.jsonl', '{"t":0,"kind":"raise","at":"pylon-ridge:mast-1","event":"onGust"}\n');
  const { name, assets } = JSON.parse(readFileSync(DEMO, 'utf8')) as { name: string; assets: object[] };
  written(folder, 'manifest.json', { format: 'oquel.project/1', name, assets });
  sh('oquel convert storm.json wiring && oquel audit wiring --gate none --format json > baseline.json');
});

function sh(line: string): { code: number; out: string } {
  const script = `oquel() { node "${OQUEL}" "$@"; }; ${line}`;
  try {
    return {
      code: 0,
      out: execFileSync('bash', ['-c', script], { cwd: folder, encoding: 'utf8', stdio: 'pipe' }),
    };
  } catch (error) {
    const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
    return { code: status, out: stdout + stderr };
  }
}

describe('examples', () => {
  it('are there for every command', () => {
    expect([...new Set(EXAMPLES.map(([, name]) => name))]).toEqual(commands.commands.map((c) => c.name()));
  });
  it.each(EXAMPLES)('%s', (line) => {
    const { code, out } = sh(line);
    expect({ code, out: code <= 1 ? '' : out }).toEqual({
      code: STOPS.test(line) ? expect.any(Number) : 0,
      out: '',
    });
  });
});

describe('completion for bash', () => {
  const complete = (...words: string[]): string[] => {
    const list = words.map((w) => `'${w}'`).join(' ');
    const line = `eval "$(oquel completion bash)"; COMP_WORDS=(oquel ${list}); COMP_CWORD=${words.length}; _oquel; printf '%s\\n' "\${COMPREPLY[@]}"`;
    return sh(line).out.trim().split('\n');
  };
  it.each([
    [['com'], ['compare', 'compile', 'completion']],
    [['audit', '--re'], ['--report']],
    [
      ['audit', '--format', ''],
      ['text', 'json', 'sarif', 'junit', 'csv'],
    ],
    [
      ['completion', ''],
      ['bash', 'zsh'],
    ],
    [['audit', 'bas'], ['baseline.json']],
    [['rehearse', '--co'], ['--cobertura']],
  ])('%j offers %j', (words, offered) => {
    expect(complete(...words)).toEqual(offered);
  });
  it('is the same for zsh, by its own means', () => {
    const { out } = sh('oquel completion zsh');
    expect(out).toContain('bashcompinit');
    expect(out).toContain(sh('oquel completion bash').out);
  });
});
