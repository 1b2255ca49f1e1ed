import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { oquel, written } from './harness.js';

/** A quay where one name is misspelt, one binding stands twice, and a gate is asked for what it cannot do. */
function quay(): object {
  const ring = (id: string, at: string, action: string): object => ({
    id,
    from: { at: 'bell-1', event: 'onRung' },
    to: { at, action },
  });
  return {
    format: 'oquel.project/1',
    name: 'Quay',
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        size: [40, 20],
        placements: [
          { id: 'bell-1', asset: 'Bell', at: [4, 5] },
          { id: 'gate-1', asset: 'Gate', at: [30, 5] },
        ],
        bindings: [
          ring('opens', 'gate-1', 'open'),
          ring('opens-too', 'gate-1', 'open'),
          ring('lost', 'gate-11', 'open'),
        ],
      },
      { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'code' } }] },
      { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }] },
    ],
  };
}
let file: string;
beforeEach(() => {
  file = written(mkdtempSync(join(tmpdir(), 'oquel-fix-')), 'quay.json', quay());
});
const bindings = (): string[] =>
  (
    JSON.parse(readFileSync(file, 'utf8')) as { assets: { bindings: { id: string }[] }[] }
  ).assets[0].bindings.map((b) => b.id);

describe('oquel fix', () => {
  it('lists the fixes of each finding, and changes nothing', async () => {
    const before = readFileSync(file, 'utf8');
    const { code, out } = await oquel('fix', file);
    expect(code).toBe(0);
    expect(out).toMatch(/^[0-9a-f]{16} dangling-target: /m);
    expect(out).toMatch(/^ {4}1 {2}.*gate-1.*\(fixes 1/m);
    expect(readFileSync(file, 'utf8')).toBe(before);
  });
  it('applies the fix that is chosen', async () => {
    const [, fingerprint] = /^([0-9a-f]{16}) dangling-target/m.exec((await oquel('fix', file)).out)!;
    const { code, err } = await oquel('fix', file, '--finding', fingerprint, '--write');
    expect({ code, err }).toEqual({ code: 0, err: `${file} is written.\n` });
    expect((await oquel('audit', file, '--gate', 'none')).out).not.toContain('dangling-target');
  });
  it('fixes all of a rule', async () => {
    expect((await oquel('fix', file, '--rule', 'duplicate-binding', '--write')).code).toBe(0);
    expect(bindings().length).toBe(2);
  });
  it.each([
    [['--write'], 'say what to fix'],
    [['--choice', '2'], 'name it with --finding'],
    [['--finding', '0000000000000000'], 'no such finding'],
    [['--rule', 'no-rule'], 'no such finding'],
    [['--finding', 'x', '--choice', 'two'], 'a number such as 1'],
  ])('says what is wrong with %j', async (flags, words) => {
    const { code, err } = await oquel('fix', file, ...flags);
    expect(code).toBe(2);
    expect(err).toContain(words);
  });
  it('has nothing to write to where a project is piped in', async () => {
    expect(await oquel('fix', '-', '--rule', 'x', '--write')).toMatchObject({ code: 2 });
  });
});
