import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import type { Project } from '@oquel/core';
import { DEMO, newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let server: TestServer;
let id: string;
const path = (rest: string): string => `/api/projects/${id}/${rest}`;
const wire = (binding: string, brake: string): unknown => ({
  op: 'insert',
  list: 'bindings',
  asset: 'pylon-ridge',
  index: 9,
  item: engage(binding, brake),
});
async function edit(base: number, ...changes: unknown[]): Promise<number> {
  const { body } = await server.post(path('edits'), { base, label: 'an edit', who: 'mira', changes });
  return body.version;
}

beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
  id = await server.import(smallProject());
});
afterAll(async () => {
  await server.stop();
});

describe('a build', () => {
  it('keeps document, audit, gate and figures as they were, whatever is edited later', async () => {
    const frozen = await server.post(path('builds'), { base: 1, name: 'week 1', note: 'first', who: 'mira' });
    expect(frozen).toMatchObject({
      status: 201,
      body: { name: 'week 1', note: 'first', who: 'mira', version: 1, verdicts: [], waived: [] },
    });
    expect(frozen.body.metrics.bindings).toBe(1);
    await edit(1, wire('gust-2', 'brake-gone'));
    await server.post(path('builds'), { base: 2, name: 'week 2', who: 'jon' });
    const { body } = await server.get(path('builds'));
    expect(body.map((b: { name: string; gate: string }) => [b.name, b.gate])).toEqual([
      ['week 1', 'pass'],
      ['week 2', 'stop'],
    ]);
    expect(body[1].summary.error).toBeGreaterThan(0);
    const document = await server.get(path(`builds/${frozen.body.id}/document`));
    expect(document.body).toEqual(smallProject());
    expect(document.headers.get('content-disposition')).toContain('week 1.oquel.json');
    const audit = await server.get(path(`builds/${frozen.body.id}/audit`));
    expect(audit.body).toMatchObject({ format: 'oquel.audit/1', gate: 'pass' });
  });
  it('is not frozen under a name that is taken, from an older version, or without a name', async () => {
    const freeze = (more: object): Promise<{ status: number; body: { type: string; version?: number } }> =>
      server.post(path('builds'), { base: 2, name: 'week 3', who: 'mira', ...more });
    expect(await freeze({ name: 'week 1' })).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:build-name-taken' },
    });
    expect(await freeze({ base: 1 })).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:changed-meanwhile', version: 2 },
    });
    for (const bad of [{ name: '' }, { name: 'x'.repeat(101) }, { name: 'a\0b' }, { who: 7 }, { extra: 1 }]) {
      expect(await freeze(bad)).toMatchObject({ status: 400 });
    }
    expect((await server.get(path('builds'))).body).toHaveLength(2);
  });
  it('is approved by somebody; against the gate only with a reason', async () => {
    const [first, second] = (await server.get(path('builds'))).body;
    const say = (build: string, more: object): ReturnType<TestServer['post']> =>
      server.post(path(`builds/${build}/verdicts`), { verdict: 'through', who: 'mira', ...more });
    expect((await say(first.id, {})).body.verdicts).toMatchObject([{ verdict: 'through', who: 'mira' }]);
    expect(await say(second.id, {})).toMatchObject({
      status: 422,
      body: { type: 'urn:oquel:problem:reason-needed' },
    });
    await say(second.id, { verdict: 'back' });
    const reported = await say(second.id, { reason: 'the horn comes tomorrow', who: 'jon' });
    expect(reported.body.verdicts).toMatchObject([
      { verdict: 'back', who: 'mira', reason: '' },
      { verdict: 'through', who: 'jon', reason: 'the horn comes tomorrow' },
    ]);
    expect(await say(second.id, { verdict: 'perhaps' })).toMatchObject({ status: 400 });
    expect(await say('00000000-0000-4000-8000-000000000000', {})).toMatchObject({ status: 404 });
  });
  it('is gone back to by one edit, which can be undone', async () => {
    const [first] = (await server.get(path('builds'))).body;
    const { body: before } = await server.get(path('document'));
    const back = await server.post(path(`builds/${first.id}/restore`), { base: 2, who: 'mira' });
    expect(back).toMatchObject({
      status: 201,
      body: { version: 3, undo: [{ label: 'restored build week 1' }, {}] },
    });
    expect((await server.get(path('document'))).body).toEqual(smallProject());
    expect(await server.post(path(`builds/${first.id}/restore`), { base: 3, who: 'mira' })).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:no-difference' },
    });
    await server.post(path('undo'), { base: 3, who: 'mira' });
    expect((await server.get(path('document'))).body).toEqual(before);
  });
  it('comes in as a document, is audited, and is refused when it is broken', async () => {
    const put = (query: string, text: string): ReturnType<TestServer['post']> =>
      server.call('POST', path(`builds/import?${query}`), text);
    const demo = readFileSync(DEMO, 'utf8');
    const { status, body } = await put('name=the%20storm&who=mira&note=from%20elsewhere', demo);
    expect(status).toBe(201);
    expect(body).toMatchObject({ name: 'the storm', note: 'from elsewhere', version: null, gate: 'stop' });
    expect(body.waived.length).toBeGreaterThan(0);
    expect(body.waived[0]).toMatchObject({ by: expect.any(String), reason: expect.any(String) });
    const document = await server.get(path(`builds/${body.id}/document`));
    expect(document.body).toEqual(JSON.parse(demo));
    expect(await put('name=torn&who=mira', '{"format":"oquel.project/1"}')).toMatchObject({
      status: 422,
      body: { type: 'urn:oquel:problem:broken-document' },
    });
    expect(await put('who=mira', demo)).toMatchObject({ status: 400 });
    expect((await server.get(path('builds'))).body).toHaveLength(3);
  });
  it('of another project is not found here', async () => {
    const [first] = (await server.get(path('builds'))).body;
    const other = await server.import(smallProject());
    for (const part of ['document', 'audit']) {
      expect((await server.get(`/api/projects/${other}/builds/${first.id}/${part}`)).status).toBe(404);
    }
    expect((await server.get(path('builds/not-an-id/document'))).status).toBe(404);
  });
});

describe('a document that takes the place of a project', () => {
  it('does so by one edit, if nobody has changed the project since it was compared', async () => {
    const project = await server.import(smallProject());
    const wanted: Project = {
      ...smallProject(),
      name: 'Corner, wired',
      assets: [
        {
          ...smallProject().assets[0],
          bindings: [engage('gust-2', 'brake-2'), engage('gust-1', 'brake-1')],
        },
        ...smallProject().assets.slice(1),
      ],
    };
    const replace = (base: number, text: unknown): ReturnType<TestServer['post']> =>
      server.call(
        'POST',
        `/api/projects/${project}/replace?base=${base}&who=mira&label=took%20a%20document`,
        text,
      );
    expect(await replace(1, '{"format":1}')).toMatchObject({ status: 422 });
    expect(await replace(7, wanted)).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:unknown-version' },
    });
    expect((await server.get(`/api/projects/${project}`)).body.version).toBe(1);
    expect(await replace(1, wanted)).toMatchObject({ status: 201, body: { version: 2 } });
    expect((await server.get(`/api/projects/${project}/document`)).body).toEqual(wanted);
    await server.post(`/api/projects/${project}/undo`, { base: 2, who: 'mira' });
    expect((await server.get(`/api/projects/${project}/document`)).body).toEqual(smallProject());
  });
});
