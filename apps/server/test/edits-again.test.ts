import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { type Change, type Project } from '@oquel/core';
import { newDatabase, TestServer } from './harness.js';
import { engage, smallProject } from './small-project.js';
import { EditRequests, SCENE, insert } from './edit-requests.js';

let server: TestServer;
let id: string;
beforeAll(async () => {
  server = await TestServer.start(await newDatabase());
});
afterAll(() => server.stop());
beforeEach(async () => {
  id = await server.import(smallProject());
});
const { edit, step, bindingIds, storedForAnother } = new EditRequests(() => ({ server, id }));

describe('two servers on one database', () => {
  it('see each other’s edits, and edits at the same moment all arrive', async () => {
    const other = await TestServer.start(server.databaseUrl);
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        (i % 2 === 0 ? server : other).post(`/api/projects/${id}/edits`, {
          base: 1,
          changes: [insert('brake-2', `n${i}`)],
          label: `n${i}`,
          who: 'both',
        }),
      ),
    );
    expect(answers.map((a) => a.status)).toEqual(Array(12).fill(201));
    const mine = (await server.get(`/api/projects/${id}`)).body;
    const theirs = (await other.get(`/api/projects/${id}`)).body;
    await other.stop();
    expect(mine).toEqual(theirs);
    expect(mine.version).toBe(13);
    expect(mine.document.assets[0].bindings).toHaveLength(13);
  });
});

describe('an older edit taken back', () => {
  const takeBack = (base: number, version: number): ReturnType<TestServer['post']> =>
    server.post(`/api/projects/${id}/take-back`, { base, version, who: 'noor' });
  const replaced = (delay: number): Change => ({
    op: 'replace',
    list: 'bindings',
    asset: SCENE,
    id: 'gust-2',
    item: { ...engage('gust-2', 'brake-2'), delay },
  });

  it('goes alone, by an edit of its own that can be undone, for another process too', async () => {
    await edit(1, [insert('brake-2')]);
    await edit(2, [{ op: 'set', part: 'note', value: 'kept' }], { label: 'noted' });
    const { status, body } = await takeBack(3, 2);
    expect(status).toBe(201);
    expect(body).toMatchObject({
      version: 4,
      undo: [{ version: 4, label: 'undid: wired brake-2' }, { version: 3 }],
    });
    expect(await bindingIds()).not.toContain('gust-2');
    expect((JSON.parse(await storedForAnother()) as Project).note).toBe('kept');
    await step('undo', 4);
    expect(await bindingIds()).toContain('gust-2');
  });
  it('stays when a later edit touched the same, which is named', async () => {
    await edit(1, [insert('brake-2')]);
    await edit(2, [replaced(3)], { label: 'made it wait', who: 'ines' });
    const { status, body } = await takeBack(3, 2);
    expect(status).toBe(409);
    expect(body).toMatchObject({
      type: 'urn:oquel:problem:depended-on',
      later: [{ version: 3, label: 'made it wait' }],
    });
    expect((body as { detail: string }).detail).toContain('"made it wait" by ines');
    expect(await bindingIds()).toContain('gust-2');
  });
  it('goes when that later edit was undone, or taken back itself', async () => {
    await edit(1, [insert('brake-2')]);
    await edit(2, [replaced(3)]);
    await step('undo', 3);
    expect((await takeBack(4, 2)).status).toBe(201);
    expect(await bindingIds()).not.toContain('gust-2');
  });
  it.each([
    ['was undone', 2],
    ['is the import', 1],
    ['is not there', 99],
  ])('is refused when it %s', async (_name, version) => {
    await edit(1, [insert('brake-2')]);
    await step('undo', 2);
    const { status } = await takeBack(3, version);
    expect(status).toBe(version === 1 ? 400 : 409);
    expect((await server.get(`/api/projects/${id}/edits?after=0`)).body.edits).toHaveLength(2);
  });
});
