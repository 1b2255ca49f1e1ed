import type { Expansion } from '../expand/expansion.js';
import type { Rehearsal, Step, Value } from '../project/types.js';
import { LIMITS } from '../limits.js';
import { NONE } from './args.js';
import { writeCut } from './cut-off.js';
import { Deliveries } from './deliveries.js';
import type { EffectHost } from './effects.js';
import { microseconds, type RehearsalModel } from './rehearsal-model.js';
import type { Item, Publication, Raise, SpecialRaise } from './items.js';
import { Lifecycle, type LifeHost } from './lifecycle.js';
import type { InstanceState } from './instance-state.js';
import { Population } from './population.js';
import { TargetResolver } from './target-resolver.js';
import { Raises, type WrittenRun } from './raises.js';
import type { NotRun, RecordBody, TraceRecord, Values, Verdict } from './records.js';
import { Restarts } from './restarts.js';
import { RunawayWatch } from './runaway.js';
import { Serving } from './serving.js';
import { Steps, type StepHost } from './steps.js';
import { TimeQueue } from './time-queue.js';
import { Timers } from './timers.js';
import { Wiring } from './wiring.js';
import { firstNotBefore } from '../util/lower-bound.js';

/** Takes each record as it is written. */
export type Sink = (record: TraceRecord) => void;

/** What is due later than this after the last step is cut off, in microseconds. */
const AFTER_LAST_STEP = 60_000_000;
/** Things taken between two chances to stop. */
const SLICE = 4096;

/** One dry run of one rehearsal. `go` is a generator, so that whoever runs it can stop between slices. */
export class Run implements EffectHost, LifeHost, StepHost, WrittenRun {
  readonly x: Expansion;
  readonly population: Population;
  private readonly wiring: Wiring;
  private readonly watch: RunawayWatch;
  private readonly queue = new TimeQueue<Item>();
  private readonly restarts = new Restarts();
  private readonly timers: Timers;
  readonly targets: TargetResolver;
  private readonly life: Lifecycle;
  private readonly steps: Steps;
  private readonly serving: Serving;
  private readonly raises: Raises;
  private readonly deliveries: Deliveries;
  /** What is due now, in the order in which it was queued. */
  private current: Item[] = [];
  private readonly lastStep: number;
  now = 0;
  private seq = 0;
  private records = 0;
  paused = false;
  private readonly tally = { held: 0, failed: 0, steps: 0, cut: 0, /** Lost or refused. */ troubles: 0 };
  private runaway = false;
  private ticks = 0;
  /** Instances that spawning has made. */
  private spawned = 0;

  constructor(
    readonly model: RehearsalModel,
    private readonly rehearsal: Rehearsal,
    private readonly scenes: readonly number[],
    /** For each expanded binding whether it has served a raise, or was refused by its conditions alone so far. */
    served: Uint8Array,
    private readonly sink: Sink | null,
  ) {
    this.x = model.x;
    this.population = new Population(model);
    const { nodeBase, count } = this.x;
    this.watch = new RunawayWatch(nodeBase[count], (node) =>
      this.population.at(firstNotBefore(count, (i) => nodeBase[i] <= node) - 1),
    );
    this.wiring = new Wiring(model, this.population, scenes);
    this.lastStep = rehearsal.steps.reduce((last, s) => Math.max(last, microseconds(s.at)), 0);
    const part = new Uint8Array(this.x.count);
    for (const scene of scenes) part.fill(1, scene, this.x.end[scene]);
    const takesPart = (instance: number): boolean => part[instance] === 1;
    const { population } = this;
    this.timers = new Timers(model, population, this.lastStep);
    this.targets = new TargetResolver(model, population, takesPart);
    this.serving = new Serving(this, population, this.targets, this.wiring, served);
    this.raises = new Raises(this, this.wiring, this.serving);
    this.deliveries = new Deliveries(this, this.watch);
    this.life = new Lifecycle(model, population, this.wiring, this.targets, this);
    this.steps = new Steps(model, population, takesPart, this);
  }

  /** Runs to the end. Yields now and then; nothing is lost by never coming back. */
  *go(): Generator<undefined, Verdict> {
    const steps = this.rehearsal.steps.map((step, i) => ({ step, i, t: microseconds(step.at) }));
    const acts = steps.filter(({ step }) => !('expect' in step)).sort((a, b) => a.t - b.t);
    const expects = steps.filter(({ step }) => 'expect' in step).sort((a, b) => a.t - b.t);
    let [act, expect, taken, turns] = [0, 0, 0, 0];
    const starts = this.life.startAll(this.scenes);
    for (const start of starts) this.takeRaise(start);
    while (!this.runaway) {
      const due = this.queue.next > this.lastStep + AFTER_LAST_STEP ? Infinity : this.queue.next;
      const next = Math.min(
        due,
        this.timers.next,
        acts[act]?.t ?? Infinity,
        expects[expect]?.t ?? Infinity,
        this.current.length > 0 ? this.now : Infinity,
      );
      if (next === Infinity) break;
      if (next !== this.now) this.watch.newInstant();
      this.now = next;
      // What was queued before this instant comes ahead of what its steps and timers queue.
      const queued = this.current;
      this.current = queued.length > 0 ? queued : this.queue.take(next);
      for (; acts[act]?.t === next; act++) this.takeStep(acts[act].step, acts[act].i);
      if (this.tick() && ++turns % SLICE === 0) yield;
      for (let i = 0; i < this.current.length && !this.runaway; i++) {
        this.take(this.current[i]);
        // Each delivery may spawn and record more than the bound on deliveries says.
        if (this.spawned > LIMITS.rehearsal.copies || this.records > LIMITS.rehearsal.records)
          this.endTotal();
        if (++taken % SLICE === 0) yield;
      }
      this.current = [];
      for (; !this.runaway && expects[expect]?.t === next; expect++) {
        this.takeExpectation(expects[expect].step, expects[expect].i);
      }
    }
    if (!this.runaway) this.tally.cut = writeCut(this, this.queue);
    return this.verdict(expects.length - expect);
  }

  private takeStep(step: Step, i: number): void {
    if (!this.steps.take(step, i)) this.tally.steps++;
  }
  private takeExpectation(step: Step, i: number): void {
    if (!('expect' in step)) return;
    const { ok, broken } = this.steps.expect(step, i);
    if (broken) this.tally.steps++;
    if (ok) this.tally.held++;
    else this.tally.failed++;
  }
  private verdict(unjudged: number): Verdict {
    const { held, failed, steps, cut } = this.tally;
    return {
      kind: 'verdict',
      name: this.rehearsal.name,
      pass:
        failed === 0 && steps === 0 && !this.runaway && !(this.rehearsal.strict && this.tally.troubles > 0),
      records: this.records,
      deliveries: this.deliveries.count,
      end: this.now,
      held,
      failed,
      unjudged,
      steps,
      cut,
      runaway: this.runaway,
    };
  }

  /** Writes a record and returns its number. The body becomes the record: copying millions of them is slow. */
  write(body: RecordBody, cause: number, step = -1): number {
    if (body.kind === 'lost' || body.kind === 'refused') this.tally.troubles++;
    const n = this.count(cause);
    if (!this.sink) return n;
    const record = body as TraceRecord;
    record.n = n;
    record.t = this.now;
    record.cause = cause;
    if (step >= 0) record.step = step;
    this.sink(record);
    return n;
  }
  get isWritten(): boolean {
    return this.sink !== null;
  }
  /** Counts a record that nobody reads, and returns its number. */
  count(cause: number): number {
    this.watch.record(cause);
    return ++this.records;
  }

  addTimers(asset: number, live: () => InstanceState, from: number): void {
    this.timers.add(asset, live, from);
  }
  /** Lets the timers tick that are due; returns whether any was. */
  private tick(): boolean {
    const due = this.timers.take(this.now);
    this.ticks += due.length;
    // Deliveries are bounded, but a timer that nothing is bound to could tick for ever.
    if (this.ticks > LIMITS.rehearsal.ticks) {
      this.endTotal();
      return true;
    }
    for (const timer of due) {
      if (timer.live.gone) continue;
      if (!this.population.isAsleep(timer.live)) {
        this.takeRaise(this.newRaise(timer.live, timer.event, NONE, 0));
      }
      this.timers.goOn(timer);
    }
    return due.length > 0;
  }

  // --- Raises

  newRaise(
    live: InstanceState,
    event: number,
    payload: Values,
    cause: number,
    special: SpecialRaise | null = null,
  ): Raise {
    return { kind: 'raise', seq: ++this.seq, cause, live, event, payload, special };
  }
  queueNow(raise: Raise): void {
    this.current.push(raise);
  }
  nextSeq(): number {
    return ++this.seq;
  }
  setPaused(paused: boolean): void {
    this.paused = paused;
  }
  /** It is more than can be followed. */
  private endTotal(): void {
    if (this.runaway) return;
    this.runaway = true;
    this.write({ kind: 'runaway', why: 'total', cycle: [] }, 0);
  }
  spawn(by: InstanceState, asset: number, overrides: Readonly<Record<string, Value>>, cause: number): void {
    const standIn = this.x.standInOf(by.base, asset);
    if (standIn >= 0) this.spawned += this.x.end[standIn] - standIn;
    this.life.spawn(by, asset, overrides, cause);
  }
  destroy(live: InstanceState, cause: number): void {
    this.life.destroy(live, cause);
  }
  setAsleep(live: InstanceState, asleep: boolean, cause: number): void {
    this.life.setAsleep(live, asleep, cause);
  }
  queueRaise(
    live: InstanceState,
    event: number,
    payload: Values,
    cause: number,
    delay: number,
    restart?: string,
  ): void {
    if (restart === undefined) return this.enqueue(this.newRaise(live, event, payload, cause), delay);
    const raise = this.newRaise(live, event, payload, cause, { restart });
    const dropped = this.restarts.replace(raise, restart, this.now + delay);
    if (dropped !== null) this.queue.drop(dropped);
    this.enqueue(raise, delay);
  }
  enqueue(item: Item, delay: number): void {
    if (delay === 0) this.current.push(item);
    else this.queue.push(this.now + delay, item);
  }
  private take(item: Item): void {
    if (item.kind === 'delivery') {
      if (!this.deliveries.take(item)) this.runaway = true;
    } else if (item.kind === 'raise') {
      const { special } = item;
      if (special?.dropped) return;
      if (special?.restart !== undefined) this.restarts.done(item.live, special.restart);
      this.takeRaise(item);
    } else this.takePublication(item);
  }

  takeRaise(raise: Raise): void {
    this.raises.take(raise);
  }
  takePublication(publication: Publication): void {
    this.serving.publish(publication);
  }
}
/** Makes a rehearsal ready to run; a verdict at once where its load set is not there. */
export function prepare(
  model: RehearsalModel,
  rehearsal: Rehearsal,
  served: Uint8Array,
  sink: Sink | null,
): { run: Run; scenes: string[] } | NotRun {
  const scenes = model.scenesOf(rehearsal.loadSet);
  if (!scenes) return { kind: 'verdict', name: rehearsal.name, error: 'load-set', pass: false };
  return {
    run: new Run(model, rehearsal, scenes, served, sink),
    scenes: scenes.map((s) => model.x.assetOf(s).decl.id),
  };
}
