import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { conflictVersionsOf } from '../src/parts/conflict-versions.js';
import type { ChangeSet } from '@oquel/core';
import { TestServer } from '../../server/test/harness.js';
import { engage, smallProject } from '../../server/test/small-project.js';
import { placeText } from '../src/parts/place-text.js';
import { labelOf } from '../src/session/queue/entry.js';
import { add, ids, remove, settled, until, World } from './session-world.js';

let world: World;
beforeAll(async () => {
  world = await World.start();
});
afterAll(() => world.server.stop());
beforeEach(() => world.newProject());

const delayed = (delay: number): ChangeSet => ({
  label: `delayed by ${delay}`,
  changes: [
    {
      op: 'replace',
      list: 'bindings',
      asset: 'pylon-ridge',
      id: 'gust-1',
      item: { ...engage('gust-1', 'brake-1'), delay },
    },
  ],
});
const storedDelay = async (): Promise<number | undefined> =>
  (await world.document()).assets[0].bindings!.find((b) => b.id === 'gust-1')?.delay;

describe('an edit that meets somebody else’s', () => {
  it('is not stored, shown beside theirs, and done over it if that is chosen', async () => {
    const [mine, theirs] = [await world.open('ines'), await world.open('tomas')];
    theirs.session.edit(delayed(1));
    await settled(theirs.session);
    mine.session.edit(delayed(2));
    mine.session.edit(add('after', 'brake-2'));
    const met = await until(mine.session, (s) => s.conflicts.length > 0 && s.saving === 'saved');
    expect(met.conflicts).toMatchObject([
      {
        label: 'delayed by 2',
        theirs: [{ who: 'tomas', label: 'delayed by 1' }],
      },
    ]);
    expect(conflictVersionsOf(met.conflicts[0])).toEqual([
      {
        asset: 'pylon-ridge',
        id: 'gust-1',
        theirs: expect.stringMatching(/after 1s$/),
        yours: expect.stringMatching(/after 2s$/),
      },
    ]);
    // What came after it is stored all the same.
    expect(ids(met)).toEqual(['gust-1', 'after']);
    expect(await storedDelay()).toBe(1);
    mine.session.settle('mine');
    await settled(mine.session);
    expect(await storedDelay()).toBe(2);
    expect(mine.session.getState().conflicts).toEqual([]);
    mine.session.close();
    theirs.session.close();
  });
  it('is left when theirs is chosen, and cannot be done over what is gone', async () => {
    const [mine, theirs] = [await world.open('ines'), await world.open('tomas')];
    theirs.session.edit(remove('gust-1'));
    await settled(theirs.session);
    for (const choice of ['theirs', 'mine'] as const) {
      // Made against what was there before: this window has not heard yet.
      const late = choice === 'theirs' ? mine : await world.open('ines');
      if (choice === 'mine') {
        theirs.session.step('undo');
        await until(theirs.session, (s) => ids(s).length === 1 && s.saving === 'saved');
        late.session.heardVersion(3);
        theirs.session.edit(remove('gust-1'));
        await settled(theirs.session);
      }
      late.session.edit(delayed(3));
      const met = await until(late.session, (s) => s.conflicts.length > 0);
      expect(conflictVersionsOf(met.conflicts[0])).toEqual([]);
      late.session.settle(choice);
      expect(late.notices).toEqual(choice === 'mine' ? ['pylon-ridge has no binding "gust-1"'] : []);
      expect(await world.storedIds()).toEqual([]);
      late.session.close();
    }
    theirs.session.close();
  });
});

describe('what others do', () => {
  it('comes in when the version is heard of, with who did it, and is audited', async () => {
    const [mine, theirs] = [await world.open('ines'), await world.open('tomas')];
    await until(mine.session, (s) => s.audit !== null);
    theirs.session.edit(add('gust-2', 'brake-9'));
    await settled(theirs.session);
    mine.session.heardVersion(2);
    const state = await until(mine.session, (s) => s.lastEdit?.change != null);
    expect(ids(state)).toEqual(['gust-1', 'gust-2']);
    expect(state).toMatchObject({ undo: null, lastEdit: { who: 'tomas' } });
    expect(state.lastEdit!.change!.added.map((f) => f.rule)).toContain('dangling-target');
    // One that is known already changes nothing.
    const before = mine.session.getState().project;
    mine.session.heardVersion(2);
    await Promise.resolve();
    expect(mine.session.getState().project).toBe(before);
    mine.session.close();
    theirs.session.close();
  });
  it('are reported as places that can be read', () => {
    expect(placeText('wire?scope=pylon-ridge&at=mast-2')).toBe('Wire, pylon-ridge, mast-2');
    expect(placeText('wire/sheet')).toBe('Sheet');
    expect(placeText('')).toBe('Oquel');
  });
});

describe('edits that wait when the window is loaded anew', () => {
  it('are taken up and sent, each once, even if one had arrived and its answer was lost', async () => {
    const { session } = await world.open('ines');
    const { port } = new URL(world.server.url);
    await world.server.stop('SIGKILL');
    session.edit(add('n1', 'brake-1'));
    session.edit(add('n2', 'brake-2'));
    await until(session, (s) => s.saving === 'offline');
    session.close();
    world.server = await TestServer.start(world.databaseUrl, { PORT: port });
    const kept = [...world.kept.values()];
    expect(kept.map(labelOf)).toEqual(['wired brake-1', 'wired brake-2']);
    const [{ key }] = kept;
    await world.server.post(`/api/projects/${world.id}/edits`, {
      ...add('n1', 'brake-1'),
      key,
      base: 1,
      who: 'ines',
      author: world.author('ines'),
    });
    const again = await world.open('ines');
    await until(again.session, (s) => ids(s).includes('n2') && s.saving === 'saved' && s.waiting === 0);
    expect(await world.storedIds()).toEqual(['gust-1', 'n1', 'n2']);
    expect(world.kept.size).toBe(0);
    again.session.close();
  });
  it('outlive a server that goes away again before they are taken up, with what is edited meanwhile', async () => {
    const { session } = await world.open('ines');
    const { port } = new URL(world.server.url);
    await world.server.stop('SIGKILL');
    session.edit(add('n1', 'brake-1'));
    await until(session, (s) => s.saving === 'offline');
    session.close();
    world.server = await TestServer.start(world.databaseUrl, { PORT: port });
    const opened = (await world.server.get(`/api/projects/${world.id}`)).body as never;
    await world.server.stop('SIGKILL');
    const again = world.session(opened, 'ines');
    again.session.edit(add('n2', 'brake-2'));
    await until(again.session, (s) => s.saving === 'offline');
    expect([...world.kept.values()].map(labelOf).sort()).toEqual(['wired brake-1', 'wired brake-2']);
    world.server = await TestServer.start(world.databaseUrl, { PORT: port });
    // The link is there before the time to try again has come.
    again.session.heardConnected(true);
    await until(again.session, (s) => ids(s).includes('n1') && s.saving === 'saved' && s.waiting === 0);
    expect((await world.storedIds()).sort()).toEqual(['gust-1', 'n1', 'n2']);
    expect(world.kept.size).toBe(0);
    again.session.close();
  });
  it('are put to a choice where somebody else has changed the same meanwhile', async () => {
    const { session } = await world.open('ines');
    const { port } = new URL(world.server.url);
    await world.server.stop('SIGKILL');
    session.edit(delayed(5));
    await until(session, (s) => s.saving === 'offline');
    session.close();
    world.server = await TestServer.start(world.databaseUrl, { PORT: port });
    await world.server.post(`/api/projects/${world.id}/edits`, { ...delayed(6), base: 1, who: 'tomas' });
    const again = await world.open('ines');
    const met = await until(again.session, (s) => s.conflicts.length > 0);
    expect(met.conflicts[0]).toMatchObject({ label: 'delayed by 5', theirs: [{ who: 'tomas' }] });
    expect(await storedDelay()).toBe(6);
    again.session.close();
  });
});

describe('a build, and a document in the project’s place', () => {
  it('are compared with now, and gone over to by one edit', async () => {
    const { session, notices } = await world.open('ines');
    const frozen = await world.server.post(`/api/projects/${world.id}/builds`, {
      base: 1,
      name: 'week 1',
      who: 'ines',
    });
    session.edit(add('gust-2', 'brake-9'));
    await settled(session);
    const { id: build } = frozen.body as { id: string };
    const base = `/api/projects/${world.id}/builds/${build}`;
    const [document, audit] = await Promise.all([
      world.server.get(`${base}/document`),
      world.server.get(`${base}/audit`),
    ]);
    const { difference, findings } = await session.compare(
      { document: document.text, audit: audit.text },
      'now',
    );
    expect(difference.counts.binding.added).toBe(1);
    expect(findings.added.map((f) => f.rule)).toContain('dangling-target');
    session.restore(build, 'week 1');
    await until(session, (s) => ids(s).length === 1 && s.saving === 'saved');
    expect(await world.storedIds()).toEqual(['gust-1']);
    const wanted = { ...smallProject(), name: 'Another corner' };
    session.replaceBy(JSON.stringify(wanted), 'took over a document', 1);
    await until(session, () => notices.length > 0);
    expect(notices[0]).toMatch(/looked at against version 1, and the project is at 3; look again/);
    session.replaceBy(JSON.stringify(wanted), 'took over a document', 3);
    await until(session, (s) => s.project.name === 'Another corner' && s.saving === 'saved');
    expect(await world.document()).toEqual(wanted);
    session.close();
  });
});
