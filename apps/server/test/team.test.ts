import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';
import { smallProject } from './small-project.js';
import { loginOf, passwordOf, Person, TestTeam } from './team-harness.js';
import { set, edit } from './team-words.js';

let team: TestTeam;
let project: string;
beforeAll(async () => {
  team = await TestTeam.start();
  project = await team.project(team.chief, smallProject());
});
afterAll(() => team.stop());

describe('a server where nobody signs in', () => {
  it('lets everybody do everything, and has no people', async () => {
    const alone = await TestServer.start(await newDatabase());
    const { body } = await alone.get('/api/session');
    expect(body).toEqual({ team: false, account: null, sso: null, role: null });
    const id = await alone.import(smallProject());
    expect((await alone.post(`/api/projects/${id}/edits`, edit(1, [set('note', 'x')]))).status).toBe(201);
    expect((await alone.get('/api/people')).body).toMatchObject({ type: 'urn:oquel:problem:no-team' });
    await alone.stop();
  });
});

describe('the first administrator', () => {
  it('is invited by the link that the start prints, once', async () => {
    const server = await TestServer.start(await newDatabase(), { OQUEL_TEAM: '1' });
    const secret = await server.printed(/\/join#(\S+)/);
    const offer = await server.post('/api/join/offer', { secret });
    expect(offer.body).toMatchObject({ isAdministrator: true, madeBy: 'This server' });
    const first = new Person(server, 'First');
    await first.join(secret);
    expect((await first.get('/api/session')).body).toMatchObject({
      account: { name: 'First', isAdministrator: true },
    });
    const again = await server.post('/api/join', {
      secret,
      login: 'b',
      name: 'B',
      password: passwordOf('B'),
    });
    expect(again.body).toMatchObject({ status: 410, type: 'urn:oquel:problem:no-invitation' });
    await server.stop();
  });
});

describe('passwords', () => {
  it.each([
    ['too short', 'short', /fewer than 12/],
    ['a common one with digits after it', 'password12345678', /tried first/],
    ['digits alone', '123456789012345', /tried first/],
    ['few different characters', 'abababababababab', /different/],
    ['the sign-in name again and again', 'pat.pat.pat.pat.', /sign-in name|different/],
    ['too long', 'long enough, '.repeat(40), /more than 200/],
  ])('refuses one that is %s', async (_, password, why) => {
    const { body } = await team.chief.post('/api/invitations', { note: 'Pat' });
    const { secret } = body as { secret: string };
    const refused = await team.server.post('/api/join', { secret, login: 'pat.pat', name: 'Pat', password });
    expect(refused.status).toBe(400);
    expect((refused.body as { detail: string }).detail).toMatch(why);
    // The invitation is not used up by it.
    expect((await team.server.post('/api/join/offer', { secret })).status).toBe(200);
  });

  it('are kept as hashes, and sessions and tokens too', async () => {
    const client = new pg.Client({ connectionString: team.server.databaseUrl });
    await client.connect();
    const { rows } = await client.query<{ password: string }>('select password from accounts');
    expect(rows.every((r) => r.password.startsWith('scrypt$17$8$1$'))).toBe(true);
    const secret = team.chief.cookie.split('=')[1];
    const found = await client.query('select 1 from sessions where hash = $1', [secret]);
    expect(found.rowCount).toBe(0);
    await client.end();
  });

  it('are changed with the old one; all other sessions end', async () => {
    const pia = await team.person('Pia', project);
    const elsewhere = new Person(team.server, 'Pia');
    expect((await elsewhere.signIn()).status).toBe(201);
    const wrong = { old: 'not this one at all', password: 'a gorge full of snow' };
    expect((await pia.post('/api/account/password', wrong)).status).toBe(401);
    const right = { old: passwordOf('Pia'), password: 'a gorge full of snow' };
    expect((await pia.post('/api/account/password', right)).status).toBe(204);
    expect((await elsewhere.get('/api/projects')).status).toBe(401);
    expect((await pia.get('/api/projects')).status).toBe(200);
    expect((await elsewhere.signIn()).status).toBe(401);
  });
});

describe('sessions', () => {
  it('have a cookie that scripts and other sites do not get', async () => {
    const someone = await team.person('Cookie', null);
    const answer = await someone.signIn();
    const [cookie] = answer.headers.getSetCookie();
    expect(cookie).toMatch(/^__Host-oquel=[\w-]{43};/);
    for (const part of ['Path=/', 'HttpOnly', 'Secure', 'SameSite=Lax']) expect(cookie).toContain(part);
    expect(cookie).not.toContain('Domain');
  });

  it('are another one after each sign-in, and over after signing out', async () => {
    const bo = await team.person('Bo', project);
    const before = bo.cookie;
    await bo.signIn();
    expect(bo.cookie).not.toBe(before);
    const old = new Person(team.server, 'Bo');
    old.cookie = before;
    expect((await old.get('/api/projects')).status).toBe(401);
    const own = bo.cookie;
    expect((await bo.call('DELETE', '/api/session')).status).toBe(204);
    old.cookie = own;
    expect((await old.get('/api/projects')).status).toBe(401);
  });

  it('are not set by whoever sends a cookie of their own', async () => {
    const forged = new Person(team.server, 'Nobody');
    for (const value of ['x', 'a'.repeat(43), '%00', "' or 1=1 --"]) {
      forged.cookie = `__Host-oquel=${value}`;
      expect((await forged.get('/api/projects')).status).toBe(401);
    }
    const fixed = new Person(team.server, 'Bo');
    fixed.cookie = `__Host-oquel=${'f'.repeat(43)}`;
    await fixed.signIn();
    expect(fixed.cookie).not.toContain('fff');
  });

  it('are listed, and can be ended one by one', async () => {
    const kim = await team.person('Kim', project);
    const elsewhere = new Person(team.server, 'Kim');
    await elsewhere.signIn();
    const list = (await kim.get('/api/account/sessions')).body as { id: string; isThis: boolean }[];
    expect(list.map((s) => s.isThis).sort()).toEqual([false, true]);
    const other = list.find((s) => !s.isThis)!.id;
    expect((await kim.call('DELETE', `/api/account/sessions/${other}`)).status).toBe(204);
    expect((await elsewhere.get('/api/projects')).status).toBe(401);
    // Nobody ends somebody else's.
    const [own] = (await kim.get('/api/account/sessions')).body as { id: string }[];
    expect((await team.chief.call('DELETE', `/api/account/sessions/${own.id}`)).status).toBe(404);
  });

  it('are over when their time is, and after a week without a word', async () => {
    const client = new pg.Client({ connectionString: team.server.databaseUrl });
    await client.connect();
    for (const [name, part] of [
      ['Old One', "until = now() - interval '1 second'"],
      ['Quiet One', "seen_at = now() - interval '8 days'"],
    ]) {
      const someone = await team.person(name, project);
      await client.query(`update sessions set ${part} where account_id = $1`, [someone.id]);
      expect((await someone.get('/api/projects')).status).toBe(401);
    }
    await client.end();
  });
});

describe('whoever guesses', () => {
  it('waits longer and longer, and the right password waits with it', async () => {
    await team.person('Guessed', project);
    const guess = async (i: number): ReturnType<typeof team.server.post> =>
      await team.server.post('/api/session', { login: 'guessed', password: `guess ${i}` });
    for (let i = 0; i < 5; i++) expect((await guess(i)).status).toBe(401);
    // Until a wait is long enough that a slow machine does not outlast it.
    const waits = new Set<number>();
    for (let i = 5; Math.max(0, ...waits) < 8; i++) {
      const { status, headers } = await guess(i);
      if (status === 429) waits.add(Number(headers.get('retry-after')));
      else expect(status).toBe(401);
      await new Promise((done) => setTimeout(done, 100));
    }
    expect(waits.size).toBeGreaterThan(2);
    const right = await team.server.post('/api/session', {
      login: loginOf('Guessed'),
      password: passwordOf('Guessed'),
    });
    expect(right.status).toBe(429);
    expect(Number(right.headers.get('retry-after'))).toBeGreaterThan(0);
  });

  it('is reported the same of a name that is not there', async () => {
    const there = await team.server.post('/api/session', { login: 'ada.chief', password: 'nothing like it' });
    const not = await team.server.post('/api/session', { login: 'not.there', password: 'nothing like it' });
    const { request: _a, ...one } = there.body as Record<string, unknown>;
    const { request: _b, ...two } = not.body as Record<string, unknown>;
    expect(one).toEqual(two);
  });
});
