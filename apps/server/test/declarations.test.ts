import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Manifest, Project } from '@oquel/core';
import { newDatabase, TestServer, type Answer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let server: TestServer;
let project: string;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
}, 60_000);
beforeEach(async () => {
  project = (await server.post('/api/projects', smallProject())).body.id;
});
afterAll(() => server.stop());

function manifest(change: (m: Manifest) => void = () => undefined): Manifest {
  const assets = structuredClone(smallProject().assets).map(({ bindings: _own, ...a }) => a);
  const said: Manifest = { format: 'oquel.declarations/1', origin: 'game', assets };
  change(said);
  return said;
}
function merge(base: number, body: unknown, more = ''): Promise<Answer> {
  return server.call(
    'PUT',
    `/api/projects/${project}/declarations?base=${base}&who=nightly&label=merged%20the%20game${more}`,
    body,
  );
}
const document = async (): Promise<Project> => (await server.get(`/api/projects/${project}/document`)).body;
const version = async (): Promise<number> =>
  (await server.get(`/api/projects/${project}`)).body.version as number;

describe('a manifest over HTTP', () => {
  it('is merged as one edit that can be undone; the same once more stores nothing', async () => {
    const grown = manifest((m) => m.assets![1].events!.push({ name: 'onCalm' }));
    expect(await merge(1, grown)).toMatchObject({ status: 200, body: { version: 2 } });
    const { assets } = await document();
    expect(assets[1]).toMatchObject({
      origin: 'game',
      events: [{ name: 'onGust' }, { name: 'onCalm', origin: 'game' }],
    });
    expect(assets[0].bindings).toEqual(smallProject().assets[0].bindings);
    expect(await merge(2, grown)).toMatchObject({ status: 200, body: { version: 2 } });
    expect(await version()).toBe(2);
    await server.post(`/api/projects/${project}/undo`, { base: 2, who: 'mira' });
    expect(await document()).toEqual(smallProject());
  });
  it('a rename in the game is carried through what is wired', async () => {
    await merge(1, manifest());
    const renamed = manifest((m) => (m.assets![1].events![0].name = 'onSquall'));
    expect(await merge(2, renamed)).toMatchObject({ status: 200 });
    expect((await document()).assets[0].bindings).toMatchObject([
      { from: { at: 'mast-1', event: 'onSquall' } },
    ]);
  });
  it('is refused where it was made for another version, while somebody edits', async () => {
    await merge(1, manifest());
    const item = engage('gust-2', 'brake-2');
    const edit = { op: 'insert', list: 'bindings', asset: 'pylon-ridge', index: 9, item };
    const edited = { base: 2, who: 'mira', label: 'wired brake-2', changes: [edit] };
    const lost = manifest((m) => (m.assets![2].actions = []));
    // Both at once: whichever is first, nothing of the other is lost.
    const [one, other] = await Promise.all([
      server.post(`/api/projects/${project}/edits`, edited),
      merge(2, lost),
    ]);
    expect([201, 409]).toContain(one.status);
    expect([200, 409]).toContain(other.status);
    const now = await document();
    if (one.status === 201) expect(now.assets[0].bindings!.map((b) => b.id)).toContain('gust-2');
    if (other.status === 200) expect(now.assets[2].actions).toEqual([]);
    expect(await merge(1, lost)).toMatchObject({ status: 409 });
  });
  it('of another origin that declares the same is refused, and nothing is stored', async () => {
    await merge(1, manifest());
    const before = await document();
    expect(await merge(2, manifest(), '&origin=tools')).toMatchObject({
      status: 409,
      body: {
        type: 'urn:oquel:problem:other-origin',
        detail: expect.stringContaining('mast-1 is already declared by "game"') as unknown,
      },
    });
    expect(await document()).toEqual(before);
    expect(await version()).toBe(2);
  });
  it.each<[string, unknown, number]>([
    ['no manifest', '{}', 422],
    ['another format version', { ...manifest(), format: 'oquel.declarations/9' }, 422],
    ['the same id twice', manifest((m) => m.assets!.push(m.assets![0])), 422],
    ['a name that is none', manifest((m) => (m.assets![1].id = 'a mast')), 422],
    ['no JSON', '{"format":', 422],
    ['an empty body', '', 422],
  ])('that is broken is reported with its place: %s', async (_, body, status) => {
    const answer = await merge(1, body);
    expect(answer.status).toBe(status);
    expect(await document()).toEqual(smallProject());
  });
  it('with things within each other in a circle is stored, and the audit says so', async () => {
    const circle = manifest((m) => (m.assets![1].placements = [{ id: 'inner', asset: 'WindMast' }]));
    expect(await merge(1, circle)).toMatchObject({ status: 200 });
    const audit = await server.get(`/api/projects/${project}/audit?today=2026-11-28`);
    expect(audit.text).toContain('nesting-loop');
  });
  it('without who, or without a version, is refused', async () => {
    for (const query of ['who=n&label=x', 'base=1&label=x']) {
      expect(
        await server.call('PUT', `/api/projects/${project}/declarations?${query}`, manifest()),
      ).toMatchObject({ status: 400 });
    }
  });
});
