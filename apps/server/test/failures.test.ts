import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let databaseUrl: string;
beforeAll(async () => {
  databaseUrl = await newDatabase();
});

describe('a server that is killed', () => {
  it('leaves whole edits behind: each that was answered is there, and no half of another', async () => {
    let server = await TestServer.start(databaseUrl);
    const id = await server.import(smallProject());
    let answered = 0;
    const sending = (async () => {
      for (let i = 0; i < 500; i++) {
        const changes = ['a', 'b'].map((half) => ({
          op: 'insert',
          list: 'bindings',
          asset: 'pylon-ridge',
          index: 0,
          item: engage(`n${i}${half}`, 'brake-2'),
        }));
        const { status } = await server.post(`/api/projects/${id}/edits`, {
          base: i + 1,
          changes,
          label: 'two',
          who: 'x',
        });
        if (status === 201) answered = i + 1;
      }
    })().catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 600));
    await server.stop('SIGKILL');
    await sending;
    server = await TestServer.start(databaseUrl);
    const { body } = await server.get(`/api/projects/${id}`);
    await server.stop();
    const edits = body.version - 1;
    expect(answered).toBeGreaterThan(0);
    expect(edits).toBeGreaterThanOrEqual(answered);
    expect(body.document.assets[0].bindings).toHaveLength(1 + 2 * edits);
  });
});

describe('a server that is killed in the middle of an import', () => {
  it('leaves nothing half stored, and what was there before as it was', async () => {
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    const rows = async (): Promise<Record<string, string>> => {
      const counts = ['projects', 'assets', 'placements', 'bindings'].map(
        (table) => `(select count(*) from ${table}) as ${table}`,
      );
      const result = await client.query<Record<string, string>>(`select ${counts.join(', ')}`);
      return result.rows[0];
    };
    let server = await TestServer.start(databaseUrl);
    const kept = await server.import(smallProject());
    const before = await rows();
    const large = smallProject();
    large.assets[0].bindings = Array.from({ length: 30_000 }, (_, i) => engage(`n${i}`, 'brake-1'));
    // Somebody else holds the last table that an import fills, so that it stands still half done.
    const other = new pg.Client({ connectionString: databaseUrl });
    await other.connect();
    await other.query('begin; lock table bindings in share mode');
    const importing = server.post('/api/projects', large).then(
      (answer) => answer.status,
      () => 'cut off',
    );
    const waits =
      "select 1 from pg_locks join pg_class on relation = pg_class.oid where relname = 'bindings' and not granted";
    while ((await client.query(waits)).rowCount === 0)
      await new Promise((resolve) => setTimeout(resolve, 20));
    await server.stop('SIGKILL');
    expect(await importing).toBe('cut off');
    await other.query('rollback');
    await other.end();
    server = await TestServer.start(databaseUrl);
    // PostgreSQL notices the lost connection when it next reads from it.
    const busy = "select 1 from pg_stat_activity where datname = current_database() and query like 'copy %'";
    while ((await client.query(`${busy} and state <> 'idle'`)).rowCount !== 0) {
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect(await rows()).toEqual(before);
    expect((await server.get(`/api/projects/${kept}/document`)).body).toEqual(smallProject());
    expect(((await server.get('/api/projects')).body as unknown[]).length).toBe(Number(before.projects));
    expect(await server.import(large)).toEqual(expect.any(String));
    await server.stop();
    await client.end();
  });
});

describe('a connection that is lost', () => {
  it('in the middle of a statement or a transaction ends that request alone, again and again', async () => {
    const server = await TestServer.start(databaseUrl);
    const admin = new pg.Client({ connectionString: process.env.OQUEL_TEST_POSTGRES });
    await admin.connect();
    const name = new URL(databaseUrl).pathname.slice(1);
    const id = await server.import(smallProject());
    const stored = new Set<string>();
    let going = true;
    const client = async (c: number): Promise<void> => {
      for (let i = 0; going; i++) {
        const binding = `c${c}n${i}`;
        const change = {
          op: 'insert',
          list: 'bindings',
          asset: 'pylon-ridge',
          index: 0,
          item: engage(binding, 'brake-2'),
        };
        const body = { base: 1, changes: [change], label: binding, who: 'x', key: crypto.randomUUID() };
        let answer = await server.post(`/api/projects/${id}/edits`, body);
        for (; answer.status === 503; answer = await server.post(`/api/projects/${id}/edits`, body)) {
          await new Promise((resolve) => setTimeout(resolve, 20));
        }
        expect(answer.status).toBe(201);
        stored.add(binding);
      }
    };
    const clients = [0, 1, 2, 3].map(client);
    for (let i = 0; i < 25; i++) {
      await new Promise((resolve) => setTimeout(resolve, 60));
      await admin.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
    }
    going = false;
    await Promise.all(clients);
    expect(server.process.exitCode).toBeNull();
    const { body } = await server.get(`/api/projects/${id}`);
    const bindings = (body.document.assets[0].bindings as { id: string }[]).map((b) => b.id);
    expect(stored.size).toBeGreaterThan(0);
    expect(bindings.sort()).toEqual([...stored, 'gust-1'].sort());
    expect(body.version).toBe(stored.size + 1);
    await admin.end();
    await server.stop();
  });
});

describe('a database that goes away', () => {
  let server: TestServer;
  let admin: pg.Client;
  const name = (): string => new URL(databaseUrl).pathname.slice(1);
  beforeAll(async () => {
    server = await TestServer.start(databaseUrl);
    admin = new pg.Client({ connectionString: process.env.OQUEL_TEST_POSTGRES });
    await admin.connect();
  });
  afterAll(async () => {
    await admin.end();
    await server.stop();
  });

  it('is reported as such, and used again when it is back', async () => {
    const id = await server.import(smallProject());
    await admin.query(`alter database ${name()} allow_connections false`);
    await admin.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name()}'`);
    await new Promise((resolve) => setTimeout(resolve, 200));
    const health = await server.get('/api/health');
    const opening = await server.get(`/api/projects/${id}`);
    await admin.query(`alter database ${name()} allow_connections true`);
    expect(health).toMatchObject({ status: 503, type: 'application/problem+json' });
    expect(opening.status).toBe(503);
    expect(opening.body.type).toBe('urn:oquel:problem:database-down');
    expect(await server.get('/api/health')).toMatchObject({ status: 200, body: { status: 'ok' } });
    expect((await server.get(`/api/projects/${id}`)).status).toBe(200);
  });
});

describe('a database that fails in the middle of storing', () => {
  const failures: [string, string, string][] = [
    ['its disk is full', "raise exception 'no space' using errcode = '53100'", 'disk-full'],
    ['it drops the connection', 'perform pg_terminate_backend(pg_backend_pid())', 'database-down'],
  ];
  it.each(failures)('says so when %s, stores nothing, and goes on after it', async (_name, failure, type) => {
    const url = await newDatabase();
    const server = await TestServer.start(url);
    const before = (await server.get('/api/projects')).text;
    const database = new pg.Client({ connectionString: url });
    await database.connect();
    await database.query(
      `create function fail() returns trigger language plpgsql as $$ begin ${failure}; return new; end $$;
       create trigger fail before insert on bindings for each row execute function fail()`,
    );
    const answer = await server.post('/api/projects', smallProject());
    expect(answer).toMatchObject({ status: 503, body: { type: `urn:oquel:problem:${type}` } });
    await database.query('drop trigger fail on bindings');
    expect((await server.get('/api/projects')).text).toBe(before);
    expect(await server.import(smallProject())).toEqual(expect.any(String));
    await database.end();
    await server.stop();
  });
});
