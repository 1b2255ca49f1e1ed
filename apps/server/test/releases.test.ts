import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';
import { TestTeam } from './team-harness.js';

/** Data that earlier versions have made, each with what its own API said of it (`npm run keep-release`). */
const FOLDER = new URL('releases/', import.meta.url);
const RELEASES = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.sql.gz'))
  .map((name) => name.replace('.sql.gz', ''));
const unpacked = (name: string): string => gunzipSync(readFileSync(new URL(name, FOLDER))).toString();

interface Known {
  id: string;
  picture: string;
  token: string;
  said: Record<string, { document: object; edits: object[]; builds: { id: string }[]; audits: object }>;
}

async function restored(name: string): Promise<string> {
  const url = await newDatabase();
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(unpacked(`${name}.sql.gz`));
  await client.end();
  return url;
}

describe.each(RELEASES)('data of the release at %s', (name) => {
  const known = JSON.parse(unpacked(`${name}.json.gz`)) as Known;
  let server: TestServer;
  const path = (rest: string): string => `/api/projects/${known.id}/${rest}`;
  beforeAll(async () => {
    server = await TestServer.start(await restored(name));
  });
  afterAll(() => server.stop());

  it('are all there: documents, history, builds and their audits, pictures, the bin', async () => {
    for (const [id, said] of Object.entries(known.said)) {
      const at = `/api/projects/${id}`;
      expect((await server.get(`${at}/document`)).body).toEqual(said.document);
      expect((await server.get(`${at}/edits?after=0`)).body.edits).toEqual(said.edits);
      // What is new of a build may be added, nothing may be lost.
      expect((await server.get(`${at}/builds`)).body).toMatchObject(said.builds);
      for (const [build, audit] of Object.entries(said.audits))
        expect((await server.get(`${at}/builds/${build}/audit`)).body).toEqual(audit);
    }
    const picture = await fetch(`${server.url}${path(`pictures/${known.picture}`)}`);
    expect(picture.headers.get('content-type')).toBe('image/png');
    expect((await server.get(path('plays'))).body).toMatchObject([{ name: expect.any(String) }]);
    const { body } = await server.get('/api/projects');
    const states = (body as { state: string }[]).map((p) => p.state).sort();
    expect(states).toEqual(['deleted', ...Object.keys(known.said).map(() => 'open')]);
  });
  it('can be worked on: undone, redone, edited, frozen, and audited as before', async () => {
    const own = { who: 'mira', author: '6b1f0f4e-2a43-4a55-9d7c-1f6f8d5c7b10' };
    const { version } = (await server.get(`/api/projects/${known.id}`)).body;
    const undone = await server.post(path('undo'), { base: version, ...own });
    expect(undone).toMatchObject({
      status: 201,
      body: { edits: [{ kind: 'undo', label: 'quay: gate-1 moved' }] },
    });
    const redone = await server.post(path('redo'), { base: version + 1, ...own });
    expect(redone.status).toBe(201);
    expect((await server.get(path('document'))).body).toEqual(known.said[known.id].document);
    const frozen = await server.post(path('builds'), { base: version + 2, name: 'week 2', who: 'mira' });
    expect(frozen.body).toMatchObject({ name: 'week 2', gate: 'pass' });
    const [first] = known.said[known.id].builds;
    const back = await server.post(path(`builds/${first.id}/restore`), { base: version + 2, ...own });
    expect(back.status).toBe(201);
  });
  it('still take plays by their token, and become a team’s with an administrator', async () => {
    const sent = await fetch(`${server.url}${path('plays')}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${known.token}`, 'content-type': 'application/x-ndjson' },
      body: '{"t":0,"kind":"raise","at":"quay:bell-1","event":"onRung"}\n',
    });
    expect(sent.status).toBe(201);
    const team = await TestTeam.start({}, await restored(name));
    const { body } = await team.chief.get('/api/projects');
    expect((body as object[]).length).toBe(Object.keys(known.said).length + 1);
    await team.stop();
  });
});
