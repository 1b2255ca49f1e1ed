import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import pg from 'pg';
import { DEMO, newDatabase, TestServer, type Answer } from './harness.js';

let server: TestServer;
let at: string;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
}, 60_000);
// A project of its own for each, which no worker has read yet.
beforeEach(async () => {
  const { id } = (await server.post('/api/projects', readFileSync(DEMO, 'utf8'))).body;
  at = `/api/projects/${id}/audit?today=2026-11-01`;
});
afterAll(() => server.stop());

/** More than are worked on and wait in the line. */
const MANY = 120;

describe('more audits at once than the server takes on', () => {
  it('are answered or refused as busy, each of them, and small requests meanwhile; after it, all is as before', async () => {
    const alone = await server.get(at);
    const audits = Array.from({ length: MANY }, () => server.get(at));
    expect(await server.get('/api/health')).toMatchObject({ status: 200 });
    const count = { answered: 0, busy: 0 };
    for (const answer of await Promise.all(audits)) count[kindOf(answer, alone.text)]++;
    expect(count.answered + count.busy).toBe(MANY);
    expect(Math.min(count.answered, count.busy)).toBeGreaterThan(0);
    expect(kindOf(await server.get(at), alone.text)).toBe('answered');
  }, 60_000);

  it('leave the line when nobody waits for them any more', async () => {
    const database = new pg.Client({ connectionString: server.databaseUrl });
    await database.connect();
    await database.query('begin; lock table assets in access exclusive mode');
    const gone = new AbortController();
    let refused = 0;
    const left = Array.from({ length: MANY }, () =>
      fetch(server.url + at, { signal: gone.signal }).then(
        () => refused++,
        () => 'left',
      ),
    );
    while (refused === 0) await pause(20);
    gone.abort();
    await Promise.all(left);
    // The lock holds up every audit that was taken on: one more is taken on only if those have gone.
    let next = server.get(at);
    for (let i = 0; i < 20 && (await Promise.race([next, pause(1000)])); i++) {
      await pause(100);
      next = server.get(at);
    }
    await database.query('rollback');
    await database.end();
    expect(await next).toMatchObject({ status: 200 });
  }, 60_000);
});

const pause = (ms: number): Promise<null> => new Promise((resolve) => setTimeout(() => resolve(null), ms));
function kindOf(answer: Answer, right: string): 'answered' | 'busy' {
  if (answer.status === 200) expect(answer.text).toBe(right);
  else {
    expect(answer).toMatchObject({ status: 503, type: 'application/problem+json' });
    expect(answer.body).toMatchObject({ type: expect.stringContaining('busy') });
  }
  return answer.status === 200 ? 'answered' : 'busy';
}
