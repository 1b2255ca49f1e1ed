import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { applyChanges, indexProject, renameName, type Difference, type Project } from '@oquel/core';
import { main } from '../src/main.js';

const DEMO = fileURLToPath(new URL('../../../demo/storm-over-veyra.json', import.meta.url));
const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as Project;
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-compare-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
async function oquel(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  let [out, err] = ['', ''];
  const code = await main(args, { out: (t) => (out += t), err: (t) => (err += t) });
  return { code, out, err };
}
function written(name: string, project: Project): string {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify(project));
  return path;
}
function later(): Project {
  const index = indexProject(demo);
  const mast = index.assets[index.assetAt.get('WindMast')!];
  const renamed = applyChanges(
    demo,
    renameName(index, { kind: 'event', asset: mast.decl.id, of: '', name: 'onGust' }, 'onSquall'),
  ).project;
  const [first, second] = renamed.assets.find((a) => a.id === 'pylon-ridge')!.bindings!;
  return applyChanges(renamed, [
    { op: 'replace', list: 'bindings', asset: 'pylon-ridge', id: first.id, item: { ...first, delay: 2.5 } },
    { op: 'remove', list: 'bindings', asset: 'pylon-ridge', id: second.id },
  ]).project;
}

describe('oquel compare', () => {
  it('says what has changed, scene by scene, a rename once', async () => {
    const { code, out } = await oquel('compare', DEMO, written('later.json', later()));
    expect(code).toBe(1);
    expect(out).toMatch(
      /^scene pylon-ridge\n {2}changed when mast-1\.onSquall do .* after 2\.5s\n {10}was: when mast-1/,
    );
    expect(out).toMatch(/\n {2}gone {4}when mast-/);
    expect(out).toMatch(
      /prefab WindMast\n {2}renamed event onGust is now onSquall \(\d+ bindings carried along\)\n$/,
    );
  });
  it('is the same as JSON, for programs', async () => {
    const { code, out } = await oquel('compare', DEMO, written('later.json', later()), '--format', 'json');
    expect(code).toBe(1);
    const { counts } = JSON.parse(out) as Difference;
    expect(counts.binding).toMatchObject({ changed: 1, removed: 1, added: 0 });
    expect(counts.declaration.renamed).toBe(1);
  });
  it('finds nothing between a document and its folder form', async () => {
    const to = join(folder, 'veyra');
    await oquel('convert', DEMO, to);
    expect(await oquel('compare', DEMO, to)).toMatchObject({ code: 0, out: 'Nothing differs.\n' });
  });
  it.each([
    ['a file that is not there', ['compare', DEMO, '/nowhere.json'], /does not exist/],
    ['one file alone', ['compare', DEMO], /missing required argument/],
    ['a format that there is not', ['compare', DEMO, DEMO, '--format', 'xml'], /xml/],
  ])('refuses %s with exit code 2', async (_, args, message) => {
    const { code, err } = await oquel(...args);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });
  it('refuses a document that is not sound, and says where', async () => {
    const path = join(folder, 'broken.json');
    writeFileSync(path, '{"format":"oquel.project/1","name":"x","assets":[{"id":"a","kind":"room"}]}');
    const { code, err } = await oquel('compare', DEMO, path);
    expect(code).toBe(2);
    expect(err).toContain('/assets/0/kind');
  });
});
