import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import { applyChanges, type Change, type Project } from '@oquel/core';
import pg from 'pg';
import { Random } from '../../../packages/core/test/random.js';
import { randomChange } from '../../../packages/core/test/random-change.js';
import { randomProject } from '../../../packages/core/test/random-project.js';
import { newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let server: TestServer;
/** Reads from the rows alone: it has made none of the edits. */
let other: TestServer;
beforeAll(async () => {
  const databaseUrl = await newDatabase();
  server = await TestServer.start(databaseUrl);
  other = await TestServer.start(databaseUrl);
});
afterAll(() => Promise.all([server.stop(), other.stop()]));

const SCENE = 'pylon-ridge';
const stored = async (id: string): Promise<string> => (await other.get(`/api/projects/${id}/document`)).text;
const send = async (id: string, base: number, changes: Change[]): Promise<number> => {
  const answer = await server.post(`/api/projects/${id}/edits`, { base, changes, label: 'x', who: 'ines' });
  if (answer.status !== 201) throw new Error(answer.text);
  return (answer.body as { version: number }).version;
};

describe('rows', () => {
  it('hold what the core makes of random edits, each undo included', async () => {
    for (let seed = 0; seed < 12; seed++) {
      const r = new Random(seed);
      let project: Project = randomProject(seed);
      const id = await server.import(project);
      let version = 1;
      for (let round = 0; round < 6; round++) {
        const changes: Change[] = [];
        let next = project;
        for (let i = 0; i < 1 + r.int(12); i++) {
          const change = randomChange(r, next);
          changes.push(change);
          next = applyChanges(next, [change]).project;
        }
        version = await send(id, version, changes);
        expect(await stored(id)).toBe(JSON.stringify(next));
        if (r.chance(0.5)) {
          const undone = await server.post(`/api/projects/${id}/undo`, { base: version, who: 'ines' });
          version = (undone.body as { version: number }).version;
          expect(await stored(id)).toBe(JSON.stringify(project));
        } else project = next;
      }
    }
  });

  it('take an edit of many thousand changes of any mix, and take it back, in a worker', async () => {
    const id = await server.import(smallProject());
    const r = new Random(1);
    const live = ['gust-1'];
    const changes = Array.from({ length: 8000 }, (_, i): Change => {
      const head = { list: 'bindings', asset: SCENE } as const;
      const one = live.length > 0 ? r.int(live.length) : -1;
      if (one < 0 || r.chance(0.6)) {
        live.push(`n${i}`);
        return { op: 'insert', ...head, index: r.int(live.length), item: engage(`n${i}`, 'brake-2') };
      }
      if (r.chance(0.3)) return { op: 'move', ...head, id: live[one], index: r.int(live.length) };
      const [item] = live.splice(one, 1);
      return { op: 'remove', ...head, id: item };
    });
    const before = await stored(id);
    const after = applyChanges(smallProject(), changes).project;
    await send(id, 1, changes);
    expect(await stored(id)).toBe(JSON.stringify(after));
    const undone = await server.post(`/api/projects/${id}/undo`, { base: 2, version: 2, who: 'ines' });
    expect(undone.status).toBe(201);
    expect(await stored(id)).toBe(before);
  });

  it('put many items into one place, and bring back a hundred that were removed', async () => {
    const document = smallProject();
    document.assets[0].bindings = Array.from({ length: 3000 }, (_, i) => engage(`b${i}`, 'brake-1'));
    const id = await server.import(document);
    const head = { list: 'bindings', asset: SCENE } as const;
    const removed = Array.from({ length: 100 }, (_, i): Change => ({
      op: 'remove',
      ...head,
      id: `b${i * 29}`,
    }));
    let version = await send(id, 1, removed);
    const undone = await server.post(`/api/projects/${id}/undo`, { base: version, who: 'ines' });
    version = (undone.body as { version: number }).version;
    expect(await stored(id)).toBe(JSON.stringify(document));
    const inserted = Array.from({ length: 500 }, (_, i): Change => ({
      op: 'insert',
      ...head,
      index: 7,
      item: engage(`n${i}`, 'brake-2'),
    }));
    await send(id, version, inserted);
    expect(await stored(id)).toBe(JSON.stringify(applyChanges(document, inserted).project));
  });

  const NAMES = Object.getOwnPropertyNames(Object.prototype).concat('prototype');
  it.each(NAMES)('keep the name %s wherever a name can stand', async (name) => {
    const id = await server.import(smallProject());
    // As text, since a literal `__proto__` in code is no property.
    const named = (value: unknown): unknown =>
      JSON.parse(`{${JSON.stringify(name)}:${JSON.stringify(value)}}`);
    const changes = [
      {
        op: 'insert',
        list: 'bindings',
        asset: SCENE,
        index: 1,
        item: { ...engage('own', 'brake-2'), args: named(1), ...(named('unknown') as object) },
      },
      {
        op: 'insert',
        list: 'placements',
        asset: SCENE,
        index: 0,
        item: { id: 'p', asset: 'WindMast', properties: named(2) },
      },
    ];
    const text = JSON.stringify({ base: 1, changes, label: 'x', who: 'ines' });
    expect((await server.call('POST', `/api/projects/${id}/edits`, text)).status).toBe(201);
    const own = JSON.stringify(named(1));
    const stands = await stored(id);
    expect(stands).toContain(`"args":${own}`);
    expect(stands).toContain(`"properties":${JSON.stringify(named(2))}`);
    if (name !== '__proto__') expect(stands).toContain(`"${name}":"unknown"`);
    const undone = await server.post(`/api/projects/${id}/undo`, { base: 2, who: 'ines' });
    expect(undone.status).toBe(201);
    expect(await stored(id)).toBe(JSON.stringify(smallProject()));
  });

  it('keep every character of a text: NUL, half of a surrogate pair, escapes, line ends', async () => {
    const id = await server.import(smallProject());
    const texts = ['a\0b', '\ud800', '\udfff!', '\\u0000', '\\x', '"', '\u2028', '\u{1f32a}', '\r\n\t'];
    const changes = texts.map((text, i): Change => {
      const item = { ...engage(`t${i}`, 'brake-2'), args: { force: text } };
      return { op: 'insert', list: 'bindings', asset: SCENE, index: i, item };
    });
    await send(id, 1, changes);
    const after = applyChanges(smallProject(), changes).project;
    expect(await stored(id)).toBe(JSON.stringify(after));
    const swapped = texts.map((text, i): Change => {
      const item = { ...engage(`t${i}`, 'brake-1'), args: { force: `${text}${text}` } };
      return { op: 'replace', list: 'bindings', asset: SCENE, id: `t${i}`, item };
    });
    await send(id, 2, swapped);
    expect(await stored(id)).toBe(JSON.stringify(applyChanges(after, swapped).project));
  });

  it('refuse a place that is no whole number', async () => {
    const id = await server.import(smallProject());
    const change = { op: 'insert', list: 'bindings', asset: SCENE, index: 0.5, item: engage('a', 'brake-1') };
    const answer = await server.post(`/api/projects/${id}/edits`, {
      base: 1,
      changes: [change],
      label: 'x',
      who: 'ines',
    });
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toMatch(/a whole number/);
  });
});

describe('rows of an asset', () => {
  const clients: pg.Client[] = [];
  const connect = async (): Promise<pg.Client> => {
    const client = new pg.Client({ connectionString: server.databaseUrl });
    await client.connect();
    clients.push(client);
    return client;
  };
  afterEach(() => Promise.all(clients.splice(0).map((client) => client.end())));
  const put = (client: pg.Client, id: string, table: string, asset: string): Promise<unknown> =>
    client.query(
      `insert into ${table} (project_id, asset_id, id, body, pos) values ($1, $2, 'late', '{}', 1)`,
      [id, asset],
    );
  const count = async (client: pg.Client, id: string, table: string): Promise<number> =>
    Number((await client.query(`select count(*) from ${table} where project_id = $1`, [id])).rows[0].count);

  it.each(['placements', 'bindings'])('are refused in %s where the asset is not there', async (table) => {
    const id = await server.import(smallProject());
    const client = await connect();
    await expect(put(client, id, table, 'nowhere')).rejects.toMatchObject({
      code: '23503',
      message: expect.stringContaining('"nowhere"') as unknown,
    });
  });

  it.each(['placements', 'bindings'])('keep their key in %s', async (table) => {
    const id = await server.import(smallProject());
    const client = await connect();
    const renamed = client.query(`update ${table} set asset_id = 'other' where project_id = $1`, [id]);
    await expect(renamed).rejects.toMatchObject({ code: '23000' });
    const moved = client.query(`update assets set id = 'other' where project_id = $1 and id = $2`, [
      id,
      SCENE,
    ]);
    await expect(moved).rejects.toMatchObject({ code: '23000' });
  });

  it('go with it, and with its project', async () => {
    const id = await server.import(smallProject());
    const kept = await server.import(smallProject());
    const client = await connect();
    const before = await count(client, kept, 'bindings');
    await client.query('delete from assets where project_id = $1 and id = $2', [id, SCENE]);
    expect(await count(client, id, 'bindings')).toBe(0);
    await client.query('delete from projects where id = $1', [id]);
    expect(await count(client, id, 'placements')).toBe(0);
    expect(before).toBeGreaterThan(0);
    expect(await count(client, kept, 'bindings')).toBe(before);
  });

  it('are not left behind by an asset that goes while they are written', async () => {
    const id = await server.import(smallProject());
    const [writer, remover, observer] = [await connect(), await connect(), await connect()];
    await writer.query('begin');
    await put(writer, id, 'bindings', SCENE);
    const removed = remover.query('delete from assets where project_id = $1 and id = $2', [id, SCENE]);
    await waiting(observer);
    await writer.query('commit');
    await removed;
    expect(await count(observer, id, 'bindings')).toBe(0);
  });

  it('are not written into an asset that goes meanwhile', async () => {
    const id = await server.import(smallProject());
    const [writer, remover, observer] = [await connect(), await connect(), await connect()];
    await remover.query('begin');
    await remover.query('delete from assets where project_id = $1 and id = $2', [id, SCENE]);
    const written = put(writer, id, 'bindings', SCENE).then(
      () => 'written',
      (error: { code: string }) => error.code,
    );
    await waiting(observer);
    await remover.query('commit');
    expect(await written).toBe('23503');
    expect(await count(observer, id, 'bindings')).toBe(0);
  });
});

/** Returns once somebody waits for somebody else's lock. */
async function waiting(client: pg.Client): Promise<void> {
  for (;;) {
    const { rows } = await client.query(
      "select 1 from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()",
    );
    if (rows.length > 0) return;
  }
}
