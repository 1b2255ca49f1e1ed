import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { audit, type Change, type Project } from '@oquel/core';
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
const { edit, step, stored, bindingIds, storedForAnother } = new EditRequests(() => ({ server, id }));

describe('edits', () => {
  it('that put thousands of bindings at an end are stored whole, in order, and taken back; or not at all', async () => {
    const many = Array.from({ length: 6001 }, (_, i) => insert('brake-2', `n${i}`, 1e9));
    const twice = await edit(1, [...many, insert('brake-1', 'n7', 1e9)]);
    expect(twice).toMatchObject({
      status: 409,
      body: { type: 'urn:oquel:problem:edit-id-taken', change: 6001 },
    });
    expect(await bindingIds()).toEqual(['gust-1']);
    expect((await edit(1, [...many, insert('brake-1', 'first', 0)])).status).toBe(201);
    const text = await storedForAnother();
    const ids = (JSON.parse(text) as Project).assets[0].bindings!.map((b) => b.id);
    expect(ids).toEqual(['first', 'gust-1', ...many.map((_, i) => `n${i}`)]);
    expect(text).toBe(JSON.stringify(await stored()));
    expect((await step('undo', 2)).status).toBe(201);
    expect(await bindingIds()).toEqual(['gust-1']);
  });
  it('of declarations are stored as a whole, also for another process, and undo takes back exactly that', async () => {
    const original = JSON.stringify(await stored());
    const changes: Change[] = [
      { op: 'set', part: 'name', value: 'Veyra by night' },
      { op: 'set', part: 'channels', value: [{ name: 'tension', note: 'of the rope' }] },
      { op: 'set', asset: 'TrackBrake', part: 'tags', value: ['safety'] },
      {
        op: 'add',
        index: 1,
        item: { id: 'valley', kind: 'scene', placements: [{ id: 'b', asset: 'TrackBrake' }] },
      },
      { op: 'insert', list: 'bindings', asset: 'valley', index: 0, item: engage('own', 'b') },
      { op: 'drop', asset: 'WindMast' },
    ];
    const { status } = await edit(1, changes);
    expect(status).toBe(201);
    const text = await storedForAnother();
    expect(JSON.parse(text)).toEqual(await stored());
    const after = JSON.parse(text) as Project;
    expect(after.name).toBe('Veyra by night');
    expect(after.assets.map((a) => a.id)).toEqual([SCENE, 'valley', 'TrackBrake']);
    expect(after.assets[1].bindings!.map((b) => b.id)).toEqual(['own']);
    expect((await server.get('/api/projects')).text).toContain('Veyra by night');
    await step('undo', 2);
    expect(await storedForAnother()).toBe(original);
    await step('redo', 3);
    expect(JSON.parse(await storedForAnother())).toEqual(after);
  });

  it('of declarations that are not sound are refused, and nothing is stored', async () => {
    const refused = await edit(1, [
      { op: 'set', part: 'note', value: 'kept?' },
      { op: 'set', asset: 'TrackBrake', part: 'actions', value: [{ name: '' }] } as unknown as Change,
    ]);
    expect(refused.status).toBe(422);
    expect(refused.text).toContain('/changes/1/actions/0/name');
    const odd = await edit(1, [{ op: 'set', asset: 'TrackBrake', part: 'policy' } as unknown as Change]);
    expect(odd.status).toBe(422);
    expect(odd.text).toContain('one of tags, note');
    expect((await stored()).note).toBeUndefined();
  });

  it('add, change, move and remove bindings and placements, and undo takes back exactly that', async () => {
    const original = JSON.stringify(smallProject());
    const changes: Change[] = [
      insert('brake-2', 'gust-2', 0),
      insert('brake-1', 'gust-3', 99),
      {
        op: 'replace',
        list: 'bindings',
        asset: SCENE,
        id: 'gust-1',
        item: { ...engage('gust-one', 'brake-1'), limit: 1 },
      },
      { op: 'move', list: 'bindings', asset: SCENE, id: 'gust-3', index: 0 },
      { op: 'insert', list: 'placements', asset: SCENE, index: 1, item: { id: 'mast-2', asset: 'WindMast' } },
      { op: 'remove', list: 'placements', asset: SCENE, id: 'brake-2' },
      { op: 'insert', list: 'bindings', asset: 'TrackBrake', index: 0, item: engage('own', '.') },
    ];
    const { status, body } = await edit(1, changes);
    expect(status).toBe(201);
    expect(body).toMatchObject({ version: 2, undo: [{ version: 2, label: 'wired brake-2' }], redo: [] });
    const after = await stored();
    expect(after.assets[0].bindings!.map((b) => b.id)).toEqual(['gust-3', 'gust-2', 'gust-one']);
    expect(after.assets[0].placements!.map((p) => p.id)).toEqual(['mast-1', 'mast-2', 'brake-1']);
    expect(after.assets[2].bindings).toHaveLength(1);
    expect(await storedForAnother()).toBe(JSON.stringify(after));

    expect((await step('undo', 2)).body).toMatchObject({
      version: 3,
      undo: [],
      redo: [{ label: 'wired brake-2' }],
    });
    expect(JSON.stringify(await stored())).toBe(original);
    expect(await storedForAnother()).toBe(original);
    expect((await step('redo', 3)).body).toMatchObject({
      version: 4,
      undo: [{ label: 'wired brake-2' }],
      redo: [],
    });
    expect(await stored()).toEqual(after);
  });

  it('a new edit cuts off what was undone; there is nothing to redo then', async () => {
    await edit(1, [insert('brake-2')]);
    await step('undo', 2);
    await edit(3, [insert('brake-2', 'gust-9')]);
    const answer = await step('redo', 4);
    expect(answer).toMatchObject({ status: 409, body: { type: 'urn:oquel:problem:nothing-to-redo' } });
    expect(await bindingIds()).toEqual(['gust-1', 'gust-9']);
  });

  it('keeps its order when many are put into the same gap', async () => {
    for (let i = 0; i < 30; i++) {
      expect((await edit(i + 1, [insert('brake-2', `n${i}`, 1)])).status).toBe(201);
    }
    const expected = ['gust-1', ...Array.from({ length: 30 }, (_, i) => `n${29 - i}`)];
    expect(await bindingIds()).toEqual(expected);
    const other = JSON.parse(await storedForAnother()) as Project;
    expect(other.assets[0].bindings!.map((b) => b.id)).toEqual(expected);
  });

  it('carries an edit over that was made against an older version but touches other things', async () => {
    await edit(1, [insert('brake-2', 'theirs')]);
    const { status, body } = await edit(1, [insert('brake-1', 'mine')], { who: 'tomas' });
    expect(status).toBe(201);
    expect(body.version).toBe(3);
    expect(body.edits.map((e: { who: string }) => e.who)).toEqual(['ines', 'tomas']);
    expect((await bindingIds()).sort()).toEqual(['gust-1', 'mine', 'theirs']);
  });

  it('refuses one that touches the same things, with both sides, and stores nothing of it', async () => {
    await edit(1, [{ op: 'remove', list: 'bindings', asset: SCENE, id: 'gust-1' }], {
      label: 'removed gust-1',
    });
    const mine: Change = {
      op: 'replace',
      list: 'bindings',
      asset: SCENE,
      id: 'gust-1',
      item: { ...engage('gust-1', 'brake-2'), delay: 1 },
    };
    const answer = await edit(1, [insert('brake-2'), mine]);
    expect(answer.status).toBe(409);
    expect(answer.body).toMatchObject({
      type: 'urn:oquel:problem:stale-edit',
      theirs: [{ label: 'removed gust-1', who: 'ines' }],
      yours: [insert('brake-2'), mine],
    });
    expect(await bindingIds()).toEqual([]);
  });

  it('does an undo, redo, taking back or replacement once that is sent twice with the same key', async () => {
    const key = (): { key: string } => ({ key: crypto.randomUUID() });
    await edit(1, [insert('brake-2')]);
    await edit(2, [insert('brake-2', 'gust-3')]);
    const twice = async (path: string, body: object): Promise<number[]> => {
      const answers = [];
      for (let i = 0; i < 2; i++) answers.push(await server.post(`/api/projects/${id}/${path}`, body));
      return answers.map((a) => a.status);
    };
    expect(await twice('undo', { base: 3, who: 'ines', ...key() })).toEqual([201, 201]);
    expect(await bindingIds()).toEqual(['gust-1', 'gust-2']);
    expect(await twice('redo', { base: 4, who: 'ines', ...key() })).toEqual([201, 201]);
    expect(await bindingIds()).toEqual(['gust-1', 'gust-3', 'gust-2']);
    expect(await twice('take-back', { base: 5, version: 2, who: 'ines', ...key() })).toEqual([201, 201]);
    expect(await bindingIds()).toEqual(['gust-1', 'gust-3']);
    const query = `replace?base=6&who=ines&label=back&key=${crypto.randomUUID()}`;
    expect(await twice(query, smallProject())).toEqual([201, 201]);
    expect((await server.get(`/api/projects/${id}`)).body.version).toBe(7);
  });
  it('does a request once that is sent twice with the same key', async () => {
    const key = '6f2f8a52-7a5e-4a53-9d0c-0f4c3c1b7a11';
    await edit(1, [insert('brake-2')], { key });
    const again = await edit(1, [insert('brake-2')], { key });
    expect(again).toMatchObject({ status: 201, body: { version: 2 } });
    expect(await bindingIds()).toEqual(['gust-1', 'gust-2']);
  });

  const refused: [string, Change[], number, string, RegExp][] = [
    [
      'an unknown scene',
      [{ ...insert('brake-2'), asset: 'nowhere' } as Change],
      409,
      'edit-no-asset',
      /"nowhere"/,
    ],
    [
      'an unknown binding',
      [{ op: 'remove', list: 'bindings', asset: SCENE, id: 'x' }],
      409,
      'edit-no-item',
      /"x"/,
    ],
    [
      'an id that is taken',
      [insert('brake-2', 'gust-1')],
      409,
      'edit-id-taken',
      /already has a binding "gust-1"/,
    ],
    [
      'a broken binding',
      [
        insert('brake-2', 'a'),
        { ...insert('brake-2', 'b'), item: { id: 'b', from: {} } } as unknown as Change,
      ],
      422,
      'edit-broken-item',
      /\/changes\/2\/item/,
    ],
    [
      'an unknown operation',
      [{ op: 'burn' } as unknown as Change],
      422,
      'broken-document',
      /"insert", "remove"/,
    ],
  ];
  it.each(refused)(
    'refuses %s, and half of an edit is never stored',
    async (_name, changes, status, type, detail) => {
      const before = JSON.stringify(await stored());
      const answer = await edit(1, [insert('brake-1', 'first'), ...changes]);
      expect(answer.status).toBe(status);
      expect(answer.body.type).toBe(`urn:oquel:problem:${type}`);
      expect(answer.body.detail).toMatch(detail);
      expect(JSON.stringify(await stored())).toBe(before);
      expect((await server.get(`/api/projects/${id}`)).body.version).toBe(1);
    },
  );

  it('audits what is stored, not what was', async () => {
    await edit(1, [insert('brake-9')]);
    const { body } = await server.get(`/api/projects/${id}/audit?today=2026-11-24`);
    expect(body).toEqual(JSON.parse(JSON.stringify(audit(await stored(), { today: '2026-11-24' }))));
    expect(body.findings.map((f: { rule: string }) => f.rule)).toContain('dangling-target');
  });
});
