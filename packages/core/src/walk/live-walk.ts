import type { WiringProject, WiringScene } from '@oquel/runtime';
import { LiveRehearsal, type TraceLine as RuntimeLine } from '@oquel/runtime/rehearsals';
import { LIMITS } from '../limits.js';
import type { Expectation, Rehearsal, Step, Value, Vec2 } from '../project/types.js';
import type { TraceRecord } from '../rehearse/records.js';
import {
  compareRuns,
  expectationOf,
  StateTally,
  statesAfter,
  type RunDifference,
} from '../rehearse/states.js';
import type { WalkScene } from './walk-scene.js';
import { Walker, type Touch } from './walker.js';
import { firstNotBefore } from '../util/lower-bound.js';

/** Compiled wiring of the scenes that are loaded. */
export interface WalkWiring {
  project: WiringProject;
  scenes: readonly WiringScene[];
}
export interface WalkSetting {
  loadSet?: string;
  /** The asset that walks; areas that answer to certain ones only may refuse it. */
  activator?: string;
  /** The peer who walks. */
  by?: string;
  /** Metres a second, more than 0. */
  speed: number;
}
/** Where the walker was from a time on, in microseconds, and in whose areas. */
export interface WayPoint {
  t: number;
  at: Vec2;
  inside: ReadonlySet<string>;
}
/** A walk as it was at some moment. */
export interface WalkSoFar {
  readonly steps: readonly Step[];
  readonly way: readonly WayPoint[];
  readonly now: number;
}
/** A step without its time. */
export type StepBody = DistributiveOmit<Step, 'at'>;
/** Why a walk cannot go on. */
export type WalkEnd = 'runaway' | 'records' | 'steps' | 'time' | 'load-set';
type Payload = Readonly<Record<string, Value>>;

/**
 * A walk in the game's time, run by the runtime. Everything that is done is a step, so that the rehearsal with these steps
 * gives the trace that was walked. Microseconds, and metres.
 */
export class LiveWalk {
  records: TraceRecord[] = [];
  steps: Step[] = [];
  way: WayPoint[] = [];
  readonly states = { now: new StateTally() };
  private run: LiveRehearsal;
  private readonly walker: Walker;
  /** What is due at this time has been done: what is done next comes later. */
  private settled = false;

  /** It stands at the ground's start, or at `from`. */
  constructor(
    private wiring: WalkWiring,
    public ground: WalkScene,
    public setting: WalkSetting,
    from: Vec2 = ground.start,
  ) {
    this.walker = new Walker(ground, from);
    this.run = this.begun();
    this.touch(this.walker.stand(), 0);
    this.settle();
    this.mark();
  }

  get now(): number {
    return this.run.world?.now ?? 0;
  }
  get at(): Vec2 {
    return this.walker.at;
  }
  /** In whose areas it is, by path. */
  get inside(): ReadonlySet<string> {
    return this.walker.inside;
  }
  get end(): WalkEnd | null {
    const { walk } = LIMITS;
    if (!this.run.world) return 'load-set';
    if (this.run.over) return 'runaway';
    if (this.records.length >= walk.records) return 'records';
    if (this.steps.length >= walk.steps) return 'steps';
    return this.now >= walk.time ? 'time' : null;
  }
  /** When something is due next, in microseconds; Infinity for never. */
  get next(): number {
    return this.run.world?.next ?? Infinity;
  }

  /** Lets time go on by so many seconds, and walks towards a point meanwhile, as far as it comes. */
  pass(seconds: number, towards: Vec2 | null): void {
    if (this.end) return;
    const from = this.now;
    const until = from + Math.max(1, Math.round(seconds * 1e6));
    if (towards) {
      const { at, speed } = { at: this.walker.at, speed: this.setting.speed };
      const way = Math.hypot(towards[0] - at[0], towards[1] - at[1]);
      const walked = Math.min(way, ((until - from) / 1e6) * speed);
      const part = way === 0 ? 0 : walked / way;
      const to: Vec2 =
        part > 1 - 1e-9
          ? [towards[0], towards[1]]
          : [at[0] + (towards[0] - at[0]) * part, at[1] + (towards[1] - at[1]) * part];
      this.touch(this.walker.walk(to), from, until);
    }
    this.run.goTo(until);
    this.settle();
    this.mark();
  }
  /** Goes on to what is due next, if that comes within so many seconds; returns whether it does. */
  toNext(within: number): boolean {
    const { next, now } = this;
    if (this.end || next > now + within * 1e6) return false;
    this.run.goTo(next);
    this.settle();
    this.mark();
    return true;
  }
  raise(at: string, event: string, payload: Payload = {}): void {
    this.do({ raise: this.raiseOf(at, event, payload) });
  }
  /** Does what a step of a rehearsal does, now. */
  perform(what: StepBody): void {
    if ('expect' in what) this.expect(what.expect);
    else this.do(what);
  }
  publish(channel: string, payload: Payload = {}, key?: Value): void {
    const given = Object.keys(payload).length > 0 ? { payload } : {};
    this.do({ publish: { channel, ...(key === undefined ? {} : { key }), ...given } });
  }
  /** Pauses the game, or lets it go on: the game's own pause, not the walk's. */
  pause(is: boolean): void {
    this.do({ pause: is });
  }
  /** Expects something at a time that has been, or now. Cost: the walk so far, where it is not now. */
  expect(expect: Expectation, time = this.now): void {
    if (this.end) return;
    if (time >= this.now) {
      this.settle();
      this.take({ at: this.now / 1e6, expect });
      return;
    }
    const later = this.steps.findIndex((s) => Math.round(s.at * 1e6) > time);
    const steps = [...this.steps];
    steps.splice(later < 0 ? steps.length : later, 0, { at: time / 1e6, expect });
    this.again(steps, this.now);
  }

  /** Where it was, and in whose areas, at a time that has been. Logarithmic in the points of the way. */
  wasAt(t: number): WayPoint {
    const { way } = this;
    const later = firstNotBefore(way.length, (place) => way[place].t <= t);
    const before = way[Math.max(0, later - 1)];
    if (later >= way.length || later === 0) return before;
    const after = way[later];
    const part = (t - before.t) / (after.t - before.t);
    const [[ax, ay], [bx, by]] = [before.at, after.at];
    return { t, at: [ax + (bx - ax) * part, ay + (by - ay) * part], inside: before.inside };
  }
  /**
   * Goes back to a time that has been, or to the moment before it at which the walker was drawn; what came after it is
   * set aside, and returned. Cost: what was done until then, again.
   */
  back(wanted: number): WalkSoFar {
    const aside = { steps: this.steps, way: this.way, now: this.now };
    const i = this.way.findLastIndex((p) => p.t <= Math.max(0, wanted));
    const [was, after] = [this.way[i], this.way.at(i + 1)];
    const stood = after !== undefined && same(was.at, after.at) && was.inside === after.inside;
    const t = stood || !after ? Math.min(wanted, this.now) : was.t;
    this.walker.place(was.at, was.inside);
    this.way = this.way.slice(0, i + 1);
    this.again(
      this.steps.filter((s) => Math.round(s.at * 1e6) <= t),
      t,
    );
    this.mark();
    return aside;
  }
  /** Takes up again what was set aside. Cost: the walk again. */
  restore({ steps, way, now }: WalkSoFar): void {
    this.way = [...way];
    const last = way[way.length - 1];
    this.walker.place(last.at, last.inside);
    this.again(steps, now);
    this.mark();
  }
  /**
   * The wiring, or the ground, is another one now. What was done so far is done again with it, so that what is seen is what
   * the wiring does; where it is, is kept. Returns what has come out otherwise. Cost: the walk so far.
   */
  rewire(wiring: WalkWiring, ground: WalkScene): RunDifference {
    const before = this.records;
    const { now } = this;
    this.wiring = wiring;
    this.ground = ground;
    this.again(this.steps, now);
    const difference = compareRuns(before, this.records);
    this.touch(this.walker.reground(ground), this.now);
    this.settle();
    this.mark();
    return difference;
  }
  /** Another peer, asset or speed from now on. */
  set(part: Partial<Omit<WalkSetting, 'loadSet'>>): void {
    this.setting = { ...this.setting, ...part };
  }

  /**
   * The walk as a rehearsal, which ends now, with what has changed last: one without expectations would check nothing, and
   * timers tick in it no longer than it has steps.
   */
  kept(name: string): Rehearsal {
    const last = this.steps.at(-1);
    const isClosed = last !== undefined && 'expect' in last && Math.round(last.at * 1e6) === this.now;
    if (!isClosed) this.expect(this.outcome());
    const { loadSet } = this.setting;
    return { name, ...(loadSet === undefined ? {} : { loadSet }), steps: [...this.steps] };
  }
  /** The trace of what was walked, to where everything under way has run out. Cost: the walk again. */
  trace(name: string): RuntimeLine[] {
    const lines: RuntimeLine[] = [];
    const { project, scenes } = this.wiring;
    const { loadSet } = this.setting;
    const run = new LiveRehearsal(
      project,
      scenes,
      { name, ...(loadSet === undefined ? {} : { loadSet }) },
      (l) => lines.push(l),
    );
    for (const step of this.steps) timed(run, step);
    run.settle();
    run.end();
    return lines;
  }

  private outcome(): Expectation {
    const changes = statesAfter(this.records, Infinity);
    const last =
      changes.findLast(({ what }) => typeof what === 'string' || 'property' in what) ?? changes.at(-1);
    return last ? expectationOf(last) : { at: `${this.ground.scene}:.`, asleep: false };
  }
  raiseOf(at: string, event: string, payload: Payload): Extract<Step, { raise: object }>['raise'] {
    const { activator, by } = this.setting;
    return {
      at,
      event,
      ...(Object.keys(payload).length > 0 ? { payload } : {}),
      ...(activator ? { activator } : {}),
      ...(by ? { by } : {}),
    };
  }
  private touch(touches: readonly Touch[], from: number, until = Infinity): void {
    for (const { walked, address, event } of touches) {
      const t = from + Math.round((walked / this.setting.speed) * 1e6);
      this.do({ raise: this.raiseOf(address, event, {}) }, Math.min(t, until));
    }
  }
  private do(what: StepBody, wanted = this.now): void {
    if (this.end) return;
    const t = Math.max(wanted, this.settled ? this.now + 1 : this.now);
    this.take({ at: t / 1e6, ...what });
  }
  private take(step: Step): void {
    this.steps.push(step);
    timed(this.run, step);
    this.settled = 'expect' in step;
  }
  private settle(): void {
    this.run.settle();
    this.settled = true;
  }
  private begun(): LiveRehearsal {
    const { project, scenes } = this.wiring;
    const { loadSet } = this.setting;
    this.records = [];
    this.states.now = new StateTally();
    return new LiveRehearsal(
      project,
      scenes,
      { name: '', ...(loadSet === undefined ? {} : { loadSet }) },
      (line) => {
        if (!('n' in line)) return;
        const record = line as unknown as TraceRecord;
        this.records.push(record);
        this.states.now.take(record);
      },
    );
  }
  private again(steps: readonly Step[], until: number): void {
    this.steps = [];
    this.run = this.begun();
    this.settled = false;
    for (const step of steps) {
      if (this.end) break;
      this.take(step);
    }
    this.run.goTo(until);
    this.settle();
  }
  private mark(): void {
    const { now: t, at, inside } = this;
    const { way } = this;
    const [a, b] = [way.at(-2), way.at(-1)];
    // Standing still makes no points.
    if (a && b && same(a.at, b.at) && same(b.at, at) && b.inside === inside && a.inside === inside) b.t = t;
    else if (!b || b.t < t) way.push({ t, at, inside });
    else way[way.length - 1] = { t, at, inside };
  }
}

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** Takes a step at its time. */
function timed(run: LiveRehearsal, step: Step): void {
  run.goTo(Math.round(step.at * 1e6));
  if ('expect' in step) run.settle();
  run.do(step);
}
function same([ax, ay]: Vec2, [bx, by]: Vec2): boolean {
  return ax === bx && ay === by;
}
