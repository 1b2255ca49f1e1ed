import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';

/** A window's stream of events, read as it comes. */
class Stream {
  readonly client = randomUUID();
  readonly events: { type: string; data: unknown }[] = [];
  private readonly stop = new AbortController();
  status = 0;

  async open(server: TestServer, project: string, who: string, place = 'wire'): Promise<this> {
    const query = new URLSearchParams({ client: this.client, who, place });
    const response = await fetch(`${server.url}/api/projects/${project}/live?${query.toString()}`, {
      signal: this.stop.signal,
    });
    this.status = response.status;
    if (response.ok) void this.read(response).catch(() => undefined);
    return this;
  }
  close(): void {
    this.stop.abort();
  }
  /** Waits until an event is as wanted, among those that came already too. */
  async until(wanted: (event: { type: string; data: never }) => boolean): Promise<void> {
    const end = Date.now() + 20_000;
    while (!this.events.some((e) => wanted(e as never))) {
      if (Date.now() > end) throw new Error(`never came; there were ${JSON.stringify(this.events)}`);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
  version(n: number): Promise<void> {
    return this.until(({ type, data }) => type === 'version' && (data as { version: number }).version === n);
  }
  present(...names: string[]): Promise<void> {
    const wanted = JSON.stringify(names.sort());
    return this.until(({ type, data }) => {
      if (type !== 'presence') return false;
      return JSON.stringify((data as { who: string }[]).map((p) => p.who).sort()) === wanted;
    });
  }

  private async read(response: Response): Promise<void> {
    let text = '';
    for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) {
      text += chunk;
      const parts = text.split('\n\n');
      text = parts.pop()!;
      for (const part of parts) {
        const field = (name: string): string | undefined =>
          part
            .split('\n')
            .find((l) => l.startsWith(`${name}: `))
            ?.slice(name.length + 2);
        const data = field('data');
        if (data !== undefined)
          this.events.push({ type: field('event') ?? '', data: JSON.parse(data) as unknown });
      }
    }
  }
}

let databaseUrl: string;
let one: TestServer;
let two: TestServer;
let id: string;
const edit = (server: TestServer, base: number, binding: string): ReturnType<TestServer['post']> =>
  server.post(`/api/projects/${id}/edits`, {
    base,
    who: 'mira',
    label: `wired ${binding}`,
    changes: [
      { op: 'insert', list: 'bindings', asset: 'pylon-ridge', index: 0, item: engage(binding, 'brake-2') },
    ],
  });

beforeAll(async () => {
  databaseUrl = await newDatabase();
  [one, two] = await Promise.all([TestServer.start(databaseUrl), TestServer.start(databaseUrl)]);
  id = await one.import(smallProject());
});
afterAll(async () => {
  await Promise.all([one.stop(), two.stop()]);
});

describe('two servers on one database', () => {
  it('tell their windows at once of each edit, undo and build of the other', async () => {
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await there.open(two, id, 'jon');
    await Promise.all([here.version(1), there.version(1)]);
    await edit(one, 1, 'n1');
    await there.version(2);
    await edit(two, 2, 'n2');
    await here.version(3);
    expect(here.events.at(-1)).toMatchObject({ type: 'version', data: { undo: 'wired n2', redo: null } });
    await two.post(`/api/projects/${id}/undo`, { base: 3, who: 'jon' });
    await here.until((e) => e.type === 'version' && (e.data as { redo: string | null }).redo === 'wired n2');
    await two.post(`/api/projects/${id}/builds`, { base: 4, who: 'jon', name: 'week 1' });
    await here.until((e) => e.type === 'builds');
    here.close();
    there.close();
  });
  it('say who else has the project open, where, and when somebody leaves', async () => {
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira', 'plan?scope=pylon-ridge');
    await there.open(two, id, 'jon');
    await here.present('jon', 'mira');
    const { status } = await two.post(`/api/projects/${id}/live/${there.client}`, {
      who: 'jon',
      place: 'audit',
    });
    expect(status).toBe(204);
    await here.until(
      ({ type, data }) =>
        type === 'presence' && (data as { place: string }[]).some((p) => p.place === 'audit'),
    );
    here.events.length = 0;
    there.close();
    await here.present('mira');
    here.close();
  });
  it('do not bring a window back that tells its place after it has left; another server may pass it on', async () => {
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await there.open(two, id, 'jon');
    await here.present('jon', 'mira');
    const told = (server: TestServer, place: string): ReturnType<TestServer['post']> =>
      server.post(`/api/projects/${id}/live/${there.client}`, { who: 'jon', place });
    expect((await told(one, 'ripple')).status).toBe(204);
    await here.until(
      ({ type, data }) =>
        type === 'presence' && (data as { place: string }[]).some((p) => p.place === 'ripple'),
    );
    here.events.length = 0;
    there.close();
    await here.present('mira');
    here.events.length = 0;
    for (const server of [one, two]) expect((await told(server, 'plan')).status).toBe(204);
    const late = await new Stream().open(one, id, 'kai');
    await here.present('kai', 'mira');
    here.close();
    late.close();
  });
  it('edits carry over or not as with one server: what both change is refused with both sides', async () => {
    const { body } = await one.get(`/api/projects/${id}`);
    const change = (delay: number): unknown => ({
      op: 'replace',
      list: 'bindings',
      asset: 'pylon-ridge',
      id: 'gust-1',
      item: { ...engage('gust-1', 'brake-1'), delay },
    });
    const send = (server: TestServer, who: string, delay: number): ReturnType<TestServer['post']> =>
      server.post(`/api/projects/${id}/edits`, {
        base: body.version,
        who,
        label: `after ${delay}`,
        changes: [change(delay)],
      });
    expect((await send(one, 'mira', 1)).status).toBe(201);
    const refused = await send(two, 'jon', 2);
    expect(refused).toMatchObject({
      status: 409,
      body: {
        type: 'urn:oquel:problem:stale-edit',
        overlap: ['bindings/pylon-ridge/gust-1'],
        theirs: [{ who: 'mira', label: 'after 1' }],
        yours: [change(2)],
      },
    });
  });
});

describe('a stream', () => {
  it('is refused for a project that is not there, and for a window that does not say who it is', async () => {
    expect((await new Stream().open(one, randomUUID(), 'mira')).status).toBe(404);
    expect((await one.get(`/api/projects/${id}/live?client=x&who=mira&place=wire`)).status).toBe(400);
    expect((await one.get(`/api/projects/${id}/live?client=${randomUUID()}`)).status).toBe(400);
  });
  it('goes on after the database was away, and tells what was missed', async () => {
    const here = await new Stream().open(one, id, 'mira');
    const { version } = (await two.get(`/api/projects/${id}`)).body;
    await here.version(version);
    const admin = new pg.Client({ connectionString: process.env.OQUEL_TEST_POSTGRES });
    await admin.connect();
    const name = new URL(databaseUrl).pathname.slice(1);
    await admin.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
    await admin.end();
    let answer = await edit(two, version, 'later');
    for (let i = 0; i < 50 && answer.status !== 201; i++) {
      await new Promise((resolve) => setTimeout(resolve, 100));
      answer = await edit(two, version, 'later');
    }
    expect(answer.status).toBe(201);
    await here.version(version + 1);
    here.close();
  });
  it('of a server that is stopped ends, and the window is gone from the others', async () => {
    const third = await TestServer.start(databaseUrl);
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await there.open(third, id, 'kai');
    await here.present('kai', 'mira');
    here.events.length = 0;
    await third.stop();
    await here.present('mira');
    here.close();
  });
});
