import { describe, expect, it } from '@jest/globals';
import { finish, indexProject, LiveWalk, readProject, walkScene, walkWiring } from '@oquel/core';
import { LiveFeed } from '../src/views/rehearse/plays/live-feed.js';
import { placeOnPlan } from '../src/views/rehearse/walk/place-on-plan.js';
import { WalkPlay } from '../src/views/rehearse/walk/walk-play.js';

// Without a browser no frame is drawn.
const project = readProject({
  format: 'oquel.project/1',
  name: 'Yard',
  assets: [
    {
      id: 'yard',
      kind: 'scene',
      placements: [
        { id: 'in', asset: 'Rescuer', at: [0, 0], entry: true },
        { id: 'mat', asset: 'Mat', at: [10, 0] },
        { id: 'lamp', asset: 'Lamp', at: [20, 0] },
      ],
      bindings: [
        { id: 'on', from: { at: 'mat', event: 'onStep' }, to: { at: 'lamp', action: 'light' }, delay: 1 },
      ],
    },
    {
      id: 'Mat',
      kind: 'prefab',
      area: { circle: 2 },
      events: [{ name: 'onStep', cause: { type: 'area-enter' } }],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      properties: [{ name: 'on', type: 'bool', default: false }],
      actions: [{ name: 'light', effects: [{ set: 'on', to: true }] }],
    },
    { id: 'Rescuer', kind: 'prefab' },
  ],
}).project;

function walking(): WalkPlay {
  const index = indexProject(project);
  const wiring = finish(walkWiring(index, undefined))!;
  return new WalkPlay(new LiveWalk(wiring, walkScene(index, 'yard')!, { speed: 4 }));
}
/** So many frames of a sixteenth of a second. */
function frames(play: WalkPlay, n: number): void {
  for (let i = 0; i < n; i++) play.tick(1 / 16, i);
}
function kinds(play: WalkPlay): string[] {
  // Lists are drawn anew now and then; here at once.
  play.list();
  return play.seen.records.map((r) => r.kind);
}

describe('a walk that is played', () => {
  it('walks while it is steered, and where it is sent, and stands while time is held', () => {
    const play = walking();
    play.steer([1, 0]);
    frames(play, 16);
    expect(play.place[0]).toBeCloseTo(4, 6);
    play.hold(true);
    frames(play, 16);
    expect(play.walk.now).toBe(1_000_000);
    play.hold(false);
    play.steer([0, 0]);
    play.walkTo([4, 3]);
    frames(play, 32);
    expect(play.place).toEqual([4, 3]);
    expect(play.target).toBeNull();
    expect(play.facing[1]).toBeCloseTo(1, 9);
  });
  it('a frame that comes late does not jump, and the pace is that of the game', () => {
    const play = walking();
    play.tick(60, 0);
    expect(play.walk.now).toBe(100_000);
    play.pace = 0.25;
    play.tick(0.1, 1);
    expect(play.walk.now).toBe(125_000);
  });
  it('goes on thing by thing, back thing by thing, and looks at any moment', () => {
    const play = walking();
    play.walkTo([10, 0]);
    frames(play, 40);
    expect(kinds(play)).toEqual(['raise']);
    play.on();
    expect(kinds(play)).toEqual(['raise', 'performed', 'change']);
    expect(play.held).toBe(true);
    play.off();
    expect(play.looked).toEqual({ t: 3_000_000, n: 3 });
    play.off();
    play.off();
    expect(play.looked).toEqual({ t: 2_000_000, n: 1 });
    expect(play.seen.changes).toEqual([]);
    expect(play.place[0]).toBeCloseTo(8, 6);
    play.on();
    expect(play.looked).toMatchObject({ n: 2 });
    play.lookAt(0);
    expect(play.looked).toEqual({ t: 0, n: 0 });
    play.lookAt(Infinity);
    expect(play.looked).toBeNull();
  });
  it('from an earlier moment it goes on another way, and what was set aside comes back', () => {
    const play = walking();
    play.walkTo([10, 0]);
    frames(play, 60);
    expect(kinds(play)).toEqual(['raise', 'performed', 'change']);
    play.lookAt(1_000_000);
    play.steer([0, 1]);
    frames(play, 16);
    expect(play.looked).toBeNull();
    expect(play.place[1]).toBeCloseTo(4, 6);
    expect(kinds(play)).toEqual([]);
    play.bringBack();
    expect(kinds(play)).toEqual(['raise', 'performed', 'change']);
    expect(play.walk.at).toEqual([10, 0]);
  });
  it('what is done from an earlier moment is done there, and an expectation is put there', () => {
    const play = walking();
    play.walkTo([10, 0]);
    frames(play, 60);
    play.lookAt(2_500_000);
    play.expect({ at: 'yard:lamp', property: 'on', is: false });
    expect(play.walk.steps.map((s) => [s.at, 'expect' in s])).toEqual([
      [2, false],
      [2.5, true],
    ]);
    expect(play.walk.records.find((r) => r.kind === 'expect')).toMatchObject({ ok: true, t: 2_500_000 });
    play.perform({ pause: true });
    expect(play.walk.steps.at(-1)).toMatchObject({ pause: true });
    expect(play.aside).toBeNull();
  });
});

describe('what a game sends at this moment', () => {
  it('is kept by session, numbered where it is not, and its clock goes on between lines', () => {
    const feed = new LiveFeed();
    const line = (record: object): string => JSON.stringify(record);
    feed.take(
      {
        session: 'a',
        lines: [
          line({ kind: 'session', wiring: 'x' }),
          'broken',
          line({ kind: 'raise', at: 'yard:mat', event: 'onStep', t: 5 }),
          line({ kind: 'change', at: 'yard:lamp', property: 'on', from: false, to: true }),
        ],
      },
      1000,
    );
    expect(feed.records.map((r) => [r.n, r.t, r.kind])).toEqual([
      [1, 5, 'raise'],
      [2, 5, 'change'],
    ]);
    expect(feed.changes).toMatchObject([{ at: 'yard:lamp', now: true }]);
    expect(feed.timeAt(1250)).toBe(250_005);
    expect([feed.isSending(10_000), feed.isSending(12_000)]).toEqual([true, false]);
    feed.take({ session: 'b', lines: [] }, 2000);
    expect([feed.session, feed.records.length, feed.changes.length]).toEqual(['b', 0, 0]);
  });
  it('is bounded', () => {
    const feed = new LiveFeed();
    const lines = Array.from({ length: 3000 }, (_, i) =>
      JSON.stringify({ kind: 'raise', at: 'a:b', event: 'c', n: i + 1 }),
    );
    feed.take({ session: 'a', lines }, 0);
    expect(feed.records.length).toBe(400);
    expect([feed.of(2600), feed.of(3000)?.n]).toEqual([undefined, 3000]);
  });
});

describe('where something stands on the plan', () => {
  const places = new Map<string, [number, number]>([
    ['.', [0, 0]],
    ['crane', [4, 5]],
    ['crane/hook', [5, 5]],
  ]);
  it.each([
    ['yard:crane/hook', [5, 5], false],
    ['yard:crane/~Crate#2', [4, 5], true],
    ['yard:crane/~Crate#2/lid', [4, 5], true],
    ['yard:~Crate#1', [0, 0], true],
  ])('%s', (address, at, isAside) => {
    const found = placeOnPlan(address, 'yard', places)!;
    expect(found.at).toEqual(at);
    expect(Math.hypot(...found.aside) > 1).toBe(isAside);
  });
  it.each(['quay:crane', 'yard:nothing', 'yard:nothing/~Crate#1'])('%s stands nowhere', (address) => {
    expect(placeOnPlan(address, 'yard', places)).toBeNull();
  });
});
