import { readFileSync } from 'node:fs';
import { expect, it } from '@jest/globals';
import { problemsPage } from '../src/http/problems-page.js';

it('the page on problems is that of the types as they are: `npm run docs` writes it', () => {
  const page = readFileSync(new URL('../../../docs/problems.md', import.meta.url), 'utf8');
  expect(page).toBe(problemsPage());
});
