import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readConfig } from '../src/config.js';
import { settingsPage } from '../src/settings-page.js';
import { TestServer } from './harness.js';

const ENV = { DATABASE_URL: 'postgres://somewhere' };

describe('settings', () => {
  it('the page on them is that of the code: `npm run docs` writes it', () => {
    const page = readFileSync(new URL('../../../docs/settings.md', import.meta.url), 'utf8');
    const plain = (text: string): string => text.replace(/ +/g, ' ').replace(/-{3,}/g, '---');
    expect(plain(page)).toBe(plain(settingsPage()));
  });

  it.each([
    ['PORT', '70000', 'PORT must be a number from 0 to 65535, not "70000"'],
    ['PORT', '80.5', 'PORT must be a number'],
    ['OQUEL_TEAM', 'yes', 'OQUEL_TEAM must be 0 or 1, not "yes"'],
    ['OQUEL_URL', 'oquel.example', 'OQUEL_URL must be an address such as https://oquel.example'],
    ['OQUEL_URL', 'https://oquel.example/there', 'OQUEL_URL must be an address'],
    ['LOG_LEVEL', 'loud', 'LOG_LEVEL must be one of fatal'],
    ['OQUEL_POOL', '1', 'OQUEL_POOL must be a number from 2'],
    ['OQUEL_BIN_DAYS', '-1', 'OQUEL_BIN_DAYS must be a number'],
  ])('%s=%s is refused in words', (name, value, words) => {
    expect(() => readConfig({ ...ENV, [name]: value })).toThrow(words);
  });
  it('and the server says so in one line, and does not start', async () => {
    const started = TestServer.start('postgres://somewhere', { OQUEL_POOL: 'many' });
    await expect(started).rejects.toThrow(
      /ended: The server could not start: OQUEL_POOL must be a number from 2 to 500, not "many"\n$/,
    );
  });
  it('a database is needed', () => {
    expect(() => readConfig({})).toThrow('DATABASE_URL must name a PostgreSQL database');
  });

  it.each([
    [{}, false],
    [{ OQUEL_TEAM: '1' }, true],
    [{ HOST: '0.0.0.0' }, true],
    [{ HOST: '0.0.0.0', OQUEL_TEAM: '0' }, true],
    [{ HOST: '::1' }, false],
    [{ HOST: '' }, false],
  ])('%j: people sign in: %s', (env, team) => {
    expect(readConfig({ ...ENV, ...env }).team).toBe(team);
  });
});
