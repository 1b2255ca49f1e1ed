import { describe, expect, it } from '@jest/globals';
import { applyChanges, overlap, type ChangeSet } from '@oquel/core';
import fc from 'fast-check';
import { failureOf, Unreachable } from '../src/api/problem.js';
import { MAX_WAITING } from '../src/session/queue/queue-entries.js';
import { refusalOf } from '../src/session/queue/refusal.js';
import { refused } from './model-server.js';
import { QueueWorld, SMALL, type Window } from './queue-world.js';

type Action = [what: string, window: number, n: number];
const WEIGHTS: [string, number][] = [
  ['edit', 8],
  ['undo', 2],
  ['redo', 2],
  ['takeBack', 1],
  ['arrive', 18],
  ['late', 4],
  ['lose', 2],
  ['timer', 4],
  ['settle', 2],
  ['reload', 1],
  ['another', 1],
  ['fail', 1],
  ['well', 2],
];
const action = fc.tuple(
  fc.oneof(...WEIGHTS.map(([what, weight]) => ({ arbitrary: fc.constant(what), weight }))),
  fc.nat(3),
  fc.nat(60),
);
const FAILURES = [
  (): Error => new Unreachable('answered 502'),
  (): Error => refused('too-many-requests'),
  (): Error => refused('database-down'),
];

async function act(world: QueueWorld, count: number, [what, w, n]: Action): Promise<void> {
  const window: Window = world.window(w % count);
  const take = (from: number): (typeof world.wire)[number] | undefined => world.wire.splice(from, 1)[0];
  switch (what) {
    case 'edit':
      window.edit(n);
      break;
    case 'undo':
    case 'redo':
      window.step(what);
      break;
    case 'takeBack':
      if (world.server.log.length > 0) window.takeBack(2 + (n % world.server.log.length));
      break;
    case 'arrive':
      take(0)?.run();
      break;
    case 'late':
      take(n % Math.max(1, world.wire.length))?.run();
      break;
    case 'lose':
      take(n % Math.max(1, world.wire.length))?.lose();
      break;
    case 'timer': {
      const [timer] = world.timers;
      if (timer) {
        world.timers.delete(timer);
        timer.run();
      }
      break;
    }
    case 'settle':
      window.settle(n % 2 === 0 ? 'mine' : 'theirs');
      break;
    case 'reload':
      await window.reload(false);
      break;
    case 'another':
      await window.reload(true);
      break;
    case 'fail':
      world.failing = FAILURES[n % FAILURES.length];
      break;
    case 'well':
      world.failing = null;
  }
  await world.calm();
}

/** What must hold whatever has happened, once all is quiet. */
function check(world: QueueWorld): void {
  const { server, windows } = world;
  // The log gives the project.
  let replayed = SMALL;
  for (const edit of server.log) replayed = applyChanges(replayed, edit.changes).project;
  expect(replayed).toEqual(server.project);
  for (const w of windows) {
    expect(w.queue.waiting).toBe(0);
    expect(w.queue.version).toBe(server.version);
    expect(JSON.stringify(w.shown)).toBe(JSON.stringify(server.project));
    expect(JSON.stringify(w.mirror)).toBe(JSON.stringify(server.project));
    const stored = server.open(w.author);
    expect(w.queue.ahead.undo.map((s) => s.version)).toEqual(stored.undo.map((s) => s.version));
    expect(w.queue.ahead.redo.map((s) => s.version)).toEqual(stored.redo.map((s) => s.version));
  }
  const aside = new Set(windows.flatMap((w) => w.queue.aside.flat().map((e) => e.key)));
  const log = new Map(server.log.map((e) => [e.key, e]));
  expect(log.size).toBe(server.log.length);
  for (const asked of world.asked.values()) {
    const stored = asked.keys.filter((key) => log.has(key));
    const kept = asked.keys.filter((key) => aside.has(key));
    // Stored once, or kept aside, or given up by its own author's undo before it was stored.
    if (stored.length + kept.length !== 1) {
      const undone = world.givenUp(asked.keys);
      expect({ keys: asked.keys, stored, kept, undone }).toMatchObject({
        stored: [],
        kept: [],
        undone: true,
      });
    }
    for (const key of stored) {
      const edit = log.get(key)!;
      const unseen = server.log.filter(
        (e) => e.version > asked.seenVersion && e.version < edit.version && !asked.seenKeys.has(e.key!),
      );
      const met = unseen.filter((e) => overlap(e.changes, edit.changes).length > 0);
      expect({ key, met: met.map((e) => e.label) }).toEqual({ key, met: [] });
    }
  }
  // Nothing is kept that is stored, and all that is aside is kept.
  expect([...world.shelf.entries.keys()].sort()).toEqual([...aside].sort());
}

describe('the edit queue', () => {
  const runs = Number(process.env.OQUEL_INTERLEAVINGS ?? 800);
  it(`keeps every edit once, and only upon what its author saw, in ${runs} random interleavings`, async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 2, max: 4 }),
        fc.array(action, { minLength: 5, maxLength: 70 }),
        async (count, actions) => {
          const world = new QueueWorld();
          for (let i = 0; i < count; i++) world.window(i);
          for (const a of actions) await act(world, count, a);
          await world.quiet();
          check(world);
        },
      ),
      { numRuns: runs, seed: Number(process.env.OQUEL_SEED ?? 12), endOnFailure: false },
    );
  }, 600_000);
});

/** Two windows of different browsers. */
function pair(): { world: QueueWorld; mine: Window; theirs: Window } {
  const world = new QueueWorld();
  const [mine, , theirs] = [0, 1, 2].map((i) => world.window(i));
  return { world, mine, theirs };
}
const noted = (id: string, note: string): ChangeSet => ({
  label: `${id}: ${note}`,
  changes: [
    {
      op: 'replace',
      list: 'bindings',
      asset: 'pad',
      id,
      item: { id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'a' }, note },
    },
  ],
});
const notes = (world: QueueWorld): Record<string, string | undefined> =>
  Object.fromEntries(world.server.project.assets[0].bindings!.map((b) => [b.id, b.note]));
/** Everything arrives until nothing is on the way; no choice is made. */
async function deliver(world: QueueWorld): Promise<void> {
  await world.calm();
  for (let message = world.wire.shift(); message; message = world.wire.shift()) {
    message.run();
    await world.calm();
  }
}

describe('edits that wait', () => {
  it('are each compared with what others did since their own author looked, not only the first', async () => {
    const { world, mine, theirs } = pair();
    mine.queue.edit(noted('b0', 'mine'));
    mine.queue.edit(noted('b1', 'mine'));
    theirs.queue.edit(noted('b1', 'theirs'));
    await world.calm();
    // Theirs is stored first.
    world.wire.splice(1, 1)[0].run();
    await deliver(world);
    expect(notes(world)).toMatchObject({ b0: 'mine', b1: 'theirs' });
    expect(mine.queue.met.flat().map((e) => e.job)).toMatchObject([{ changeSet: { label: 'b1: mine' } }]);
  });
  it('of one window never meet one another', async () => {
    const { world, mine, theirs } = pair();
    for (const note of ['one', 'two', 'three']) mine.queue.edit(noted('b0', note));
    theirs.queue.edit(noted('b2', 'theirs'));
    await deliver(world);
    expect(mine.queue.met).toEqual([]);
    expect(notes(world)).toMatchObject({ b0: 'three', b2: 'theirs' });
  });
  it('meet as a group where one builds on another; what does not goes on', async () => {
    const { world, mine, theirs } = pair();
    theirs.queue.edit(noted('b0', 'theirs'));
    await world.calm();
    world.wire.splice(0, 1)[0].run();
    mine.queue.edit(noted('b0', 'first'));
    mine.queue.edit(noted('b1', 'apart'));
    mine.queue.edit(noted('b0', 'second'));
    await deliver(world);
    expect(mine.queue.met.map((g) => g.length)).toEqual([2]);
    expect(notes(world)).toMatchObject({ b0: 'theirs', b1: 'apart' });
    mine.queue.settle('mine');
    await deliver(world);
    expect(notes(world).b0).toBe('second');
  });
  it('are kept aside when theirs is chosen, and can be done after all', async () => {
    const { world, mine, theirs } = pair();
    theirs.queue.edit(noted('b0', 'theirs'));
    await world.calm();
    world.wire.splice(0, 1)[0].run();
    mine.queue.edit(noted('b0', 'mine'));
    await deliver(world);
    mine.queue.settle('theirs');
    await deliver(world);
    expect(notes(world).b0).toBe('theirs');
    const [[entry]] = mine.queue.aside;
    expect(entry.parked!.words).toBe('left as browser 1 had it');
    mine.queue.retry(entry.parked!.group);
    await deliver(world);
    expect(notes(world).b0).toBe('mine');
    expect(mine.queue.aside).toEqual([]);
    expect(world.shelf.entries.size).toBe(0);
  });
  it('that the server fails at again and again are set aside with its words; others go on', async () => {
    const { world, mine } = pair();
    mine.queue.edit(noted('b0', 'bad'));
    mine.queue.edit(noted('b1', 'good'));
    world.failing = () => refused('internal', { detail: 'it has logged why' });
    for (let i = 0; i < 5; i++) {
      await deliver(world);
      const [timer] = world.timers;
      world.timers.clear();
      if (i === 3) world.failing = () => refused('internal', { detail: 'the last time' });
      timer?.run();
      await world.calm();
      // The fifth answer is the one that sets it aside; after that the server is well.
      if (i === 3) {
        await world.calm();
        world.wire.shift()!.run();
        world.failing = null;
      }
    }
    await deliver(world);
    expect(notes(world)).toMatchObject({ b0: undefined, b1: 'good' });
    const [[entry]] = mine.queue.aside;
    expect(entry.parked!.words).toBe('the last time');
    mine.queue.drop(entry.parked!.group);
    await world.calm();
    expect(mine.queue.aside).toEqual([]);
    expect(world.shelf.entries.size).toBe(0);
  });
  it('follow an undo in the order in which they were asked for', async () => {
    const { world, mine } = pair();
    mine.queue.edit({ label: 'gone', changes: [{ op: 'remove', list: 'bindings', asset: 'pad', id: 'b0' }] });
    await deliver(world);
    mine.queue.step('undo');
    mine.queue.edit({
      label: 'last',
      changes: [{ op: 'move', list: 'bindings', asset: 'pad', id: 'b0', index: 2 }],
    });
    const order = (): string[] => mine.shown.assets[0].bindings!.map((b) => b.id);
    expect(order()).toEqual(['b1', 'b2', 'b0']);
    await deliver(world);
    expect(order()).toEqual(['b1', 'b2', 'b0']);
    expect(world.server.project).toEqual(mine.shown);
  });
  it('of a window that is gone are offered to another one, which sends or drops them', async () => {
    for (const choice of ['send', 'drop'] as const) {
      const { world, mine, theirs } = pair();
      mine.queue.edit(noted('b0', 'left'));
      await world.calm();
      mine.queue.close();
      world.wire.length = 0;
      await theirs.queue.takeUp((client) => client === theirs.client);
      expect(theirs.queue.found).toHaveLength(1);
      expect(theirs.shown.assets[0].bindings![0].note).toBeUndefined();
      theirs.queue.takeFound(choice);
      await deliver(world);
      expect(notes(world).b0).toBe(choice === 'send' ? 'left' : undefined);
      expect(world.shelf.entries.size).toBe(0);
    }
  });
  it('of a window that still lives are left to it', async () => {
    const { world, mine, theirs } = pair();
    mine.queue.edit(noted('b0', 'mine'));
    await world.calm();
    await theirs.queue.takeUp(() => true);
    expect(theirs.queue.found).toEqual([]);
    await deliver(world);
    expect(notes(world).b0).toBe('mine');
  });
  it('are bounded in number, which is said', async () => {
    const { world, mine } = pair();
    for (let i = 0; i < MAX_WAITING; i++) expect(mine.queue.edit(noted('b0', `n${i}`))).toBe(true);
    expect(mine.queue.edit(noted('b0', 'one too many'))).toBe(false);
    expect(mine.notices).toEqual(['1000 edits wait for the server; no more can be made until it answers']);
    await world.calm();
    expect(world.shelf.entries.size).toBe(MAX_WAITING);
  });
});

describe('an answer that is no success', () => {
  const html = '<html>Bad gateway</html>';
  const problem = (type: string): object => ({ type: `urn:oquel:problem:${type}`, detail: 'words' });
  it.each<[number, unknown, string]>([
    [401, html, 'wait'],
    [403, html, 'wait'],
    [404, html, 'wait'],
    [408, undefined, 'wait'],
    [413, html, 'wait'],
    [421, { type: 'about:blank' }, 'wait'],
    [429, html, 'wait'],
    [500, html, 'wait'],
    [502, undefined, 'wait'],
    [421, problem('wrong-host'), 'wait'],
    [403, problem('wrong-origin'), 'wait'],
    [429, problem('too-many-requests'), 'wait'],
    [500, problem('internal'), 'wait'],
    [503, problem('database-down'), 'wait'],
    [503, problem('busy'), 'wait'],
    [409, problem('stale-edit'), 'met'],
    [409, problem('edit-no-item'), 'aside'],
    [422, problem('broken-document'), 'aside'],
    [404, problem('no-project'), 'aside'],
    [409, problem('nothing-to-undo'), 'said'],
    [409, problem('not-next'), 'said'],
  ])('%d with %j: %s', (status, body, kind) => {
    expect(refusalOf(failureOf(status, body)).kind).toBe(kind);
  });
});
