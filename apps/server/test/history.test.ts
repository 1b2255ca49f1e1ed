import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Change, Project } from '@oquel/core';
import { newDatabase, TestServer, type Answer } from './harness.js';
import { engage, smallProject } from './small-project.js';

let server: TestServer;
let id: string;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
});
afterAll(() => server.stop());
beforeEach(async () => {
  id = await server.import(smallProject());
});

const SCENE = 'pylon-ridge';
const [INES, TOMAS] = [randomUUID(), randomUUID()];
const who = (author: string): object => ({ author, who: author === INES ? 'ines' : 'tomas' });
const insert = (binding: string): Change => ({
  op: 'insert',
  list: 'bindings',
  asset: SCENE,
  index: 99,
  item: engage(binding, 'brake-2'),
});
const delayed = (delay: number): Change => ({
  op: 'replace',
  list: 'bindings',
  asset: SCENE,
  id: 'gust-1',
  item: { ...engage('gust-1', 'brake-1'), delay },
});
const edit = (author: string, base: number, change: Change, more: object = {}): Promise<Answer> =>
  server.post(`/api/projects/${id}/edits`, {
    base,
    changes: [change],
    label: 'item' in change ? `wired ${change.item.id}` : 'edited',
    ...who(author),
    ...more,
  });
const step = (author: string, way: 'undo' | 'redo', base: number, more: object = {}): Promise<Answer> =>
  server.post(`/api/projects/${id}/${way}`, { base, ...who(author), ...more });
const ids = async (): Promise<string[]> =>
  ((await server.get(`/api/projects/${id}/document`)).body as Project).assets[0].bindings!.map((b) => b.id);

describe('undo', () => {
  it('takes one’s own last edit, whoever edited after it', async () => {
    await edit(INES, 1, insert('hers'));
    await edit(TOMAS, 2, insert('his'));
    const undone = await step(INES, 'undo', 3);
    expect(undone).toMatchObject({ status: 201, body: { undo: [], redo: [{ version: 2 }] } });
    expect(await ids()).toEqual(['gust-1', 'his']);
  });
  it('leaves what others may redo', async () => {
    await edit(INES, 1, insert('hers'));
    await step(INES, 'undo', 2);
    await edit(TOMAS, 3, insert('his'));
    expect(await step(INES, 'redo', 4)).toMatchObject({ status: 201, body: { redo: [] } });
    expect(await ids()).toEqual(['gust-1', 'his', 'hers']);
  });
  it('of one’s own is cut off by a new edit of one’s own alone', async () => {
    await edit(INES, 1, insert('hers'));
    await step(INES, 'undo', 2);
    await edit(INES, 3, insert('other'));
    expect(await step(INES, 'redo', 4)).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:nothing-to-redo' },
    });
  });
  it('names the edit that is meant: another one is not undone in its place', async () => {
    await edit(INES, 1, insert('a'));
    await edit(INES, 2, insert('b'));
    const answer = await step(INES, 'undo', 2, { version: 2 });
    expect(answer).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:not-next', next: { version: 3, label: 'wired b' } },
    });
    expect((await step(INES, 'undo', 3, { version: 3 })).status).toBe(201);
    expect(await ids()).toEqual(['gust-1', 'a']);
  });
  it('is refused where somebody has changed the same since, who is named', async () => {
    await edit(INES, 1, delayed(1));
    await edit(TOMAS, 2, delayed(2));
    const answer = await step(INES, 'undo', 3);
    expect(answer).toMatchObject({ status: 409, body: { type: 'urn:oquel:problem:depended-on' } });
    expect(answer.body.detail).toContain('by tomas');
    // He can undo his, and then she hers.
    expect((await step(TOMAS, 'undo', 3)).status).toBe(201);
    expect((await step(INES, 'undo', 4)).status).toBe(201);
  });
  it('of another’s edit is done from the history, and undone again it is back in force', async () => {
    await edit(TOMAS, 1, insert('his'));
    const taken = await server.post(`/api/projects/${id}/take-back`, { base: 2, version: 2, ...who(INES) });
    expect(taken).toMatchObject({ status: 201, body: { undo: [{ version: 3, label: 'undid: wired his' }] } });
    expect(await ids()).toEqual(['gust-1']);
    // Nothing is left of his to undo, until she undoes that.
    expect((await step(TOMAS, 'undo', 3)).body.type).toBe('urn:oquel:problem:nothing-to-undo');
    await step(INES, 'undo', 3);
    expect(await ids()).toEqual(['gust-1', 'his']);
    expect((await step(TOMAS, 'undo', 4)).status).toBe(201);
    expect(await ids()).toEqual(['gust-1']);
  });
  it('says what comes next, some of it, without reading what was changed', async () => {
    for (let i = 0; i < 25; i++) await edit(INES, i + 1, insert(`n${i}`));
    const { body } = await server.get(`/api/projects/${id}?author=${INES}`);
    expect(body.undo).toHaveLength(20);
    expect(body.undo[0]).toEqual({ version: 26, label: 'wired n24' });
    expect((await server.get(`/api/projects/${id}?author=${TOMAS}`)).body.undo).toEqual([]);
  });
});

describe('an edit made before the answer to another', () => {
  it('knows its author’s own, and still meets those of others', async () => {
    const [first, second] = [randomUUID(), randomUUID()];
    await edit(INES, 1, delayed(1), { key: first });
    // On top of her own first one, which she had seen before it was stored.
    const own = await edit(INES, 1, delayed(2), { key: second, seen: [first] });
    expect(own.status).toBe(201);
    await edit(TOMAS, 3, delayed(3));
    const met = await edit(INES, 1, delayed(4), { seen: [first, second] });
    expect(met).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:stale-edit', theirs: [{ who: 'tomas', version: 4 }] },
    });
  });
  it('is answered with what the client does not have yet', async () => {
    for (let i = 0; i < 3; i++) await edit(TOMAS, i + 1, insert(`n${i}`));
    const answer = await edit(INES, 1, insert('mine'), { have: 3 });
    expect(answer.body.edits.map((e: { version: number }) => e.version)).toEqual([4, 5]);
    expect(answer.body.complete).toBe(true);
  });
  it('is not answered with more than a bounded number of edits', async () => {
    const client = await server.get(`/api/projects/${id}/edits?after=0`);
    expect(client.body).toMatchObject({ version: 1, edits: [], complete: true });
    const note = (i: number): Change => ({ op: 'set', part: 'note', value: `${i}` });
    for (let i = 0; i < 510; i++) await edit(TOMAS, i + 1, note(i));
    const { body } = await server.get(`/api/projects/${id}/edits?after=1`);
    expect(body).toMatchObject({ version: 511, complete: false });
    expect(body.edits).toHaveLength(500);
    const late = await edit(INES, 1, insert('late'));
    expect(late).toMatchObject({ status: 201, body: { version: 512, complete: false } });
  });
});

describe('going back to a build', () => {
  it('is refused where somebody has edited since it was looked at', async () => {
    const frozen = await server.post(`/api/projects/${id}/builds`, { base: 1, name: 'one', who: 'ines' });
    await edit(TOMAS, 1, insert('his'));
    const path = `/api/projects/${id}/builds/${frozen.body.id}/restore`;
    const blind = await server.post(path, { base: 1, ...who(INES) });
    expect(blind).toMatchObject({ status: 409, body: { type: 'urn:oquel:problem:changed-meanwhile' } });
    expect(await ids()).toEqual(['gust-1', 'his']);
    expect((await server.post(path, { base: 2, ...who(INES) })).status).toBe(201);
    expect(await ids()).toEqual(['gust-1']);
  });
  it('and freezing, and what is said of a build, are done once with one key', async () => {
    const key = randomUUID();
    const freeze = { base: 1, name: 'one', who: 'ines', key };
    const [first, again] = [
      await server.post(`/api/projects/${id}/builds`, freeze),
      await server.post(`/api/projects/${id}/builds`, freeze),
    ];
    expect(again.body.id).toBe(first.body.id);
    const said = { verdict: 'through', who: 'ines', reason: 'for the fair', key: randomUUID() };
    const path = `/api/projects/${id}/builds/${first.body.id}/verdicts`;
    await server.post(path, said);
    expect((await server.post(path, said)).body.verdicts).toHaveLength(1);
  });
});
