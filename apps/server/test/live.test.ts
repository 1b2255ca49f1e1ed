import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';

interface Window {
  client: string;
  who: string;
  place: string;
}
/** A window's stream of events, read as it comes. */
class Stream {
  readonly client = randomUUID();
  readonly stream = randomUUID();
  private readonly windows = new Map<string, { who: string; place: string }>();
  readonly events: { type: string; data: unknown }[] = [];
  private readonly stop = new AbortController();
  status = 0;

  async open(server: TestServer, project: string, who: string, place = 'wire'): Promise<this> {
    const query = new URLSearchParams({ stream: this.stream, projects: project });
    const response = await fetch(`${server.url}/api/live?${query.toString()}`, { signal: this.stop.signal });
    this.status = response.status;
    if (!response.ok) return this;
    void this.read(response).catch(() => undefined);
    await this.say(server, project, [{ client: this.client, who, place }]);
    return this;
  }
  /** All windows that the stream speaks for. */
  async say(server: TestServer, project: string, windows: Window[]): Promise<number> {
    const body = { windows: windows.map((w) => ({ ...w, project })) };
    return (await server.post(`/api/live/${this.stream}`, body)).status;
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
    return this.now((all) => JSON.stringify(all.map((p) => p.who).sort()) === wanted);
  }
  place(wanted: string): Promise<void> {
    return this.now((all) => all.some((p) => p.place === wanted));
  }
  /** Waits until the windows that are present now are as wanted. */
  private async now(wanted: (all: { who: string; place: string }[]) => boolean): Promise<void> {
    const end = Date.now() + 20_000;
    while (!wanted([...this.windows.values()])) {
      if (Date.now() > end)
        throw new Error(`never so; there are ${JSON.stringify([...this.windows.values()])}`);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
  private presence(data: { all?: Window[]; came?: Window[]; left?: string[] }): void {
    if (data.all) this.windows.clear();
    for (const w of data.all ?? data.came ?? []) this.windows.set(w.client, w);
    for (const client of data.left ?? []) this.windows.delete(client);
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
        if (data === undefined) continue;
        const event = { type: field('event') ?? '', data: JSON.parse(data) as never };
        this.events.push(event);
        if (event.type === 'presence') this.presence(event.data);
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
    await two.post(`/api/projects/${id}/undo`, { base: 3, who: 'jon' });
    await here.version(4);
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
    expect(await there.say(two, id, [{ client: there.client, who: 'jon', place: 'audit' }])).toBe(204);
    await here.place('audit');
    there.close();
    await here.present('mira');
    here.close();
  });
  it('let one stream speak for all windows of a browser, and take what it says of them for all there are', async () => {
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await there.open(one, id, 'jon');
    await here.present('jon', 'mira');
    const second = { client: randomUUID(), who: 'jon, again', place: 'wire' };
    const first = { client: there.client, who: 'jon', place: 'wire' };
    // Through the other server too.
    for (const [server, windows, names] of [
      [one, [first, second], ['jon', 'jon, again', 'mira']],
      [two, [second], ['jon, again', 'mira']],
    ] as const) {
      await there.say(server, id, [...windows]);
      await here.present(...names);
    }
    there.close();
    await here.present('mira');
    here.close();
  });
  it('keep a window whose old stream ends after its new one has begun', async () => {
    const [here, old] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await old.open(one, id, 'jon');
    await here.present('jon', 'mira');
    const next = new Stream();
    Object.assign(next, { client: old.client });
    await next.open(two, id, 'jon');
    await next.present('jon', 'mira');
    old.close();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const late = await new Stream().open(two, id, 'kai');
    await late.present('jon', 'kai', 'mira');
    for (const stream of [here, next, late]) stream.close();
  });
  it('do not bring a window back that tells its place after it has left; another server may pass it on', async () => {
    const [here, there] = [new Stream(), new Stream()];
    await here.open(one, id, 'mira');
    await there.open(two, id, 'jon');
    await here.present('jon', 'mira');
    const reported = (server: TestServer, place: string): Promise<number> =>
      there.say(server, id, [{ client: there.client, who: 'jon', place }]);
    expect(await reported(one, 'ripple')).toBe(204);
    await here.place('ripple');
    there.close();
    await here.present('mira');
    for (const server of [one, two]) expect(await reported(server, 'plan')).toBe(404);
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
        theirs: [{ who: 'mira', label: 'after 1' }],
        yours: [change(2)],
      },
    });
  });
});

describe('a stream', () => {
  it('tells that a project is not there, and is refused where it does not say what it is', async () => {
    const [gone, here] = [randomUUID(), new Stream()];
    await here.open(one, `${gone},${id}`, 'mira');
    await here.until(({ type, data }) => type === 'gone' && (data as { project: string }).project === gone);
    await here.until(({ type, data }) => type === 'version' && (data as { project: string }).project === id);
    here.close();
    for (const query of ['stream=x&projects=x', `stream=${randomUUID()}`, `projects=${id}`, '']) {
      expect((await one.get(`/api/live?${query}`)).status).toBe(400);
    }
    expect((await one.post(`/api/live/${randomUUID()}`, { windows: [] })).status).toBe(404);
  });
  it('of five hundred windows that come at once settles: each hears of all, by differences', async () => {
    const streams: Stream[] = [];
    for (let i = 0; i < 5; i++) {
      streams.push(
        ...(await Promise.all(
          Array.from({ length: 100 }, (_, n) =>
            new Stream().open(n % 2 === 0 ? one : two, id, `w${i * 100 + n}`),
          ),
        )),
      );
    }
    const all = Array.from({ length: 500 }, (_, i) => `w${i}`);
    await Promise.all(streams.map((s) => s.present(...all)));
    const events = streams.map((s) => s.events.filter((e) => e.type === 'presence').length);
    expect(Math.max(...events)).toBeLessThan(30);
    for (const stream of streams) stream.close();
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
    const own = new pg.Client({ connectionString: databaseUrl });
    await own.connect();
    // What is no notice of ours ends nothing.
    for (const odd of ['x', '{"what":"version"}', '{"project":1}', 'null', '']) {
      await own.query('select pg_notify($1, $2)', ['oquel', odd]);
    }
    await own.end();
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
    await third.stop();
    await here.present('mira');
    here.close();
  });
});
