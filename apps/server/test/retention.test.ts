import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { Random } from '../../../packages/core/test/random.js';
import { newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';

/** The last edits of each project stay, whatever is asked for. */
const LAST = 100;
let server: TestServer;
let client: pg.Client;
let id: string;

beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  client = new pg.Client({ connectionString: server.databaseUrl });
  await client.connect();
});
afterAll(async () => {
  await client.end();
  await server.stop();
});
beforeEach(async () => {
  await client.query('delete from projects');
  id = await server.import(smallProject());
});

const note = (n: number): object => ({ op: 'set', asset: 'WindMast', part: 'note', value: `looked at ${n}` });
async function edit(base: number, label = 'a note'): Promise<{ status: number; body: { type: string } }> {
  return server.post(`/api/projects/${id}/edits`, { base, label, who: 'mira', changes: [note(base)] });
}
/** Puts a history of one's own into the database: an edit for each age, in days. */
async function history(ages: readonly number[]): Promise<void> {
  const changes = JSON.stringify([note(0)]);
  for (const [i, age] of ages.entries()) {
    await client.query(
      `insert into edits (project_id, version, kind, state, label, who, at, changes, inverse)
       values ($1, $2, 'edit', 'done', $3, 'mira', now() - make_interval(days => $4), $5, $5)`,
      [id, i + 2, `edit ${i + 2}`, age, changes],
    );
  }
  await client.query('update projects set version = $2 where id = $1', [id, ages.length + 1]);
}
async function versions(): Promise<number[]> {
  const { rows } = await client.query<{ version: number }>(
    'select version from edits where project_id = $1 order by version',
    [id],
  );
  return rows.map((r) => r.version);
}
const amounts = (query: string): ReturnType<TestServer['get']> => server.get(`/api/retention?${query}`);
const thin = (ages: object): ReturnType<TestServer['post']> => server.post('/api/retention', ages);

describe('old history', () => {
  it('is counted first, goes from its beginning, and leaves the last edits and the project', async () => {
    await history(Array.from({ length: 150 }, (_, i) => 500 - i));
    const before = await server.get(`/api/projects/${id}/document`);
    const said = (await amounts('history=365')).body[0].history;
    expect(said).toMatchObject({ all: 150, going: 50 });
    expect(said.bytes).toBeGreaterThan(1000);
    expect((await versions()).length).toBe(150);
    const gone = await thin({ history: 365 });
    expect(gone.body).toMatchObject([{ id, history: { going: 50 }, builds: { going: 0 } }]);
    expect((await versions())[0]).toBe(52);
    expect((await server.get(`/api/projects/${id}/document`)).body).toEqual(before.body);
    expect((await thin({ history: 365 })).body).toEqual([]);
  });
  it('that is gone cannot be built upon, undone or mistaken for nothing', async () => {
    await history(Array.from({ length: 150 }, () => 400));
    await thin({ history: 365 });
    expect(await edit(30)).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:unknown-version' },
    });
    const back = await server.post(`/api/projects/${id}/take-back`, { base: 151, version: 20, who: 'mira' });
    expect(back).toMatchObject({ status: 409, body: { type: 'urn:oquel:problem:not-in-force' } });
    // Whoever was at version 30 sees that it does not go on from there.
    const since = await server.get(`/api/projects/${id}/edits?after=30`);
    expect(since.body.edits[0].version).toBe(52);
    expect((await edit(151)).status).toBe(201);
    // An edit that another one has met is still carried over within what is left.
    expect(await edit(151, 'another')).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:stale-edit' },
    });
    expect((await server.post(`/api/projects/${id}/undo`, { base: 152, who: 'mira' })).status).toBe(201);
  });
  it('has no gap, in whatever order its times are', async () => {
    const random = new Random(7);
    for (let round = 0; round < 12; round++) {
      await client.query('delete from edits');
      const ages = Array.from({ length: 90 + random.int(90) }, () => random.int(60));
      await history(ages);
      const days = 7 + random.int(63);
      // Everything up to the last one that is old, but for the last edits.
      const lastOld = ages.findLastIndex((age) => age >= days) + 2;
      const upTo = Math.min(lastOld < 2 ? 0 : lastOld, ages.length + 1 - LAST);
      const kept = ages.map((_, i) => i + 2).filter((v) => v > upTo);
      const { going } = (await amounts(`history=${days}`)).body[0].history;
      await thin({ history: days });
      expect({ days, going, left: await versions() }).toEqual({
        days,
        going: ages.length - kept.length,
        left: kept,
      });
    }
  });
});

describe('old builds', () => {
  async function build(name: string, age: number, ...verdicts: ('through' | 'back')[]): Promise<string> {
    const { body } = await server.post(`/api/projects/${id}/builds`, { base: 1, name, who: 'mira' });
    for (const verdict of verdicts)
      await server.post(`/api/projects/${id}/builds/${body.id}/verdicts`, {
        verdict,
        reason: 'looked at',
        who: 'jon',
      });
    await client.query('update builds set at = now() - make_interval(days => $2) where id = $1', [
      body.id,
      age,
    ]);
    return body.id;
  }
  const names = async (): Promise<string[]> =>
    (await server.get(`/api/projects/${id}/builds`)).body.map((b: { name: string }) => b.name);

  it('go, but for the newest and those that were let through last', async () => {
    await build('first', 900);
    await build('shipped', 800, 'back', 'through');
    await build('withdrawn', 700, 'through', 'back');
    await build('last', 600);
    expect((await amounts('builds=365')).body[0].builds).toMatchObject({ all: 4, going: 2 });
    expect((await thin({ builds: 365 })).body).toMatchObject([{ builds: { going: 2 } }]);
    expect(await names()).toEqual(['shipped', 'last']);
  });
  it('stay when they are young, and when only the history is named', async () => {
    await build('first', 100);
    await build('second', 10);
    await thin({ builds: 365 });
    await thin({ history: 7 });
    expect(await names()).toEqual(['first', 'second']);
    await thin({ builds: 90 });
    expect(await names()).toEqual(['second']);
  });
});

it.each([{ history: 6 }, { history: 3651 }, { builds: 1.5 }, { builds: 'old' }, { plays: 30 }])(
  'refuses %j, and removes nothing',
  async (ages) => {
    await history([400, 400]);
    expect(await thin(ages)).toMatchObject({ status: 400, body: { type: 'urn:oquel:problem:bad-request' } });
    expect(await versions()).toEqual([2, 3]);
  },
);
