import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

let folder: string;
let out: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-compile-'));
  out = join(folder, 'wiring');
});
const all = (): string[] =>
  (readdirSync(out, { recursive: true }) as string[]).filter((f) => f.endsWith('.json')).sort();
const read = (path: string): string => readFileSync(join(out, path), 'utf8');
const quay = {
  format: 'oquel.project/1',
  name: 'Quay',
  assets: [
    { id: 'quay', kind: 'scene', placements: [{ id: 'lamp', asset: 'Lamp' }] },
    { id: 'bay', kind: 'scene' },
    { id: 'Lamp', kind: 'prefab', actions: [{ name: 'light' }] },
  ],
};

describe('oquel compile', () => {
  it('writes one file for the project and one for each scene, valid by the schema, the same bytes each time', async () => {
    const { code, err } = await oquel('compile', DEMO, '--out', out);
    expect({ code, err }).toEqual({
      code: 0,
      err: expect.stringMatching(/is written: 4 scenes, 269 bindings, hash [0-9a-f]{64}/),
    });
    expect(all()).toEqual([
      'scenes/line-office.json',
      'scenes/pylon-ridge.json',
      'scenes/summit-refuge.json',
      'scenes/valley-station.json',
      'wiring.json',
    ]);
    const schema = JSON.parse((await oquel('schema', '--wiring')).out) as object;
    const validate = new Ajv2020({ allErrors: true }).compile(schema);
    const before = all().map(read);
    for (const text of before) {
      expect(validate(JSON.parse(text)) || validate.errors).toBe(true);
      expect(text).toMatch(/[^\n]\n$/);
    }
    await oquel('compile', DEMO, '--out', out);
    expect(all().map(read)).toEqual(before);
    expect(new Set(before.map((t) => (JSON.parse(t) as { hash: string }).hash)).size).toBe(1);
  });
  it('checks whether what is there is up to date, and says what is not', async () => {
    const project = written(folder, 'quay.json', quay);
    await oquel('compile', project, '--out', out);
    expect(await oquel('compile', project, '--out', out, '--check')).toMatchObject({ code: 0 });
    const changed = written(folder, 'changed.json', { ...quay, assets: [quay.assets[0], quay.assets[2]] });
    const { code, err } = await oquel('compile', changed, '--out', out, '--check');
    expect(code).toBe(1);
    expect(err).toContain('scenes/quay.json differs');
    expect(err).toContain('scenes/bay.json is not part of the project any more');
    expect(existsSync(join(out, 'scenes/bay.json'))).toBe(true);
    // Written again, it is; and a scene that is gone goes.
    await oquel('compile', changed, '--out', out);
    expect(all()).toEqual(['scenes/quay.json', 'wiring.json']);
    expect((await oquel('compile', changed, '--out', out, '--check')).code).toBe(0);
  });
  it('writes only the scenes that are asked for', async () => {
    const project = written(folder, 'quay.json', quay);
    expect((await oquel('compile', project, '--out', out, '--scene', 'bay')).code).toBe(0);
    expect(all()).toEqual(['scenes/bay.json', 'wiring.json']);
    const { code, err } = await oquel('compile', project, '--out', out, '--scene', 'bag');
    expect({ code, err }).toEqual({ code: 2, err: 'there is no scene "bag"; the project has quay, bay\n' });
  });
  it('writes nothing if the gate is required and stops', async () => {
    const { code, err } = await oquel('compile', DEMO, '--out', out, '--gate');
    expect(code).toBe(1);
    expect(err).toContain('The gate stops');
    expect(existsSync(out)).toBe(false);
    expect((await oquel('compile', written(folder, 'quay.json', quay), '--out', out, '--gate')).code).toBe(0);
  });
  it('leaves a folder alone that holds other things', async () => {
    const project = written(folder, 'quay.json', quay);
    writeFileSync(join(folder, 'notes.txt'), 'mine');
    const { code, err } = await oquel('compile', project, '--out', folder);
    expect(code).toBe(2);
    expect(err).toContain('holds other things and no wiring.json');
    const other = mkdtempSync(join(tmpdir(), 'oquel-compile-'));
    writeFileSync(join(other, 'wiring.json'), '{"format":"theirs"}');
    expect((await oquel('compile', project, '--out', other)).err).toContain('is not compiled wiring');
    expect(readFileSync(join(other, 'wiring.json'), 'utf8')).toBe('{"format":"theirs"}');
  });
});
