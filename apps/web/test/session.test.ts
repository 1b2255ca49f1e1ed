import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { TestServer } from '../../server/test/harness.js';
import { add, ids, settled, until, World } from './session-world.js';

let world: World;
let server: TestServer;
beforeAll(async () => {
  world = await World.start();
  server = world.server;
});
afterAll(() => server.stop());
beforeEach(() => world.newProject());
const open = (who = 'ines'): ReturnType<World['open']> => world.open(who);
const storedIds = (): Promise<string[]> => world.storedIds();

describe('an open project', () => {
  it('answers about ripples, selections and distributions as the last edit left it', async () => {
    const { session } = await open();
    const from = { at: 'mast-1', event: 'onGust' };
    const start = { at: 'pylon-ridge:mast-1', name: 'onGust' };
    const question = {
      ask: { start, direction: 'forward' as const },
      axis: 'hops' as const,
      room: 1200,
      filter: {},
      muted: [],
    };
    session.edit(add('gust-2', 'brake-2'));
    const both = await session.ripple(question);
    expect(both!.ripple.reach).toBe(2);
    expect(both!.lines.map((l) => l.text)).toContain('pylon-ridge:brake-2.engage');
    const off = [{ asset: 'pylon-ridge', binding: 'gust-2' }];
    const trial = await session.ripple({ ...question, muted: off });
    expect(trial!.ripple.entries.filter((e) => e.gone).map((e) => e.at[0])).toEqual(['pylon-ridge:brake-2']);
    expect(
      await session.ripple({ ...question, ask: { start: { at: 'nowhere:x' }, direction: 'forward' } }),
    ).toBeNull();
    const every = { every: 'TrackBrake', action: 'engage' };
    const asked = await session.selected('pylon-ridge', [
      { from, to: every },
      { from, to: { ...every, every: 'Nobody' } },
    ]);
    expect(asked.map((a) => a?.total ?? null)).toEqual([2, null]);
    expect((await session.figures()).fanOuts.map((b) => [b.value, b.count])).toEqual([[2, 1]]);
    expect(await session.fixAlike('no such finding')).toBeNull();
    session.close();
  });
  it('shows an edit at once, audits it, stores it, and takes it back and forth', async () => {
    const { session } = await open();
    await until(session, (s) => s.audit !== null);
    expect(session.edit(add('gust-2', 'brake-9'))).toBe(true);
    expect(ids(session.getState())).toEqual(['gust-1', 'gust-2']);
    const after = await settled(session);
    expect(after.lastEdit!.change!.added.map((f) => f.rule)).toContain('dangling-target');
    expect(after).toMatchObject({ undo: 'wired brake-9', redo: null });
    expect(await storedIds()).toEqual(['gust-1', 'gust-2']);
    session.step('undo');
    const undone = await until(
      session,
      (s) => s.redo !== null && s.lastEdit!.change !== null && s.saving === 'saved',
    );
    expect(ids(undone)).toEqual(['gust-1']);
    expect(undone.lastEdit!.change!.gone.map((f) => f.rule)).toContain('dangling-target');
    session.step('redo');
    await until(session, (s) => s.redo === null && s.saving === 'saved');
    expect(await storedIds()).toEqual(['gust-1', 'gust-2']);
    session.close();
  });

  it('refuses what cannot be applied, in words, and stays as it was', async () => {
    const { session, notices } = await open();
    expect(session.edit(add('gust-1', 'brake-2'))).toBe(false);
    expect(notices).toEqual(['pylon-ridge already has a binding "gust-1"']);
    expect(ids(session.getState())).toEqual(['gust-1']);
    session.close();
  });

  it('stores an edit whose words are longer than the server takes: they are cut, the edit is whole', async () => {
    const { session } = await open();
    const note = 'storm '.repeat(400);
    expect(session.edit({ ...add('gust-2', 'brake-2'), label: `noted ${note}` })).toBe(true);
    const after = await settled(session);
    expect(after.undo).toMatch(/^noted storm /);
    expect(after.undo!.length).toBeLessThanOrEqual(500);
    expect(await storedIds()).toEqual(['gust-1', 'gust-2']);
    session.close();
  });

  it('sends many edits in their order, each once', async () => {
    const { session } = await open();
    for (let i = 0; i < 12; i++) session.edit(add(`n${i}`, 'brake-2'));
    await settled(session);
    expect(await storedIds()).toEqual(['gust-1', ...Array.from({ length: 12 }, (_, i) => `n${i}`)]);
    const answer = await server.get(`/api/projects/${world.id}/edits?after=1`);
    const { edits } = answer.body as { edits: { who: string }[] };
    expect(edits).toHaveLength(12);
    expect(edits.every((e) => e.who === 'ines')).toBe(true);
    session.close();
  });

  it('carries its edit over when somebody else has changed other things, and shows both', async () => {
    const mine = await open('ines');
    const theirs = await open('tomas');
    theirs.session.edit(add('theirs', 'brake-1'));
    await settled(theirs.session);
    mine.session.edit(add('mine', 'brake-2'));
    const state = await until(mine.session, (s) => ids(s).includes('theirs') && s.saving === 'saved');
    expect(ids(state).sort()).toEqual(['gust-1', 'mine', 'theirs']);
    expect(mine.notices).toEqual([]);
    theirs.session.heardVersion(3);
    const heard = await until(theirs.session, (s) => ids(s).length === 3);
    // Undo takes one's own edit, whoever edited last.
    expect(heard).toMatchObject({ undo: 'wired brake-1', lastEdit: { who: 'ines' } });
    expect(ids(theirs.session.getState()).sort()).toEqual(['gust-1', 'mine', 'theirs']);
    mine.session.close();
    theirs.session.close();
  });

  it('says that there is nothing to undo, and goes on', async () => {
    const { session, notices } = await open();
    session.step('undo');
    await until(session, () => notices.length > 0);
    expect(notices).toEqual(['there is no edit to undo']);
    session.edit(add('gust-2', 'brake-2'));
    await settled(session);
    expect(await storedIds()).toEqual(['gust-1', 'gust-2']);
    session.close();
  });

  it('has fixes for a finding of the project as it is now', async () => {
    const { session } = await open();
    session.edit(add('gust-2', 'brake-3'));
    const { audit } = await settled(session);
    const dangling = audit!.findings.find((f) => f.rule === 'dangling-target')!;
    const fixes = await session.fixes(dangling.fingerprint);
    expect(fixes.map((c) => c.label)).toEqual([
      'Use brake-1',
      'Use brake-2',
      'Create brake-3',
      'Remove: when mast-1.onGust do brake-3.engage',
    ]);
    expect(await session.fixes('gone')).toEqual([]);
    session.close();
  });
});
