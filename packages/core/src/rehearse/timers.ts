import { microseconds, type RehearsalModel } from './rehearsal-model.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import { TimeQueue } from './time-queue.js';

export interface Timer {
  live: InstanceState;
  event: number;
  /** When the counting of its ticks began, and the number of the next one. */
  from: number;
  tick: number;
}

/** The timer events of all that takes part, each at its next tick up to the last step. */
export class Timers {
  private readonly queue = new TimeQueue<Timer>();

  constructor(
    private readonly model: RehearsalModel,
    private readonly population: Population,
    /** Microseconds. */
    private readonly lastStep: number,
  ) {}

  /** When the next one ticks; Infinity for never. */
  get next(): number {
    return this.queue.next;
  }
  /** Begins to count the timers of an instance of an asset. */
  add(asset: number, live: () => InstanceState, from: number): void {
    for (const event of this.model.timers[asset]) this.push({ live: live(), event, from, tick: 1 });
  }
  /** Takes those that tick now, in expansion order, then in order of declaration; none if nothing does. */
  take(now: number): Timer[] {
    if (this.queue.next !== now) return [];
    const { population } = this;
    return this.queue.take(now).sort((a, b) => population.compare(a.live, b.live) || a.event - b.event);
  }
  /** Lets one that has ticked go on. */
  goOn(timer: Timer): void {
    timer.tick++;
    this.push(timer);
  }
  private push(timer: Timer): void {
    const { cause } = this.model.x.assetOf(timer.live.base).events[timer.event];
    if (cause.type !== 'timer') return;
    const due = timer.from + timer.tick * microseconds(cause.every);
    if (due <= this.lastStep) this.queue.push(due, timer);
  }
}
