import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { smallProject } from './small-project.js';
import { passwordOf, Person, TestTeam } from './team-harness.js';
import { set, edit } from './team-words.js';

let team: TestTeam;
let project: string;
beforeAll(async () => {
  team = await TestTeam.start();
  project = await team.project(team.chief, smallProject());
});
afterAll(() => team.stop());
async function versionOf(id: string): Promise<number> {
  return ((await team.chief.get(`/api/projects/${id}`)).body as { version: number }).version;
}

describe('what people do', () => {
  it('stands under their own name, whatever they send', async () => {
    const dee = await team.person('Dee Designer', project, 'designer');
    const base = await versionOf(project);
    expect(
      (await dee.post(`/api/projects/${project}/edits`, edit(base, [set('note', 'by Dee')]))).status,
    ).toBe(201);
    const { edits } = (await dee.get(`/api/projects/${project}/edits?after=${base}`)).body as {
      edits: { who: string }[];
    };
    expect(edits.map((e) => e.who)).toEqual(['Dee Designer']);
    // A long one goes another way, by a worker.
    const notes = Array.from({ length: 10_000 }, (_, i) => set('note', `note ${i}`));
    const long = edit(base + 1, notes);
    expect((await dee.post(`/api/projects/${project}/edits`, long)).status).toBe(201);
    const after = (await dee.get(`/api/projects/${project}/edits?after=${base + 1}`)).body as {
      edits: { who: string }[];
    };
    expect(after.edits.map((e) => e.who)).toEqual(['Dee Designer']);
    const build = await team.chief.post(`/api/projects/${project}/builds`, {
      name: 'One',
      who: 'Forged',
      base: base + 2,
      key: randomUUID(),
    });
    expect(build.body).toMatchObject({ who: 'Ada Chief' });
    const { id } = build.body as { id: string };
    const said = await team.chief.post(`/api/projects/${project}/builds/${id}/verdicts`, {
      verdict: 'back',
      who: 'Forged',
      reason: 'no',
      key: randomUUID(),
    });
    expect(said.body).toMatchObject({ verdicts: [{ who: 'Ada Chief' }] });
  });

  it('a reader sees, and changes nothing', async () => {
    const rae = await team.person('Rae Reader', project, 'reader');
    const base = await versionOf(project);
    expect((await rae.get(`/api/projects/${project}/document`)).status).toBe(200);
    const refused = await rae.post(`/api/projects/${project}/edits`, edit(base, [set('note', 'by Rae')]));
    expect(refused.body).toMatchObject({
      status: 403,
      needs: 'designer',
      may: expect.arrayContaining(['Dee Designer']),
    });
    expect(await versionOf(project)).toBe(base);
  });

  it('policy and waivers take a lead, and nobody signs a waiver for somebody else', async () => {
    const dan = await team.person('Dan', project, 'designer');
    const lea = await team.person('Lea', project, 'lead');
    const waiver = { fingerprint: 'a'.repeat(16), reason: 'known', by: 'Lea' };
    const base = await versionOf(project);
    for (const change of [set('policy', { maxChain: 9 }), set('waivers', [waiver])]) {
      const refused = await dan.post(`/api/projects/${project}/edits`, edit(base, [change]));
      expect(refused.body).toMatchObject({ status: 403, needs: 'lead' });
    }
    const forged = edit(base, [set('waivers', [{ ...waiver, by: 'Dan' }])]);
    expect((await lea.post(`/api/projects/${project}/edits`, forged)).status).toBe(403);
    expect(
      (await lea.post(`/api/projects/${project}/edits`, edit(base, [set('waivers', [waiver])]))).status,
    ).toBe(201);
    // Undone by whoever may, and by nobody else.
    const undo = { base: base + 1, version: base + 1, who: 'x' };
    expect((await dan.post(`/api/projects/${project}/take-back`, undo)).status).toBe(403);
    expect((await lea.post(`/api/projects/${project}/take-back`, undo)).status).toBe(201);
  });

  it('a designer proposes a waiver, which a lead accepts by a waiver of their own', async () => {
    const own = await team.project(team.chief, { ...smallProject(), name: 'Proposals' });
    const dot = await team.person('Dot', own, 'designer');
    const fay = await team.person('Fay', own, 'lead');
    const proposal = { fingerprint: 'b'.repeat(16), reason: 'known', by: 'Dot', proposed: true };
    const send = (by: Person, base: number, waivers: object[]): Promise<{ status: number }> =>
      by.post(`/api/projects/${own}/edits`, edit(base, [set('waivers', waivers)]));
    expect((await send(dot, 1, [{ ...proposal, by: 'Fay' }])).status).toBe(403);
    expect((await send(dot, 1, [proposal])).status).toBe(201);
    const accepted = { fingerprint: proposal.fingerprint, reason: 'known', by: 'Fay' };
    expect((await send(dot, 2, [accepted])).status).toBe(403);
    expect((await send(dot, 2, [{ ...accepted, by: 'Dot' }])).status).toBe(403);
    expect((await send(fay, 2, [accepted])).status).toBe(201);
  });

  it('whoever makes a project leads it, and sees no other one', async () => {
    const eve = await team.person('Eve');
    expect((await eve.get('/api/projects')).body).toEqual([]);
    const own = await team.project(eve, { ...smallProject(), name: 'Of Eve' });
    expect(((await eve.get('/api/projects')).body as { id: string }[]).map((p) => p.id)).toEqual([own]);
    expect((await eve.get(`/api/session?project=${own}`)).body).toMatchObject({ role: 'lead' });
    const copy = await eve.post(`/api/projects/${own}/copy`, { name: 'Copy', key: randomUUID() });
    expect((await eve.get(`/api/session?project=${(copy.body as { id: string }).id}`)).body).toMatchObject({
      role: 'lead',
    });
  });
});

describe('people', () => {
  it('whose account is ended are out at once, and their name is free for nobody who signs', async () => {
    const max = await team.person('Max', project, 'designer');
    expect((await team.chief.call('PATCH', `/api/people/${max.id}`, { isEnded: true })).status).toBe(204);
    expect((await max.get('/api/projects')).status).toBe(401);
    expect((await max.signIn()).status).toBe(401);
    expect((await team.chief.call('PATCH', `/api/people/${max.id}`, { isEnded: false })).status).toBe(204);
    expect((await max.signIn()).status).toBe(201);
  });

  it('there is always an administrator', async () => {
    const last = await team.chief.call('PATCH', `/api/people/${team.chief.id}`, { isAdministrator: false });
    expect(last.body).toMatchObject({ status: 409, type: 'urn:oquel:problem:last-administrator' });
    expect((await team.chief.call('PATCH', `/api/people/${team.chief.id}`, { isEnded: true })).status).toBe(
      409,
    );
  });

  it('have names of their own', async () => {
    await team.person('Una', project);
    const { body } = await team.chief.post('/api/invitations', { note: 'another Una' });
    const { secret } = body as { secret: string };
    const taken = { secret, password: passwordOf('Una') };
    const name = await team.server.post('/api/join', { ...taken, login: 'una2', name: 'UNA' });
    expect(name.body).toMatchObject({ status: 409, fields: ['name'] });
    const login = await team.server.post('/api/join', { ...taken, login: 'UNA', name: 'Una Two' });
    expect(login.body).toMatchObject({ status: 409, fields: ['login'] });
  });

  it('get a new password by a link that an administrator makes', async () => {
    const lost = await team.person('Lost', project);
    const { body } = await team.chief.post(`/api/people/${lost.id}/password`);
    const { secret } = body as { secret: string };
    expect((await team.server.post('/api/join/offer', { secret })).body).toMatchObject({
      personName: 'Lost',
    });
    const fresh = new Person(team.server, 'Lost');
    await fresh.post('/api/join', {
      secret,
      login: 'ignored',
      name: 'Ignored',
      password: 'quite another password',
    });
    expect((await fresh.get('/api/session')).body).toMatchObject({ account: { id: lost.id, name: 'Lost' } });
    expect((await lost.get('/api/projects')).status).toBe(401);
  });
});

describe('tokens', () => {
  it('are shown once, listed with their last use, and hold until they are revoked', async () => {
    const made = await team.chief.post(`/api/projects/${project}/tokens`, {
      name: 'Nightly',
      scopes: ['audit'],
      days: 7,
    });
    const { id, token } = made.body as { id: string; token: string };
    const use = (): Promise<{ status: number }> =>
      team.server.call('GET', `/api/projects/${project}/gate`, undefined, {
        Authorization: `Bearer ${token}`,
      });
    expect((await use()).status).toBe(200);
    const listed = (await team.chief.get(`/api/projects/${project}/tokens`)).text;
    expect(listed).not.toContain(token);
    const one = (JSON.parse(listed) as { id: string; usedAt: string | null }[]).find((t) => t.id === id);
    expect(one?.usedAt).not.toBeNull();
    await team.chief.call('DELETE', `/api/projects/${project}/tokens/${id}`);
    expect((await use()).status).toBe(401);
  });

  it('whose day has come hold no longer, and a play is sent with one', async () => {
    const made = await team.chief.post(`/api/projects/${project}/tokens`, {
      name: 'Game',
      scopes: ['plays'],
      days: 7,
    });
    const { id, token } = made.body as { id: string; token: string };
    const send = (): Promise<Response> =>
      fetch(`${team.server.url}/api/projects/${project}/plays`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/x-ndjson' },
        body: '',
      });
    expect((await send()).status).toBe(201);
    const client = new pg.Client({ connectionString: team.server.databaseUrl });
    await client.connect();
    await client.query("update tokens set until = now() - interval '1 second' where id = $1", [id]);
    await client.end();
    expect((await send()).status).toBe(401);
  });
});

describe('an open window', () => {
  async function streamOf(person: Person): Promise<{ ended: Promise<void> }> {
    const query = new URLSearchParams({ stream: randomUUID(), projects: project });
    const response = await fetch(`${team.server.url}/api/live?${query.toString()}`, {
      headers: { Cookie: person.cookie },
    });
    const reader = response.body!.getReader();
    await reader.read();
    const ended = (async () => {
      while (!(await reader.read()).done);
    })();
    return { ended };
  }
  it.each([
    [
      'the account is ended',
      (p: Person) => team.chief.call('PATCH', `/api/people/${p.id}`, { isEnded: true }),
    ],
    [
      'the role is taken away',
      (p: Person) => team.chief.call('DELETE', `/api/projects/${project}/members/${p.id}`),
    ],
    ['it signs out', (p: Person) => p.call('DELETE', '/api/session')],
  ])('closes within a second when %s', async (what, act) => {
    const person = await team.person(`Window ${what}`, project, 'designer');
    const { ended } = await streamOf(person);
    const others = await streamOf(team.chief);
    await act(person);
    const late = new Promise((resolve) => setTimeout(resolve, 1000, 'late'));
    expect(await Promise.race([ended, late])).toBeUndefined();
    // Nobody else's does.
    expect(
      await Promise.race([others.ended, new Promise((resolve) => setTimeout(resolve, 100, 'open'))]),
    ).toBe('open');
  });
});

describe('the security log', () => {
  it('has what was done, holds no secret, and is never changed', async () => {
    const pia = await team.person('Pia', project);
    const change = { old: passwordOf('Pia'), password: 'a gorge full of snow' };
    expect((await pia.post('/api/account/password', change)).status).toBe(204);
    const { text } = await team.chief.get('/api/security-log');
    const seen = new Set((JSON.parse(text) as { what: string }[]).map((e) => e.what));
    for (const what of [
      'signed-in',
      'sign-in-refused',
      'refused',
      'invited',
      'joined',
      'token-made',
      'token-revoked',
      'role-changed',
      'person-changed',
      'password-changed',
      'signed-out',
    ]) {
      expect(seen).toContain(what);
    }
    expect(text).not.toContain('over the gorge');
    expect(text).not.toContain('gorge full of snow');
    expect(text).not.toContain('oquel_');
    const lines = (await team.chief.get('/api/security-log/lines')).text.trim().split('\n');
    expect(lines.map((l) => (JSON.parse(l) as { what: string }).what)).toContain('joined');
    const client = new pg.Client({ connectionString: team.server.databaseUrl });
    await client.connect();
    for (const statement of [
      "update security_log set who = 'x'",
      'delete from security_log',
      'truncate security_log',
    ]) {
      await expect(client.query(statement)).rejects.toThrow('never changed');
    }
    await client.end();
  });
});

describe('other sites', () => {
  it('cannot have anything done with the cookie of whoever opens them', async () => {
    const headers: Record<string, string>[] = [
      { Origin: 'https://elsewhere.example' },
      { 'Sec-Fetch-Site': 'cross-site' },
    ];
    for (const own of headers) {
      const answer = await team.chief.call('POST', '/api/projects', smallProject(), own);
      expect(answer.body).toMatchObject({ status: 403, type: 'urn:oquel:problem:wrong-origin' });
    }
  });
});
