import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from '@jest/globals';
import { rulesPages } from '../src/index.js';

it('the pages on rules are those of the rules as they are: `npm run docs` writes them', () => {
  const folder = new URL('../../../docs/rules/', import.meta.url);
  const pages = rulesPages();
  expect(readdirSync(folder).sort()).toEqual([...pages.keys()].sort());
  for (const [name, text] of pages) expect(readFileSync(new URL(name, folder), 'utf8')).toBe(text);
});
