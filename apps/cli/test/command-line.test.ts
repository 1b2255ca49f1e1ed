import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, it } from '@jest/globals';
import { commandLinePage } from '../src/command-line-page.js';
import { oquel } from './harness.js';

it('the page on the command line is that of the commands as they are: `npm run docs` writes it', () => {
  const page = readFileSync(new URL('../../../docs/command-line.md', import.meta.url), 'utf8');
  expect(page).toBe(commandLinePage());
  // It is the same wherever the project stands.
  expect(page).not.toContain(fileURLToPath(new URL('../../../', import.meta.url)));
});
it('tells every command and option that the help tells', async () => {
  const page = commandLinePage();
  const { out } = await oquel('--help');
  const commands = [...out.matchAll(/^ {2}([a-z]+) (?:\[options\] )?[<[]?/gm)].map(([, name]) => name);
  expect(commands.length).toBeGreaterThan(10);
  for (const command of commands.filter((c) => c !== 'help')) {
    expect(page).toContain(`\n## ${command}\n`);
    const help = await oquel(command, '--help');
    for (const [, flag] of help.out.matchAll(/^ {2}(?:-\w, )?(--[a-z-]+)/gm)) {
      if (flag !== '--help') expect(page).toContain(flag);
    }
  }
});
