import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import * as core from '@oquel/core';
import { API_REPORT, apiReport, ENTRIES } from '../lib/api-report.mjs';

const folder = new URL('../../packages/core/', import.meta.url);
const text = (path: string): string => readFileSync(new URL(path, folder), 'utf8');
const manifest = JSON.parse(text('package.json')) as {
  exports: Record<string, { types: string; default: string }>;
};

describe('the core as a library', () => {
  it('offers what its report says; `npm run docs` writes it anew', () => {
    expect(apiReport()).toBe(readFileSync(API_REPORT, 'utf8'));
  });

  it.each(ENTRIES)('has the entry %s, which the README describes', (entry) => {
    const { types, default: module } = manifest.exports[`./${entry}`];
    for (const path of [types, module]) expect(existsSync(new URL(path, folder))).toBe(true);
    expect(text('README.md')).toContain(`@oquel/core/${entry}`);
  });

  it('offers each thing from one entry, and all of them together', async () => {
    const from = new Map<string, string>();
    for (const entry of ENTRIES) {
      const module = (await import(new URL(manifest.exports[`./${entry}`].default, folder).href)) as object;
      for (const name of Object.keys(module)) {
        expect({ name, also: from.get(name) }).toEqual({ name, also: undefined });
        from.set(name, entry);
      }
    }
    expect([...from.keys()].sort()).toEqual(Object.keys(core).sort());
  });

  it('gives every error of its own a code', () => {
    const errors = Object.entries<unknown>({ ...core }).flatMap(([name, value]) =>
      typeof value === 'function' && value.prototype instanceof core.OquelError ? [name] : [],
    );
    expect(errors).toEqual(
      expect.arrayContaining([
        'BrokenDocument',
        'EditRefused',
        'ProjectTooLarge',
        'RuleFailed',
        'RuleRefused',
      ]),
    );
    try {
      core.readProjectText('[');
    } catch (error) {
      expect(error).toMatchObject({ name: 'BrokenDocument', code: 'broken-document' });
    }
  });

  it('does in its README what it says', async () => {
    const examples = [...text('README.md').matchAll(/```js\n([\s\S]*?)```/g)].map(([, code]) => code);
    expect(examples.length).toBeGreaterThan(2);
    for (const code of examples) {
      const resolved = code.replace(/from '@oquel\/core\/(\w+)'/g, (_, entry: string) => {
        return `from '${new URL(manifest.exports[`./${entry}`].default, folder).href}'`;
      });
      const module = (await import(`data:text/javascript,${encodeURIComponent(resolved)}`)) as {
        shown: unknown;
        expected: unknown;
      };
      expect(module.shown).toEqual(module.expected);
    }
  });
});
