import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { projectHash, readProject } from '@oquel/core';
import { newDatabase, TestServer } from './harness.js';

let server: TestServer;
let id: string;
let token: string;
const PROJECT = {
  format: 'oquel.project/1',
  name: 'Quay',
  loadSets: [{ name: 'day', scenes: ['quay'] }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'gate', asset: 'Gate' },
      ],
      bindings: [
        { id: 'opens', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'open' } },
        { id: 'shakes', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'shake' } },
      ],
    },
    { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
    { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }, { name: 'shake' }] },
  ],
};
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  id = await server.import(PROJECT);
  token = ((await server.post(`/api/projects/${id}/plays/token`, {})).body as { token: string }).token;
});
afterAll(() => server.stop());

interface Sent {
  status: number;
  body: { id: string; detail: string; figures: Record<string, number>; name: string };
}
async function send(
  body: NonNullable<RequestInit['body']>,
  {
    query = '',
    project = id,
    headers = {},
  }: { query?: string; project?: string; headers?: Record<string, string> } = {},
): Promise<Sent> {
  const answer = await fetch(`${server.url}/api/projects/${project}/plays${query}`, {
    method: 'POST',
    headers: { 'content-type': 'application/x-ndjson', authorization: `Bearer ${token}`, ...headers },
    body,
    duplex: 'half',
  });
  return { status: answer.status, body: (await answer.json()) as Sent['body'] };
}
const lines = (...records: object[]): string => records.map((r) => `${JSON.stringify(r)}\n`).join('');
const ring = (t: number): object[] => [
  { kind: 'raise', at: 'quay:bell', event: 'onRung', t },
  { kind: 'performed', at: 'quay:gate', action: 'open', t },
];
const list = async (): Promise<{ id: string; name: string }[]> =>
  (await server.get(`/api/projects/${id}/plays`)).body as { id: string; name: string }[];

describe('plays that games send', () => {
  it('are judged, listed, told whole, and removed', async () => {
    const { status, body } = await send(lines(...ring(0), ...ring(1_000_000), { kind: 3 }), {
      query: '?session=evening&loadSet=day',
    });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      name: 'evening',
      figures: { sessions: 1, records: 4, broken: 1, served: 1, of: 2, wrong: 1, elsewhere: 0 },
    });
    expect((await list()).map((p) => p.id)).toContain(body.id);
    const report = await server.get(`/api/projects/${id}/plays/${body.id}`);
    expect(report.body).toMatchObject({
      format: 'oquel.plays/1',
      missing: [{ owner: 'quay:.', binding: 'shakes', at: 'quay:gate', action: 'shake', count: 1 }],
      broken: { count: 1, lines: [{ source: 'evening', line: 5 }] },
      rehearsals: [{ name: 'Play evening', loadSet: 'day' }],
    });
    expect((await server.call('DELETE', `/api/projects/${id}/plays/${body.id}`)).status).toBe(204);
    expect((await server.get(`/api/projects/${id}/plays/${body.id}`)).status).toBe(404);
    expect((await server.call('DELETE', `/api/projects/${id}/plays/${body.id}`)).status).toBe(404);
  });
  it('are taken together where they are judged by the same wiring', async () => {
    for (const { id: play } of await list()) await server.call('DELETE', `/api/projects/${id}/plays/${play}`);
    expect((await server.get(`/api/projects/${id}/plays/together`)).status).toBe(404);
    await send(lines(...ring(0)), { query: '?session=one' });
    await send(lines(...ring(0), ...ring(1_000_000)), { query: '?session=two' });
    const { status, body } = await server.get(`/api/projects/${id}/plays/together`);
    expect(status).toBe(200);
    expect(body).toMatchObject({
      plays: 2,
      report: {
        format: 'oquel.plays/1',
        sessions: 2,
        records: 6,
        coverage: { bindings: [{ binding: 'opens', count: 3, sessions: 2 }] },
      },
    });
  });
  it('come in pieces and as gzip, and what says that it ran other wiring is marked', async () => {
    const text = lines(...Array.from({ length: 4_000 }, (_, i) => ring(i * 1000)).flat());
    const pieces = new ReadableStream<Uint8Array>({
      start(controller) {
        const bytes = new TextEncoder().encode(text);
        for (let at = 0; at < bytes.length; at += 777) controller.enqueue(bytes.subarray(at, at + 777));
        controller.close();
      },
    });
    const streamed = await send(pieces, { query: `?wiring=${'f'.repeat(64)}` });
    expect(streamed.body.figures).toMatchObject({ records: 8_001, broken: 0 });
    const packed = await send(new Uint8Array(gzipSync(text)), { headers: { 'content-encoding': 'gzip' } });
    expect(packed.body.figures).toMatchObject({ records: 8_000, broken: 0 });
    const { body } = await server.get(`/api/projects/${id}/plays/${streamed.body.id}`);
    expect(body).toMatchObject({ others: [{ wiring: 'f'.repeat(64), sessions: 1 }] });
  });
  const refused: [string, () => Promise<Sent>, number, string][] = [
    [
      'without a token',
      () => send('', { headers: { authorization: '' } }),
      401,
      'make one in Rehearse, Plays',
    ],
    [
      'with another token',
      () => send('', { headers: { authorization: 'Bearer no' } }),
      401,
      'not the one of this project',
    ],
    [
      'for a load set that is not there',
      () => send('', { query: '?loadSet=night' }),
      400,
      'no load set called night',
    ],
    ['with a tolerance that is no number', () => send('', { query: '?tolerance=soon' }), 400, 'tolerance'],
    [
      'as gzip that is none',
      () => send('xxxx', { headers: { 'content-encoding': 'gzip' } }),
      400,
      'not gzip',
    ],
    ['in another packing', () => send('', { headers: { 'content-encoding': 'br' } }), 415, 'not as br'],
    ['for a project that is not there', () => send('', { project: randomUUID() }), 401, 'no token yet'],
  ];
  it.each(refused)('are refused %s, and nothing is kept', async (_name, act, status, words) => {
    const before = await list();
    const answer = await act();
    expect(answer.status).toBe(status);
    expect(answer.body.detail).toContain(words);
    expect(await list()).toEqual(before);
  });
  it('a new token takes the place of the one before, and goes with no copy of the project', async () => {
    const other = await server.import({ ...PROJECT, name: 'Quay 2' });
    const make = async (): Promise<string> =>
      ((await server.post(`/api/projects/${other}/plays/token`, {})).body as { token: string }).token;
    expect((await server.get(`/api/projects/${other}/plays/token`)).body).toEqual({});
    const [first, second] = [await make(), await make()];
    const by = (t: string): Promise<Sent> =>
      send('', { project: other, headers: { authorization: `Bearer ${t}` } });
    expect((await by(first)).status).toBe(401);
    expect((await by(second)).status).toBe(201);
    expect((await server.get(`/api/projects/${other}/plays/token`)).body).toHaveProperty('at');
  });
  it('two are judged at a time; a third is asked to come again', async () => {
    const held: ReadableStreamDefaultController<Uint8Array>[] = [];
    const attempt = (): Promise<Sent> =>
      send(
        new ReadableStream<Uint8Array>({
          start(controller) {
            controller.enqueue(new TextEncoder().encode(lines(...ring(0))));
            held.push(controller);
          },
        }),
      );
    // One that finds another one being judged for a moment comes again.
    const slow = async (): Promise<Sent> => {
      for (;;) {
        const answer = await attempt();
        if (answer.status !== 503) return answer;
      }
    };
    const first = [slow(), slow()];
    let third: Sent;
    // The two have begun once the third is refused.
    do third = await send(lines(...ring(0)));
    while (third.status !== 503);
    expect(third.body.detail).toContain('other plays are being judged');
    const finished = Promise.all(first);
    for (const controller of held) {
      try {
        controller.close();
      } catch {
        // It was refused, and is closed already.
      }
    }
    expect((await finished).map((a) => a.status)).toEqual([201, 201]);
  });
  it('of a game that runs the wiring of a build are judged by that build', async () => {
    const own = await server.import({ ...PROJECT, name: 'Quay 3' });
    const made = await server.post(`/api/projects/${own}/plays/token`, {});
    const authorization = `Bearer ${(made.body as { token: string }).token}`;
    const wiring = projectHash(readProject({ ...PROJECT, name: 'Quay 3' }).project);
    const frozen = await server.post(`/api/projects/${own}/builds`, { name: 'week 1', who: 'Ines', base: 1 });
    expect(frozen.status).toBe(201);
    await server.post(`/api/projects/${own}/edits`, {
      base: 1,
      who: 'Ines',
      label: 'no shaking any more',
      changes: [{ op: 'remove', list: 'bindings', asset: 'quay', id: 'shakes' }],
    });
    const by = async (query: string): Promise<Record<string, unknown>> => {
      const { status, body } = await send(lines(...ring(0), ...ring(5_000_000)), {
        query,
        project: own,
        headers: { authorization },
      });
      expect(status).toBe(201);
      return (await server.get(`/api/projects/${own}/plays/${body.id}`)).body as Record<string, unknown>;
    };
    expect(await by(`?wiring=${wiring}`)).toMatchObject({
      build: 'week 1',
      others: [],
      missing: [{ binding: 'shakes' }],
    });
    expect(await by('')).toMatchObject({ missing: [] });
    expect(await by(`?wiring=${'e'.repeat(64)}`)).toMatchObject({ others: [{ wiring: 'e'.repeat(64) }] });
  });
  it('are seen by whoever looks on while they come in', async () => {
    const stream = await fetch(`${server.url}/api/projects/${id}/plays/live`);
    const reader = stream.body!.getReader();
    const sent = send(lines(...ring(7_000)), { query: '?session=now' });
    let text = '';
    while (!text.includes('"t\\":7000')) text += new TextDecoder().decode((await reader.read()).value);
    expect(text).toContain('event: lines');
    expect(text).toContain('"session":"now"');
    expect((await sent).status).toBe(201);
    await reader.cancel();
  });
});
