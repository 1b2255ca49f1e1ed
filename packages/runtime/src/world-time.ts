import type { WiringProject } from './format.js';
import { LIMITS, type Game, type Limits } from './game.js';
import type { Burst, Instance } from './instance.js';
import { inOrder } from './naming.js';
import { raiseOf, type Queued, type Raise, type Timer } from './queued.js';
import type { RecordBody, WorldRecord } from './records.js';
import { TimeQueue } from './time-queue.js';
import { NONE } from './value.js';
import { RunawayWatch } from './watch.js';

/** A longer list of what is due is let go of when it is done. */
const MOST_KEPT = 1000;
/** What stands in the list of what is due in place of what has been done, so that that can be freed. */
const DONE: Burst = { kind: 'burst', changes: 0, sure: [], isFree: false };

/** What is due in a world and when, what bounds it, and the records of what was done. */
export abstract class WorldTime {
  /** Microseconds since the beginning. */
  now = 0;
  /** Whether the last instant ended in a runaway. */
  runaway = false;
  deliveries = 0;
  records = 0;
  readonly queue = new TimeQueue<Queued>();
  /** Null once they have ended. */
  protected timers: TimeQueue<Timer> | null = new TimeQueue<Timer>();
  /** What is due now, in the order in which it was queued. */
  protected current: (Queued | Burst)[] = [];
  /** How many of them there are: the list is kept, so that a frame in which little happens allocates little. */
  protected dueNow = 0;
  protected isBusy = false;
  protected readonly limits: Limits;
  protected readonly watch: RunawayWatch;
  protected ticks = 0;

  constructor(
    readonly wiring: WiringProject,
    readonly game: Game,
  ) {
    this.limits = { ...LIMITS, ...game.limits };
    this.watch = new RunawayWatch(this.limits.atOnce, this.limits.deliveries < Infinity);
  }
  /** Does what is due. */
  abstract do(item: Queued): void;
  protected abstract takeBurst(burst: Burst): void;
  protected abstract takeRaise(raise: Raise): void;
  /** Copies that were spawned so far. */
  protected abstract get copies(): number;

  /**
   * Moves time on by so many seconds. What was raised before is done first, then what falls due; what is due at the very
   * end is done by the next call, after what is raised until then. From within `perform` it does nothing.
   */
  advance(seconds: number): void {
    this.advanceTo(this.now + Math.max(0, Math.round(seconds * 1e6)));
  }
  /** The same to a time in microseconds. */
  advanceTo(time: number): void {
    if (this.isBusy) return;
    this.settle();
    for (let next = this.next; next < time && !this.ended; next = this.next) {
      this.open(next);
      this.settle();
    }
    if (time > this.now && !this.ended) this.open(time);
  }
  /** When something is due next, in microseconds; Infinity for never. */
  get next(): number {
    return this.dueNow > 0 ? this.now : Math.min(this.queue.next, this.timers?.next ?? Infinity);
  }
  protected get ended(): boolean {
    return this.runaway && this.limits.deliveries < Infinity;
  }
  /** Begins the instant of that time: what is due then comes after what is raised from now on until {@link settle}. */
  open(time: number): void {
    if (time === this.now && this.dueNow > 0) return;
    this.now = time;
    this.runaway = false;
    this.watch.newInstant(this.records);
    if (this.queue.next !== time) return;
    this.current = this.queue.take(time);
    this.dueNow = this.current.length;
  }
  /** Does all that is due now. */
  settle(): void {
    if (this.timers !== null && this.timers.next <= this.now && !this.runaway) this.tick(this.timers);
    if (this.dueNow === 0) return;
    this.isBusy = true;
    let isDone = false;
    try {
      this.doAll(this.current);
      isDone = !this.runaway;
    } finally {
      this.isBusy = false;
      // What was left out is freed too: after a runaway, or because the game's own code threw.
      if (this.dueNow > MOST_KEPT || !isDone) this.current = [];
      this.dueNow = 0;
    }
  }
  protected doAll(current: (Queued | Burst)[]): void {
    const { limits } = this;
    for (let i = 0; i < this.dueNow && !this.runaway; i++) {
      const item = current[i];
      if (item.kind === 'burst') {
        this.takeBurst(item);
        continue;
      }
      current[i] = DONE;
      this.do(item);
      if (this.copies > limits.copies || this.records > limits.records) this.endTotal();
    }
  }
  protected tick(timers: TimeQueue<Timer>): void {
    const due = timers.take(this.now).sort((a, b) => inOrder(a.instance, b.instance) || a.event - b.event);
    this.ticks += due.length;
    if (this.ticks > this.limits.ticks) return this.endTotal();
    for (const timer of due) {
      const { instance, event } = timer;
      if (instance.gone || !instance.scene.loaded) continue;
      if (!instance.isAsleep) this.takeRaise(raiseOf(instance, event, NONE, 0));
      timer.tick++;
      this.time(timer);
    }
  }
  time(timer: Timer): void {
    if (!this.game.later)
      this.timers?.push(
        timer.from + timer.tick * timer.instance.table.decl.events[timer.event].every!,
        timer,
      );
  }
  /** No timer ticks any more: what is under way runs out. */
  endTimers(): void {
    this.timers = null;
  }
  protected endTotal(): void {
    if (this.runaway) return;
    this.runaway = true;
    this.write({ kind: 'runaway', why: 'total', cycle: [] }, 0);
  }
  /** Writes a record and returns its number. */
  write(body: RecordBody, cause: number, step?: number, instance?: Instance, action?: number): number {
    const n = this.count(cause, instance, action);
    const { record } = this.game;
    if (!record) return n;
    const written = body as WorldRecord;
    written.n = n;
    written.t = this.now;
    written.cause = cause;
    if (step !== undefined) written.step = step;
    record(written);
    return n;
  }
  /** Counts a record and returns its number; with what is performed, if that is what it says. */
  protected count(cause: number, instance: Instance | null = null, action = -1): number {
    this.watch.record(cause, instance, action);
    return ++this.records;
  }
  queueNow(...raises: Raise[]): void {
    for (const raise of raises) this.enqueue(raise, 0);
  }
  enqueue(item: Queued, delay: number): void {
    const { later } = this.game;
    if (later) later(item, this.now + delay);
    else if (delay === 0) this.current[this.dueNow++] = item;
    else this.queue.push(this.now + delay, item);
  }
}
