import { execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { main } from '../src/main.js';
import { DEMO, oquel, written } from './harness.js';

const BIN = fileURLToPath(new URL('../../../dist/package/oquel.mjs', import.meta.url));
const hut = { format: 'oquel.project/1', name: 'Hut', assets: [{ id: 'hut', kind: 'scene' }] };
const pier = {
  ...hut,
  assets: [
    { id: 'pier', kind: 'scene' },
    { id: 'Lamp', kind: 'prefab' },
  ],
};
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-convert-'));
});
const file = (name: string, content: unknown): string => written(folder, name, content);
const all = (path: string): string[] => (readdirSync(path, { recursive: true }) as string[]).sort();

describe('oquel convert', () => {
  it('removes and replaces files of the project alone, whatever lies beside them', async () => {
    const to = join(folder, 'project');
    await oquel('convert', file('pier.json', pier), to);
    writeFileSync(join(to, 'README.md'), 'mine');
    writeFileSync(join(to, 'scenes', 'sketch.json'), '{"mine":true}');
    expect((await oquel('convert', file('hut.json', hut), to)).code).toBe(0);
    expect(all(to)).toEqual([
      'README.md',
      'prefabs',
      'project.json',
      'scenes',
      'scenes/hut.json',
      'scenes/sketch.json',
    ]);
  });
  const theirs: [string, Record<string, string>][] = [
    ['a project.json of another program', { 'project.json': '{"name":"app"}', 'scenes/a.json': '{}' }],
    ['a project.json that is no JSON', { 'project.json': 'name: app', 'prefabs/b.json': '{}' }],
    ['no project.json', { 'scenes/a.json': '{}' }],
  ];
  it.each(theirs)('leaves a folder alone that has %s', async (_name, files) => {
    const to = join(folder, 'theirs');
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(join(to, path, '..'), { recursive: true });
      writeFileSync(join(to, path), text);
    }
    const before = all(to);
    const { code, err } = await oquel('convert', DEMO, to);
    expect(code).toBe(2);
    expect(err).toMatch(/holds other things/);
    expect(all(to)).toEqual(before);
  });
  it('removes nothing that a list of files names outside of its folders', async () => {
    const to = join(folder, 'project');
    mkdirSync(to);
    const outside = file('precious.json', '{}');
    writeFileSync(
      join(to, 'project.json'),
      JSON.stringify({ ...hut, assets: ['../precious.json', 'scenes/../../precious.json'] }),
    );
    await oquel('convert', file('hut.json', hut), to);
    expect(existsSync(outside)).toBe(true);
  });
  it.each(['scenes', 'project.json'])('follows no link: %s', async (name) => {
    const [to, elsewhere] = [join(folder, 'project'), join(folder, 'elsewhere')];
    await oquel('convert', file('hut.json', hut), to);
    mkdirSync(elsewhere);
    renameSync(join(to, name), join(elsewhere, name));
    writeFileSync(join(elsewhere, 'hut.json'), 'theirs');
    symlinkSync(join(elsewhere, name), join(to, name));
    const before = all(elsewhere);
    for (const args of [
      ['convert', file('pier.json', pier), to],
      ['audit', to],
    ]) {
      const { code, err } = await oquel(...args);
      expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(/is a link/) });
    }
    expect(all(elsewhere)).toEqual(before);
    expect(readFileSync(join(elsewhere, 'hut.json'), 'utf8')).toBe('theirs');
  });

  const targets: [string, string, RegExp][] = [
    ['an empty name', '', /is empty; is a variable not set/],
    ['blanks', '  ', /is empty/],
    ['another ending', 'out.yaml', /a document ends in \.json, a folder has no ending/],
    ['a place where nothing can be made', '/proc/oquel/x', /cannot be made/],
  ];
  it.each(targets)('refuses %s', async (_name, to, message) => {
    const { code, err } = await oquel('convert', DEMO, to);
    expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(message) });
  });
  it('writes a document as a document, and a folder as a folder, by the name of the target', async () => {
    const [a, b] = [join(folder, 'a.json'), join(folder, 'b')];
    expect((await oquel('convert', DEMO, a)).code).toBe(0);
    expect((await oquel('convert', DEMO, b)).code).toBe(0);
    const c = join(folder, 'c');
    expect((await oquel('convert', b, c)).code).toBe(0);
    expect(all(c)).toEqual(all(b));
    expect(JSON.parse(readFileSync(a, 'utf8'))).toEqual(JSON.parse(readFileSync(DEMO, 'utf8')));
  });

  it('leaves the old state or the new one whole, wherever it is killed', async () => {
    const to = join(folder, 'project');
    const many = (note: string): object => ({
      ...hut,
      assets: Array.from({ length: 60 }, (_, i) => ({ id: `${note}${i % 40}x${i}`, kind: 'scene', note })),
    });
    await oquel('convert', file('old.json', many('old')), to);
    const next = file('next.json', many('new'));
    let [olds, news] = [0, 0];
    for (let i = 0; i < 14; i++) {
      // Killed at another time each time; it takes a while to start.
      spawnSync(process.execPath, [BIN, 'convert', next, to], {
        timeout: 150 + i * 25,
        killSignal: 'SIGKILL',
      });
      const back = join(folder, `back${i}.json`);
      expect((await oquel('convert', to, back)).code).toBe(0);
      const { assets } = JSON.parse(readFileSync(back, 'utf8')) as { assets: { note: string }[] };
      const notes = new Set(assets.map((a) => a.note));
      expect({ assets: assets.length, notes: notes.size }).toEqual({ assets: 60, notes: 1 });
      if (notes.has('old')) olds++;
      else news++;
      await oquel('convert', join(folder, 'old.json'), to);
      expect(all(to).filter((f) => f.includes('oquel'))).toEqual([]);
    }
    expect(olds + news).toBe(14);
  });
  it('takes up a writing that was cut off while its files were put into place', async () => {
    const to = join(folder, 'project');
    await oquel('convert', file('pier.json', pier), to);
    const text = JSON.stringify({ ...hut, assets: ['scenes/hut.json'] });
    // As it is left by a crash between two files.
    writeFileSync(join(to, 'project.json.oquel-new'), text);
    writeFileSync(join(to, 'scenes/hut.json'), JSON.stringify({ id: 'hut', kind: 'scene' }));
    const journal = {
      files: ['project.json', 'scenes/hut.json'],
      gone: ['scenes/pier.json', 'prefabs/Lamp.json'],
    };
    writeFileSync(join(to, '.oquel-writing.json'), JSON.stringify(journal));
    const back = join(folder, 'back.json');
    expect((await oquel('convert', to, back)).code).toBe(0);
    expect(JSON.parse(readFileSync(back, 'utf8'))).toEqual(hut);
    await oquel('convert', back, to);
    expect(all(to)).toEqual(['prefabs', 'project.json', 'scenes', 'scenes/hut.json']);
  });
  it('clears away what a writing left that was cut off before it was whole, and nothing else', async () => {
    const to = join(folder, 'project');
    await oquel('convert', file('hut.json', hut), to);
    for (const left of [
      'project.json.oquel-new',
      'scenes/cove.json.oquel-new',
      '.oquel-writing.json.oquel-new',
    ])
      writeFileSync(join(to, left), '{');
    writeFileSync(join(to, 'scenes/notes.txt.oquel-new'), 'somebody’s own');
    const back = join(folder, 'back.json');
    expect((await oquel('convert', to, back)).code).toBe(0);
    expect(JSON.parse(readFileSync(back, 'utf8'))).toEqual(hut);
    expect((await oquel('convert', back, to)).code).toBe(0);
    expect(all(to)).toEqual(['project.json', 'scenes', 'scenes/hut.json', 'scenes/notes.txt.oquel-new']);
  });
});

describe('what is no ordinary file', () => {
  it.each([
    ['a device', () => '/dev/zero'],
    [
      'a pipe',
      () => {
        const pipe = join(folder, 'pipe');
        execFileSync('mkfifo', [pipe]);
        return pipe;
      },
    ],
    [
      'a link to a device',
      () => {
        symlinkSync('/dev/zero', join(folder, 'link.json'));
        return join(folder, 'link.json');
      },
    ],
  ])('is not read: %s', async (_name, path) => {
    const { code, err } = await oquel('audit', path());
    expect({ code, err }).toEqual({ code: 2, err: expect.stringMatching(/is no ordinary file/) });
  });
  it('neither is text that is not UTF-8', async () => {
    const path = join(folder, 'latin.json');
    writeFileSync(path, Buffer.from('{"name":"a\xff"}', 'latin1'));
    expect(await oquel('audit', path)).toMatchObject({ code: 2, err: expect.stringMatching(/is not UTF-8/) });
  });
});

describe('what is printed', () => {
  it('escapes what would begin a line of its own or speak to the terminal', async () => {
    const evil = 'Hut\n::error::forged\u001b[2J\u202e';
    const path = file('evil.json', {
      ...hut,
      name: evil,
      loadSets: [{ name: evil, scenes: ['gone'] }],
      rehearsals: [{ name: evil, steps: [{ at: 0, expect: { at: evil, asleep: true } }] }],
    });
    for (const args of [
      ['audit', path],
      ['rehearse', path],
      ['rehearse', path, '--trace'],
      ['compare', path, file('hut.json', hut)],
    ]) {
      const { out } = await oquel(...args);
      expect(out).toContain('\\x0a::error::forged\\x1b[2J\\u202e');
      expect(out).not.toMatch(/^::error/m);
      expect(out).not.toContain('\u001b');
    }
    const { err } = await oquel(
      'audit',
      file('broken.json', { ...hut, assets: [{ id: evil, kind: 'scene' }] }),
    );
    expect(err).not.toMatch(/^::error/m);
  });
  it('says in one line what nobody foresaw, and ends with 70', async () => {
    const failing = {
      out: (): void => {
        throw new Error('the pipe\nburst');
      },
      err: (t: string): void => void (said += t),
    };
    let said = '';
    expect(await main(['audit', DEMO], failing)).toBe(70);
    expect(said).toMatch(/^oquel failed: the pipe\\x0aburst .*--debug.*\n$/);
    said = '';
    expect(await main(['--debug', 'audit', DEMO], failing)).toBe(70);
    expect(said).toContain('convert.test');
  });
  it('notes a property that stands twice', async () => {
    const text = '{"format":"oquel.project/1","name":"a","name":"b","assets":[]}';
    const { err } = await oquel('audit', file('twice.json', text));
    expect(err).toBe('note: /name stands more than once; the last one counts\n');
  });
});
