import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { ALL_RULES } from '@oquel/core';
import { oquel } from './harness.js';

describe('oquel explain', () => {
  it.each(ALL_RULES.map((r) => [r.meta.name, r.meta] as const))('says it of %s', async (name, meta) => {
    const { code, out } = await oquel('explain', name);
    expect(code).toBe(0);
    for (const part of [name, meta.what, meta.why, meta.fix]) expect(out).toContain(part);
    for (const cls of Object.keys(meta.classes ?? {})) {
      expect((await oquel('explain', `${name}/${cls}`)).out).toContain(
        `${name}/${cls}: ${meta.classes![cls]}`,
      );
    }
  });
  it('lists all of them', async () => {
    const { code, out } = await oquel('explain');
    expect(code).toBe(0);
    expect(
      out
        .trimEnd()
        .split('\n')
        .map((line) => line.split(' ')[0]),
    ).toEqual(ALL_RULES.map((r) => r.meta.name));
  });
  it.each([
    ['dangling-targets', /there is no rule dangling-targets; did you mean dangling-target/],
    ['relay-cycle/endless', /no rule relay-cycle\/endless; did you mean relay-cycle\//],
    ['constructor', /there is no rule constructor\n/],
    ['relay-cycle/constructor', /no rule relay-cycle\/constructor/],
  ])('does not know %s', async (name, said) => {
    const { code, err } = await oquel('explain', name);
    expect(code).toBe(2);
    expect(err).toMatch(said);
  });
});

it('oquel --version says the version of the package', async () => {
  const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as {
    version: string;
  };
  expect(await oquel('--version')).toEqual({ code: 0, out: `${version}\n`, err: '' });
});
