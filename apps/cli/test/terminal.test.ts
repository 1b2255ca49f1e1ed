import { closeSync, mkdtempSync, openSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { coloured, wantsColour } from '../src/colours.js';
import { main } from '../src/main.js';
import { Progress } from '../src/progress.js';
import { DEMO, oquel, written } from './harness.js';

describe('colours', () => {
  it.each([
    [{}, true, true],
    [{}, false, false],
    [{ NO_COLOR: '1' }, true, false],
    [{ NO_COLOR: '' }, true, true],
    [{ FORCE_COLOR: '1' }, false, true],
    [{ FORCE_COLOR: '1', NO_COLOR: '1' }, false, true],
    [{ FORCE_COLOR: '0' }, true, false],
    [{ TERM: 'dumb' }, true, false],
  ])('with %j and a terminal %j: %j', (env, isTerminal, wanted) => {
    expect(wantsColour(env, isTerminal)).toBe(wanted);
  });
  it('change no letter of what is printed', async () => {
    const plain = (await oquel('audit', DEMO)).out;
    let out = '';
    await main(['audit', DEMO], { out: (t) => (out += t), err: () => undefined, isColoured: true });
    expect(out).not.toBe(plain);
    // eslint-disable-next-line no-control-regex -- That is what is looked for.
    expect(out.replace(/\x1b\[\d+m/g, '')).toBe(plain);
    expect(coloured('an error of yours\n')).toBe('an error of yours\n');
  });
});

describe('progress', () => {
  it('says what takes long while the command computes, and takes it away', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'oquel-progress-')), 'terminal');
    const terminal = openSync(file, 'w');
    const progress = new Progress(terminal);
    progress.begin('reading');
    progress.begin('auditing');
    // The thread starts; after that nothing here gives way, as in a long audit.
    await new Promise((resolve) => setTimeout(resolve, 300));
    for (const until = performance.now() + 1700; performance.now() < until;);
    progress.end();
    const said = readFileSync(file, 'utf8');
    // eslint-disable-next-line no-control-regex -- That is what is written.
    expect(said).toMatch(/^(\r\x1b\[Kauditing \.\.\. \d s)+\r\x1b\[K$/);
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(readFileSync(file, 'utf8')).toBe(said);
    closeSync(terminal);
  });
  it('says nothing of what takes less than a second', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'oquel-progress-')), 'terminal');
    const terminal = openSync(file, 'w');
    const progress = new Progress(terminal);
    progress.begin('reading');
    progress.end();
    expect(readFileSync(file, 'utf8')).toBe('');
    closeSync(terminal);
  });
  it('--verbose says what was done and how long it took, --quiet nothing', async () => {
    const { err } = await oquel('audit', DEMO, '--gate', 'none', '--verbose');
    expect(err).toMatch(/^reading .*storm-over-veyra\.json: \d+\.\d\d s$/m);
    expect(err).toMatch(/^auditing: \d+\.\d\d s$/m);
    expect((await oquel('audit', DEMO, '--gate', 'none', '--quiet')).err).toBe('');
  });
});

describe('what is wrong with a project', () => {
  it.each([
    ['{\n  "format": "oquel.project/1",\n  "name": 5,\n  "assets": []\n}', ':3:11: expected'],
    ['{\n  "format": "oquel.project/1",\n  "assets": []\n}', ':1:1: expected a property "name"'],
    ['{\n  "a":\n}', ':3:1: expected JSON'],
  ])('%j stands at its line and column', async (text, said) => {
    const file = written(mkdtempSync(join(tmpdir(), 'oquel-lines-')), 'quay.json', text);
    const { code, err } = await oquel('audit', file);
    expect(code).toBe(2);
    expect(err).toContain(`${file}${said}`);
  });
  it('in the file of the asset, where the project is a folder', async () => {
    const folder = join(mkdtempSync(join(tmpdir(), 'oquel-lines-')), 'wiring');
    await oquel('convert', DEMO, folder);
    const path = join(folder, 'prefabs', 'Cabin.json');
    const lines = readFileSync(path, 'utf8').split('\n');
    const at = lines.findIndex((l) => l.includes('"kind"'));
    lines[at] = lines[at].replace('"prefab"', '"box"');
    written(join(folder, 'prefabs'), 'Cabin.json', lines.join('\n'));
    const { err } = await oquel('audit', folder);
    expect(err).toContain(`${path}:${at + 1}:${lines[at].indexOf('"box"') + 1}: expected`);
  });
});
