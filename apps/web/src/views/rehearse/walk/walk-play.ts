import {
  StateTally,
  statesAfter,
  type Expectation,
  type LiveWalk,
  type RunDifference,
  type StateChange,
  type StepBody,
  type TraceRecord,
  type Vec2,
  type WalkScene,
  type WalkSoFar,
  type WalkWiring,
} from '@oquel/core';

/** A frame never takes more of the game's time than this, in seconds: after a halt the walk goes on where it was. */
const LONGEST_FRAME = 0.1;
/** Milliseconds between two times at which lists beside the plan are drawn anew. */
const LISTS = 200;
/** Seconds within which the next thing that is due is looked for when time goes on thing by thing. */
const HORIZON = 120;
/** Metres: further than anybody walks in a frame. */
const FAR = 10_000;

/** An earlier moment that is looked at. */
export interface Looked {
  t: number;
  /** The last record that counts. */
  n: number;
}

/** What the lists beside the plan show: made anew when something has happened. */
export interface Seen {
  records: readonly TraceRecord[];
  changes: readonly StateChange[];
  /** The last record that has come about at the moment shown. */
  cursor: number;
}

/** A walk that is played: its clock, who steers it, and which moment is looked at. What draws it subscribes to it. */
export class WalkPlay {
  held = false;
  /** Seconds of the game in one of ours. */
  pace = 1;
  /** An earlier moment, or null for the present. */
  looked: Looked | null = null;
  /** What was set aside by going on from an earlier moment. */
  aside: WalkSoFar | null = null;
  /** What came out otherwise by the last edit of the wiring. */
  edited: RunDifference | null = null;
  /** Where it faces: a unit vector. */
  facing: Vec2 = [0, 1];
  target: Vec2 | null = null;
  seen: Seen = { records: [], changes: [], cursor: 0 };
  frame = 0;
  private steering: Vec2 = [0, 0];
  private readonly onFrames = new Set<() => void>();
  private readonly onLists = new Set<() => void>();
  private request = 0;
  private last = 0;
  private listed = { at: -Infinity, records: -1 };

  constructor(readonly walk: LiveWalk) {
    this.list();
  }

  readonly onFrame = (listener: () => void): (() => void) => {
    this.onFrames.add(listener);
    return () => this.onFrames.delete(listener);
  };
  readonly onList = (listener: () => void): (() => void) => {
    this.onLists.add(listener);
    return () => this.onLists.delete(listener);
  };
  readonly frameNow = (): number => this.frame;
  readonly seenNow = (): Seen => this.seen;

  /** Lets the clock run while somebody looks; the answer stops it. */
  run(): () => void {
    this.last = performance.now();
    const turn = (now: number): void => {
      this.request = requestAnimationFrame(turn);
      this.tick((now - this.last) / 1000, now);
      this.last = now;
    };
    this.request = requestAnimationFrame(turn);
    return () => {
      cancelAnimationFrame(this.request);
      this.steer([0, 0]);
    };
  }
  /** One frame, so many seconds after the one before. */
  tick(seconds: number, now: number): void {
    if (!this.held && !this.looked && !this.walk.end && seconds > 0) {
      this.go(Math.min(LONGEST_FRAME, seconds) * this.pace);
    }
    this.draw();
    if (now - this.listed.at >= LISTS) this.listAt(now);
  }

  /** Microseconds of the moment that is shown. */
  get time(): number {
    return this.looked?.t ?? this.walk.now;
  }
  /** Where the walker is at the moment that is shown. */
  get place(): Vec2 {
    return this.looked ? this.walk.wasAt(this.looked.t).at : this.walk.at;
  }
  get inside(): ReadonlySet<string> {
    return this.looked ? this.walk.wasAt(this.looked.t).inside : this.walk.inside;
  }

  /** The direction that keys give; none ends it. */
  steer(direction: Vec2): void {
    const length = Math.hypot(direction[0], direction[1]);
    this.steering = length === 0 ? [0, 0] : [direction[0] / length, direction[1] / length];
    if (length === 0) return;
    this.target = null;
    this.begin();
  }
  walkTo(target: Vec2): void {
    this.begin();
    this.target = target;
  }
  hold(is: boolean): void {
    this.held = is;
    if (!is) this.looked = null;
    this.list();
  }
  /** Does something now; from an earlier moment the walk goes on from there. */
  perform(what: StepBody): void {
    this.begin();
    this.walk.perform(what);
    // What is due now is done, so that it is seen while time is held.
    this.walk.pass(1e-6, null);
    this.list();
  }
  expect(expect: Expectation): void {
    this.walk.expect(expect, this.time);
    this.list();
  }
  /** While time is held: on to the next thing that happens. */
  on(): void {
    this.held = true;
    if (this.looked) {
      const next = this.walk.records.find((r) => r.n > this.looked!.n);
      if (next) return this.look(next.n);
      this.looked = null;
    } else if (!this.walk.toNext(HORIZON)) this.walk.pass(1, null);
    this.list();
  }
  /** While time is held: back to the thing before. */
  off(): void {
    this.held = true;
    const { cursor } = this.seen;
    this.look(this.looked ? cursor - 1 : cursor);
  }
  /** Looks at the moment of a record. */
  look(n: number): void {
    const record = this.walk.records[Math.max(0, n - 1)] as TraceRecord | undefined;
    this.held = true;
    this.looked = n < 1 || !record ? { t: 0, n: 0 } : { t: record.t, n: record.n };
    this.list();
  }
  /** Looks at a time; the present if that is it. */
  lookAt(t: number): void {
    this.held = true;
    this.looked = t >= this.walk.now ? null : { t, n: this.walk.records.findLast((r) => r.t <= t)?.n ?? 0 };
    this.list();
  }
  /** Goes on from the moment that is looked at. */
  begin(): void {
    if (this.looked) {
      const { steps } = this.walk;
      const aside = this.walk.back(this.looked.t);
      if (steps.length > this.walk.steps.length) this.aside = aside;
      this.looked = null;
      this.held = false;
      this.list();
    }
  }
  bringBack(): void {
    if (!this.aside) return;
    this.walk.restore(this.aside);
    this.aside = null;
    this.looked = null;
    this.held = true;
    this.list();
  }
  rewire(wiring: WalkWiring, ground: WalkScene): void {
    const difference = this.walk.rewire(wiring, ground);
    this.edited = difference.added.length + difference.gone.length > 0 ? difference : null;
    this.aside = null;
    if (this.looked) this.lookAt(this.looked.t);
    this.list();
  }
  /** Lists are to be drawn anew. */
  list(): void {
    this.listed.records = -1;
    this.listAt(performance.now());
    this.draw();
  }

  private go(seconds: number): void {
    const [dx, dy] = this.steering;
    const { walk } = this;
    const before = walk.at;
    const towards: Vec2 | null =
      dx !== 0 || dy !== 0 ? [before[0] + dx * FAR, before[1] + dy * FAR] : this.target;
    walk.pass(seconds, towards);
    const [mx, my] = [walk.at[0] - before[0], walk.at[1] - before[1]];
    const moved = Math.hypot(mx, my);
    if (moved > 0) this.facing = [mx / moved, my / moved];
    if (this.target && walk.at[0] === this.target[0] && walk.at[1] === this.target[1]) this.target = null;
  }
  private draw(): void {
    this.frame++;
    for (const listener of this.onFrames) listener();
  }
  private listAt(now: number): void {
    const { records, states } = this.walk;
    if (this.listed.records === records.length && this.looked === null) return;
    this.listed = { at: now, records: records.length };
    const cursor = this.looked?.n ?? records.length;
    this.seen = {
      records: records.slice(),
      changes: this.looked ? statesAfter(records, cursor) : states.now.changes(),
      cursor,
    };
    for (const listener of this.onLists) listener();
  }
}

/** For what has not begun. */
export const NOTHING_SEEN: Seen = { records: [], changes: new StateTally().changes(), cursor: 0 };
