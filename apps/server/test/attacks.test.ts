import { connect, type Socket } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { smallProject } from './small-project.js';
import { loginOf, passwordOf, TestTeam, type Person } from './team-harness.js';

let team: TestTeam;
let project: string;
beforeAll(async () => {
  team = await TestTeam.start();
  project = await team.project(team.chief, smallProject());
});
afterAll(() => team.stop());

/** A request of which the head is sent and the body never ends. */
function slow(path: string, head: Record<string, string> = {}): { socket: Socket; answer: Promise<string> } {
  const { hostname, port } = new URL(team.server.url);
  const socket = connect(Number(port), hostname);
  const lines = Object.entries({ Host: `${hostname}:${port}`, 'Content-Type': 'application/json', ...head });
  socket.write(`POST ${path} HTTP/1.1\r\n${lines.map(([k, v]) => `${k}: ${v}\r\n`).join('')}\r\n`);
  socket.write('Transfer-Encoding' in head ? '1\r\n{\r\n' : '{');
  const answer = new Promise<string>((resolve) => {
    socket.once('data', (data) => resolve(String(data).split('\r\n')[0]));
    socket.once('error', () => resolve('cut off'));
  });
  return { socket, answer };
}
/** An edit with enough in it to be large. */
function manyNotes(base: number): object {
  const value = 'a note of the wind '.repeat(10);
  const changes = Array.from({ length: 2000 }, () => ({ op: 'set', asset: 'WindMast', part: 'note', value }));
  return { base, label: 'many notes', who: 'x', changes };
}

describe('strangers who send slowly', () => {
  it('are turned away before anything large of theirs is read, and keep nobody waiting', async () => {
    const large = { 'Content-Length': String(100_000_000) };
    const chunked = { 'Transfer-Encoding': 'chunked' };
    const senders = Array.from({ length: 40 }, (_, i) =>
      slow('/api/projects', i % 2 === 0 ? large : chunked),
    );
    const heads = await Promise.all(senders.map((s) => s.answer));
    expect(new Set(heads)).toEqual(new Set(['HTTP/1.1 401 Unauthorized']));
    const { status } = await team.chief.post(`/api/projects/${project}/edits`, manyNotes(1));
    expect(status).toBe(201);
    for (const { socket } of senders) socket.destroy();
  });
  it('of small bodies are many, and others are answered meanwhile', async () => {
    const senders = Array.from({ length: 300 }, () => slow('/api/session', { 'Content-Length': '200' }));
    expect((await team.chief.get('/api/projects')).status).toBe(200);
    expect((await team.server.get('/api/health/ready')).status).toBe(200);
    for (const { socket } of senders) socket.destroy();
  });
});

describe('guesses that are sent at once', () => {
  it('are no more than one after another: few are looked at, the right one among them waits', async () => {
    const someone = await team.person('Guessed At Once', project);
    const login = loginOf(someone.name);
    const guesses = Array.from({ length: 40 }, (_, i) =>
      i === 39 ? passwordOf(someone.name) : `guess ${i}`,
    );
    const answers = await Promise.all(
      guesses.map((password) => team.server.post('/api/session', { login, password })),
    );
    const looked = answers.filter((a) => a.status !== 429);
    expect(looked.length).toBeLessThanOrEqual(5);
    expect(looked.length).toBeGreaterThan(0);
  });
});

describe('a thousand windows that are only open', () => {
  it('leave the server to others, and all close when their account ends', async () => {
    const idler = await team.person('Idle Windows', project, 'designer');
    const windows: { ended: Promise<void> }[] = [];
    for (let i = 0; i < 1000; i += 100) {
      const some = Array.from({ length: 100 }, () => streamOf(idler));
      windows.push(...(await Promise.all(some)));
    }
    const { body } = await team.chief.get(`/api/projects/${project}`);
    const base = (body as { version: number }).version;
    const changes = [{ op: 'set', asset: 'WindMast', part: 'note', value: 'still answered' }];
    const edit = await team.chief.post(`/api/projects/${project}/edits`, {
      base,
      label: 'a note',
      who: 'x',
      changes,
    });
    expect(edit.status).toBe(201);
    await team.chief.call('PATCH', `/api/people/${idler.id}`, { isEnded: true });
    await Promise.all(windows.map((w) => w.ended));
    expect((await team.server.get('/api/health/ready')).status).toBe(200);
  });
  async function streamOf(person: Person): Promise<{ ended: Promise<void> }> {
    const { cookie } = person;
    const response = await fetch(
      `${team.server.url}/api/live?stream=${crypto.randomUUID()}&projects=${project}`,
      { headers: { Cookie: cookie } },
    );
    if (response.status !== 200) throw new Error(await response.text());
    const reader = response.body!.getReader();
    const ended = (async () => {
      while (!(await reader.read()).done);
    })();
    return { ended };
  }
});

describe('invitations', () => {
  it.each([
    [
      'loses the role',
      (lead: Person) =>
        team.chief.call('PUT', `/api/projects/${project}/members/${lead.id}`, { role: 'designer' }),
    ],
    [
      'is removed',
      (lead: Person) => team.chief.call('DELETE', `/api/projects/${project}/members/${lead.id}`),
    ],
    ['leaves', (lead: Person) => team.chief.call('PATCH', `/api/people/${lead.id}`, { isEnded: true })],
  ])('of a lead who %s let nobody in; those of others do', async (what, act) => {
    const lead = await team.person(`Lead Who ${what}`, project, 'lead');
    const invite = async (by: Person): Promise<string> => {
      const made = await by.post(`/api/projects/${project}/invitations`, { note: 'a friend', role: 'lead' });
      return (made.body as { secret: string }).secret;
    };
    const [theirs, ours] = [await invite(lead), await invite(team.chief)];
    await act(lead);
    const offer = (secret: string): Promise<{ status: number }> =>
      team.server.post('/api/join/offer', { secret });
    expect((await offer(theirs)).status).toBe(410);
    expect((await offer(ours)).status).toBe(200);
  });
});
