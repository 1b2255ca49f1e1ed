import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Manifest, Project } from '@oquel/core';
import { DEMO, oquel, written } from './harness.js';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-merge-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const demo = (): Project => JSON.parse(readFileSync(DEMO, 'utf8')) as Project;
/** What the game of the demo would print, with changes. */
function manifest(change: (m: Manifest) => void = () => undefined): Manifest {
  const { enums, tables, channels, assets, loadSets, peers } = structuredClone(demo());
  const bare = assets.map(({ bindings: _own, ...asset }) => asset);
  const said: Manifest = {
    format: 'oquel.declarations/1',
    origin: 'storm',
    enums,
    tables,
    channels,
    assets: bare,
    loadSets,
    peers,
  };
  change(said);
  return said;
}
const mast = (m: Manifest): NonNullable<Manifest['assets']>[number] =>
  m.assets!.find((a) => a.id === 'WindMast')!;

describe('oquel merge', () => {
  it('writes the project anew, and writes the same the next time', async () => {
    const project = join(folder, 'storm.json');
    cpSync(DEMO, project);
    const file = written(folder, 'm.json', manifest());
    expect(await oquel('merge', project, file)).toMatchObject({ code: 0, err: `${project} is written.\n` });
    const once = readFileSync(project, 'utf8');
    expect(await oquel('merge', project, file)).toMatchObject({ code: 0, out: 'Nothing differs.\n' });
    expect(readFileSync(project, 'utf8')).toBe(once);
    const { assets } = JSON.parse(once) as Project;
    expect(assets.map((a) => a.bindings?.length ?? 0)).toEqual(
      demo().assets.map((a) => a.bindings?.length ?? 0),
    );
    expect(new Set(assets.map((a) => a.origin))).toEqual(new Set(['storm']));
  });
  it('a folder as well', async () => {
    const project = join(folder, 'wiring');
    await oquel('convert', DEMO, project);
    const file = written(folder, 'm.json', manifest());
    expect((await oquel('merge', project, file)).code).toBe(0);
    expect((await oquel('merge', project, file)).out).toBe('Nothing differs.\n');
  });
  it('with --check writes nothing, says what would dangle, and ends with 1', async () => {
    const project = join(folder, 'checked.json');
    cpSync(DEMO, project);
    await oquel('merge', project, written(folder, 'm.json', manifest()));
    const before = readFileSync(project, 'utf8');
    const lost = written(
      folder,
      'lost.json',
      manifest((m) => {
        mast(m).events = mast(m).events!.filter((e) => e.name !== 'onCalm');
        mast(m).events!.push({ name: 'onThunder', payload: [{ name: 'far', type: 'float' }] });
      }),
    );
    const { code, out } = await oquel('merge', project, lost, '--check');
    expect(code).toBe(1);
    expect(out).toMatch(/error dangling-sender: mast-\d never says onCalm|dangling-sender: .*onCalm/);
    expect(readFileSync(project, 'utf8')).toBe(before);
    const json = JSON.parse((await oquel('merge', project, lost, '--check', '--format', 'json')).out) as {
      dangling: { rule: string }[];
    };
    expect(json.dangling.length).toBeGreaterThan(0);
    expect(new Set(json.dangling.map((f) => f.rule))).toEqual(new Set(['dangling-sender']));
  });
  it('a rename in the game is found, and dangles nothing', async () => {
    const project = join(folder, 'renamed.json');
    cpSync(DEMO, project);
    await oquel('merge', project, written(folder, 'm.json', manifest()));
    const renamed = written(
      folder,
      'renamed-manifest.json',
      manifest((m) => (mast(m).events!.find((e) => e.name === 'onGust')!.name = 'onSquall')),
    );
    const { code, out } = await oquel('merge', project, renamed, '--check');
    expect(code).toBe(0);
    expect(out).toContain('event onGust is now onSquall');
    expect((await oquel('merge', project, renamed)).code).toBe(0);
    expect(readFileSync(project, 'utf8')).not.toContain('"onGust"');
  });
  it.each<[string, unknown, RegExp]>([
    ['no manifest', '{}', /is not a valid manifest:\n.*format/],
    [
      'another version',
      { ...manifest(), format: 'oquel.declarations/9' },
      /expected "oquel.declarations\/1"/,
    ],
    ['no JSON', '{', /line 1/],
    ['the same id twice', manifest((m) => m.assets!.push(m.assets![0])), /assets/],
  ])('wrong use ends with 2: %s', async (_, content, words) => {
    const { code, err } = await oquel('merge', DEMO, written(folder, 'bad.json', content));
    expect([code, words.test(err)]).toEqual([2, true]);
  });
  it('two origins that declare the same are reported, and nothing is written', async () => {
    const project = join(folder, 'two.json');
    cpSync(DEMO, project);
    await oquel('merge', project, written(folder, 'm.json', manifest()));
    const before = readFileSync(project, 'utf8');
    const { code, err } = await oquel('merge', project, join(folder, 'm.json'), '--origin', 'tools');
    expect(code).toBe(2);
    expect(err).toContain('tension is already declared by "storm"; this manifest is from "tools"');
    expect(readFileSync(project, 'utf8')).toBe(before);
  });
});

describe('a nightly manifest', () => {
  it('is merged in a repository night after night: what changes is a commit, what would break stops it', async () => {
    const repo = mkdtempSync(join(tmpdir(), 'oquel-nightly-'));
    const git = (...args: string[]): string =>
      execFileSync('git', ['-c', 'user.name=ines', '-c', 'user.email=ines@veyra.example', ...args], {
        cwd: repo,
        encoding: 'utf8',
      });
    git('init', '--quiet');
    const wiring = join(repo, 'wiring');
    await oquel('convert', DEMO, wiring);
    const night = async (name: string, m: Manifest): Promise<number> => {
      writeFileSync(join(repo, 'manifest.json'), JSON.stringify(m));
      const { code } = await oquel('merge', wiring, join(repo, 'manifest.json'), '--check');
      if (code !== 0) return code;
      await oquel('merge', wiring, join(repo, 'manifest.json'));
      git('add', '-A');
      if (git('status', '--porcelain') !== '') git('commit', '--quiet', '-m', name);
      return 0;
    };
    expect(await night('first', manifest())).toBe(0);
    const first = git('rev-parse', 'HEAD');
    expect(await night('the same', manifest())).toBe(0);
    expect(git('rev-parse', 'HEAD')).toBe(first);
    const grown = manifest((m) => mast(m).events!.push({ name: 'onThunder' }));
    expect(await night('grown', grown)).toBe(0);
    expect(git('show', '--stat', 'HEAD')).toContain('wiring/prefabs/WindMast.json');
    const broken = manifest((m) => (mast(m).events = [{ name: 'onThunder' }]));
    expect(await night('broken', broken)).toBe(1);
    expect(git('log', '--oneline').trim().split('\n')).toHaveLength(2);
    rmSync(repo, { recursive: true, force: true });
  });
});
