import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { newDatabase, TestServer, type Answer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let server: TestServer;
let database: pg.Client;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  database = new pg.Client({ connectionString: server.databaseUrl });
  await database.connect();
});
afterAll(async () => {
  await database.end();
  await server.stop();
});
const lineOf = async (id: string): Promise<Record<string, unknown> | undefined> =>
  ((await server.get('/api/projects')).body as Record<string, unknown>[]).find((p) => p.id === id);
const put = (id: string, state: unknown): Promise<Answer> =>
  server.call('PATCH', `/api/projects/${id}`, { state });
const edit = (id: string, base: number, name: string): Promise<Answer> =>
  server.post(`/api/projects/${id}/edits`, {
    base,
    label: `renamed the project to ${name}`,
    who: 'Ada',
    key: randomUUID(),
    changes: [{ op: 'set', part: 'name', value: name }],
  });

describe('the list of projects', () => {
  it('tells who changed each last, and what', async () => {
    const id = await server.import(smallProject());
    expect(await lineOf(id)).toMatchObject({ state: 'open', here: [], gate: null, goneAt: null });
    expect(await lineOf(id)).not.toHaveProperty('last');
    expect((await edit(id, 1, 'Ridge')).status).toBe(201);
    const last = { who: 'Ada', label: 'renamed the project to Ridge' };
    expect(await lineOf(id)).toMatchObject({ name: 'Ridge', version: 2, last });
    await server.post(`/api/projects/${id}/undo`, { base: 2, who: 'Ben', version: 2 });
    expect(await lineOf(id)).toMatchObject({
      name: 'Corner of Veyra',
      last: { who: 'Ben', label: 'undid: renamed the project to Ridge' },
    });
  });

  it('tells the gate of the newest audit, with its version and counts', async () => {
    const id = await server.import(smallProject());
    const at = `/api/projects/${id}/gate?today=2026-11-24`;
    const { body: gate } = await server.get(at);
    const { body: audit } = await server.get(`/api/projects/${id}/audit?today=2026-11-24`);
    expect(gate).toEqual({
      version: 1,
      today: '2026-11-24',
      gate: audit.gate,
      bindings: 1,
      ...audit.summary,
    });
    expect(await lineOf(id)).toMatchObject({ gate });
    await edit(id, 1, 'Ridge');
    expect(await lineOf(id)).toMatchObject({ version: 2, gate: { version: 1 } });
    expect((await server.get(at)).body).toEqual({ ...gate, version: 2 });
    expect((await server.get(`/api/projects/${id}/gate?today=2026-11-32`)).status).toBe(400);
  });

  it('tells who has a project open', async () => {
    const id = await server.import(smallProject());
    const stop = new AbortController();
    const stream = randomUUID();
    const live = await fetch(`${server.url}/api/live?stream=${stream}&projects=${id}`, {
      signal: stop.signal,
    });
    const say = (who: string): object => ({ client: randomUUID(), who, place: 'wire', project: id });
    await server.post(`/api/live/${stream}`, { windows: [say('Ada'), say('Ada'), say('Ben')] });
    expect(await lineOf(id)).toMatchObject({ here: ['Ada', 'Ben'] });
    stop.abort();
    await live.text().catch(() => undefined);
  });
});

describe('a project', () => {
  it('is archived, deleted and restored with all that it holds; a deleted one is closed to everything', async () => {
    const id = await server.import(smallProject());
    await edit(id, 1, 'Ridge');
    await server.post(`/api/projects/${id}/builds`, {
      base: 2,
      name: 'first',
      who: 'Ada',
      key: randomUUID(),
    });
    expect((await put(id, 'archived')).status).toBe(204);
    expect(await lineOf(id)).toMatchObject({ state: 'archived', goneAt: null });
    expect((await server.get(`/api/projects/${id}`)).status).toBe(200);
    expect((await put(id, 'deleted')).status).toBe(204);
    const line = await lineOf(id);
    expect(line).toMatchObject({ state: 'deleted' });
    const days = (Date.parse(String(line!.goneAt)) - Date.now()) / 86_400_000;
    expect(days).toBeGreaterThan(29.9);
    expect(days).toBeLessThanOrEqual(30);
    for (const answer of [
      await server.get(`/api/projects/${id}`),
      await server.get(`/api/projects/${id}/document`),
      await server.get(`/api/projects/${id}/audit`),
      await server.get(`/api/projects/${id}/gate`),
      await edit(id, 2, 'Other'),
      await server.post(`/api/projects/${id}/undo`, { base: 2, who: 'Ada' }),
      await server.post(`/api/projects/${id}/copy`, { name: 'Twin', key: randomUUID() }),
    ]) {
      expect(answer).toMatchObject({ status: 410, body: { type: 'urn:oquel:problem:project-deleted' } });
    }
    expect((await put(id, 'open')).status).toBe(204);
    expect((await server.get(`/api/projects/${id}`)).body).toMatchObject({
      version: 2,
      document: { name: 'Ridge' },
    });
    expect((await server.get(`/api/projects/${id}/builds`)).body).toHaveLength(1);
    expect((await edit(id, 2, 'Other')).status).toBe(201);
  });

  it('is gone for good after 30 days in the bin, with its log and builds, and not before', async () => {
    const [late, soon, kept] = [
      await server.import(smallProject()),
      await server.import(smallProject()),
      await server.import(smallProject()),
    ];
    await edit(late, 1, 'Ridge');
    for (const id of [late, soon]) await put(id, 'deleted');
    await put(kept, 'archived');
    const aged = 'update projects set state_at = now() - make_interval(days => $2) where id = $1';
    await database.query(aged, [late, 31]);
    await database.query(aged, [soon, 29]);
    await database.query(aged, [kept, 300]);
    // Putting it there again does not begin the time anew.
    await put(soon, 'deleted');
    const other = await TestServer.start(server.databaseUrl);
    const end = Date.now() + 20_000;
    while ((await lineOf(late)) && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, 100));
    await other.stop();
    expect(await lineOf(late)).toBeUndefined();
    expect((await database.query('select 1 from edits where project_id = $1', [late])).rowCount).toBe(0);
    expect(await lineOf(soon)).toMatchObject({ state: 'deleted' });
    expect(await lineOf(kept)).toMatchObject({ state: 'archived' });
    expect((await put(late, 'open')).status).toBe(404);
  });

  it('is copied as it is now, once for each key, and the copy goes its own way', async () => {
    const id = await server.import(smallProject());
    await edit(id, 1, 'Ridge');
    const key = randomUUID();
    const copies = await Promise.all(
      [1, 2, 3].map(() => server.post(`/api/projects/${id}/copy`, { name: 'Twin', key })),
    );
    const [copy] = copies.filter((c) => c.status === 201).map((c) => c.body.id as string);
    for (const c of copies) if (c.status === 201) expect(c.body.id).toBe(copy);
    expect((await server.post(`/api/projects/${id}/copy`, { name: 'Twin', key })).body.id).toBe(copy);
    expect((await server.get(`/api/projects/${copy}/document`)).body).toEqual({
      ...smallProject(),
      name: 'Twin',
    });
    expect(await lineOf(copy)).toMatchObject({ version: 1, state: 'open' });
    const item = engage('gust-2', 'brake-2');
    const changes = [{ op: 'insert', list: 'bindings', asset: 'pylon-ridge', index: 1, item }];
    const head = { base: 1, label: 'one more', who: 'Ada', key: randomUUID() };
    expect((await server.post(`/api/projects/${copy}/edits`, { ...head, changes })).status).toBe(201);
    expect((await server.get(`/api/projects/${id}/document`)).body).toEqual({
      ...smallProject(),
      name: 'Ridge',
    });
  });

  const wrong: [string, () => Promise<Answer>, number][] = [
    ['a state that there is not', () => put(randomUUID(), 'lost'), 400],
    ['no state', () => put(randomUUID(), undefined), 400],
    ['a project that there is not', () => put(randomUUID(), 'archived'), 404],
    [
      'a copy of none',
      () => server.post(`/api/projects/${randomUUID()}/copy`, { name: 'x', key: randomUUID() }),
      404,
    ],
    [
      'a copy without a name',
      () => server.post(`/api/projects/${randomUUID()}/copy`, { name: '', key: randomUUID() }),
      400,
    ],
    ['a copy without a key', () => server.post(`/api/projects/${randomUUID()}/copy`, { name: 'x' }), 400],
  ];
  it.each(wrong)('%s is refused in words', async (_name, ask, status) => {
    const answer = await ask();
    expect(answer).toMatchObject({ status, type: 'application/problem+json' });
    expect(answer.body.detail).not.toBe('');
  });
});
