import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { DEMO, newDatabase, TestServer } from '../../apps/server/test/harness.js';

const folder = mkdtempSync(join(tmpdir(), 'oquel-backup-'));
const kept = join(folder, 'kept');
let url: string;
let id: string;

/** Runs one of the scripts on a database. */
function run(
  script: 'backup' | 'restore',
  database: string,
  name: string,
): Promise<{ code: number | null; said: string }> {
  return new Promise((resolve) => {
    const env = { ...process.env, MIGRATION_URL: database, NODE_OPTIONS: '' };
    const child = spawn(process.execPath, [`scripts/${script}.mjs`, name], { env });
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.stderr.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.once('exit', (code) => resolve({ code, said }));
  });
}

beforeAll(async () => {
  url = await newDatabase();
  const server = await TestServer.start(url, { OQUEL_DEMO: DEMO });
  [{ id }] = (await server.get('/api/projects')).body as { id: string }[];
  const changes = [{ op: 'set', part: 'note', value: 'before the storm' }];
  const edit = { base: 1, label: 'a note', who: 'Pat', key: randomUUID(), changes };
  await server.post(`/api/projects/${id}/edits`, edit);
  await server.stop();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('a backup restored elsewhere audits the same, and its history is whole', async () => {
  const made = await run('backup', url, kept);
  expect(made).toMatchObject({
    code: 0,
    said: expect.stringMatching(/1 projects, 1 edits and \d+ builds are in/),
  });
  expect(JSON.parse(readFileSync(join(kept, 'projects.json'), 'utf8'))).toMatchObject({
    projects: [{ id, version: 2, summary: { error: 19 } }],
  });
  const other = await newDatabase();
  const restored = await run('restore', other, kept);
  expect(restored).toMatchObject({ code: 0, said: expect.stringContaining('all audit as they did') });
  const server = await TestServer.start(other);
  const { edits } = (await server.get(`/api/projects/${id}/edits?after=1`)).body as {
    edits: { label: string }[];
  };
  expect(edits.map((e) => e.label)).toEqual(['a note']);
  expect(((await server.get(`/api/projects/${id}/document`)).body as { note: string }).note).toBe(
    'before the storm',
  );
  await server.stop();
});

it('nothing that is in use is written over, and nothing is begun that cannot be done', async () => {
  expect(await run('restore', url, kept)).toMatchObject({
    code: 1,
    said: expect.stringContaining('is not empty'),
  });
  expect(await run('backup', url, kept)).toMatchObject({
    code: 1,
    said: expect.stringContaining('is there already'),
  });
  const nothing = await run('restore', url, join(folder, 'nothing'));
  expect(nothing).toMatchObject({ code: 1, said: expect.stringContaining('npm run backup') });
  expect(existsSync(join(folder, 'nothing'))).toBe(false);
});
