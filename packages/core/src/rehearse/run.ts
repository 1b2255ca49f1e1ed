import type { Expansion } from '../expand/expansion.js';
import { receivers as audienceOf } from '../expand/peers.js';
import type { Rehearsal, Step, Value } from '../project/types.js';
import { LIMITS } from '../limits.js';
import { NONE } from './args.js';
import { performEffects, type EffectHost } from './effects.js';
import { microseconds, type RehearsalModel } from './ground.js';
import type { Delivery, Item, Publication, Raise, SpecialRaise } from './items.js';
import { Lifecycle, type LifeHost } from './lifecycle.js';
import type { Live } from './live.js';
import { Population } from './population.js';
import { Reach } from './reach.js';
import { loss, refusal, whereTo } from './reasons.js';
import type { NotRun, RecordBody, TraceRecord, Values, Verdict } from './records.js';
import { Restarts } from './restarts.js';
import { RunawayWatch } from './runaway.js';
import { Serving } from './serving.js';
import { Steps, type StepHost } from './steps.js';
import { TimeQueue } from './time-queue.js';
import { Timers } from './timers.js';
import { Wiring } from './wiring.js';

/** Takes each record as it is written. */
export type Sink = (record: TraceRecord) => void;

/** What is due later than this after the last step is cut off, in microseconds. */
const AFTER_LAST_STEP = 60_000_000;
/** Things taken between two chances to stop. */
const SLICE = 4096;

/** One dry run of one rehearsal. `go` is a generator, so that whoever runs it can stop between slices. */
export class Run implements EffectHost, LifeHost, StepHost {
  readonly x: Expansion;
  readonly population: Population;
  private readonly wiring: Wiring;
  private readonly watch: RunawayWatch;
  private readonly queue = new TimeQueue<Item>();
  private readonly restarts = new Restarts();
  private readonly timers: Timers;
  readonly reach: Reach;
  private readonly life: Lifecycle;
  private readonly steps: Steps;
  private readonly serving: Serving;
  /** What is due now, in the order in which it was queued. */
  private current: Item[] = [];
  private readonly lastStep: number;
  now = 0;
  private seq = 0;
  private records = 0;
  private deliveries = 0;
  paused = false;
  private readonly tally = { held: 0, failed: 0, steps: 0, cut: 0, /** Lost or refused. */ troubles: 0 };
  private runaway = false;
  private ticks = 0;
  /** Instances that spawning has made. */
  private spawned = 0;

  constructor(
    readonly ground: RehearsalModel,
    private readonly rehearsal: Rehearsal,
    private readonly scenes: readonly number[],
    /** For each expanded binding whether it has served a raise, or was refused by its conditions alone so far. */
    served: Uint8Array,
    private readonly sink: Sink | null,
  ) {
    this.x = ground.x;
    this.population = new Population(ground);
    this.watch = new RunawayWatch(this.x.nodeBase[this.x.count]);
    this.wiring = new Wiring(ground, this.population, scenes);
    this.lastStep = rehearsal.steps.reduce((last, s) => Math.max(last, microseconds(s.at)), 0);
    const part = new Uint8Array(this.x.count);
    for (const scene of scenes) part.fill(1, scene, this.x.end[scene]);
    const takesPart = (instance: number): boolean => part[instance] === 1;
    const { population } = this;
    this.timers = new Timers(ground, population, this.lastStep);
    this.reach = new Reach(ground, population, takesPart);
    this.serving = new Serving(this, population, this.reach, this.wiring, served);
    this.life = new Lifecycle(ground, population, this.wiring, this.reach, this);
    this.steps = new Steps(ground, population, takesPart, this);
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
    if (!this.runaway) this.writeCut();
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
      deliveries: this.deliveries,
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
  /** Counts a record that nobody reads, and returns its number. */
  private count(cause: number): number {
    this.watch.record(cause);
    return ++this.records;
  }

  addTimers(asset: number, live: () => Live, from: number): void {
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
    live: Live,
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
  spawn(by: Live, asset: number, overrides: Readonly<Record<string, Value>>, cause: number): void {
    const standIn = this.x.standInOf(by.base, asset);
    if (standIn >= 0) this.spawned += this.x.end[standIn] - standIn;
    this.life.spawn(by, asset, overrides, cause);
  }
  destroy(live: Live, cause: number): void {
    this.life.destroy(live, cause);
  }
  setAsleep(live: Live, asleep: boolean, cause: number): void {
    this.life.setAsleep(live, asleep, cause);
  }
  queueRaise(
    live: Live,
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
    if (item.kind === 'delivery') this.takeDelivery(item);
    else if (item.kind === 'raise') {
      const { special } = item;
      if (special?.dropped) return;
      if (special?.restart !== undefined) this.restarts.done(item.live, special.restart);
      this.takeRaise(item);
    } else this.takePublication(item);
  }

  takePublication(publication: Publication): void {
    this.serving.publish(publication);
  }
  takeRaise(raise: Raise): void {
    const { live, event, cause, special } = raise;
    const decl = this.x.assetOf(live.base).events[event];
    const peers = this.ground.peers > 0 ? this.population.peersOf(live) : null;
    const by = special?.by ?? peers?.authority ?? -1;
    const reason = refusal(this, raise, by);
    if (reason) {
      const at = this.population.address(live);
      this.write({ kind: 'refused', at, event: decl.name, reason }, cause, special?.step);
      return;
    }
    live.counts[event]++;
    const n = this.sink ? this.writeRaise(raise, peers ? by : -1) : this.count(cause);
    const audience = peers ? audienceOf(decl, this.ground.peers, by, peers) : null;
    if (special?.stood) {
      for (const { held, hold } of special.stood) this.serving.raise(raise, held, hold, n, audience);
      return;
    }
    for (const held of this.wiring.on(live, event)) {
      this.serving.raise(raise, held, held.towards(live), n, audience);
    }
  }
  private writeRaise({ live, event, payload, cause, special }: Raise, by: number): number {
    const at = this.population.address(live);
    const body: RecordBody = {
      kind: 'raise',
      at,
      event: this.x.assetOf(live.base).events[event].name,
      payload,
    };
    if (by >= 0) body.by = this.ground.holding.names[by];
    return this.write(body, cause, special?.step);
  }
  // --- Deliveries

  private takeDelivery(delivery: Delivery): void {
    const { live, action, held, args, cause } = delivery;
    const { x } = this;
    const node =
      live && action >= 0 ? x.nodeBase[live.base] + x.assetOf(live.base).events.length + action : -1;
    const why = this.watch.tooMany(node, this.deliveries);
    if (why) {
      this.runaway = true;
      this.write({ kind: 'runaway', why, cycle: this.cycle(node, cause) }, cause);
      return;
    }
    this.deliveries++;
    const reason = loss(this, delivery);
    if (reason) {
      const { to } = held.plan.binding;
      const name = 'action' in to ? to.action : '';
      this.write(
        { kind: 'lost', ...this.population.through(held), at: whereTo(this, delivery), action: name, reason },
        cause,
      );
      return;
    }
    const asset = x.assetOf(live!.base);
    const times = ++live!.counts[asset.events.length + action];
    const n = this.sink ? this.writePerformed(delivery, times) : this.count(cause);
    this.watch.performed(node, live!, n);
    const { effects } = asset.actions[action];
    if (effects && effects.length > 0) performEffects(this, live!, asset.actions[action], args, times, n);
  }
  private writePerformed({ live, held, action, args, cause }: Delivery, times: number): number {
    const { population } = this;
    const name = this.x.assetOf(live!.base).actions[action].name;
    const { owner, plan } = held;
    return this.write(
      {
        kind: 'performed',
        owner: population.address(owner),
        binding: plan.binding.id,
        at: population.address(live!),
        action: name,
        args,
        times,
      },
      cause,
    );
  }
  private cycle(node: number, cause: number): { action: string; at: string }[] {
    return this.watch.cycle(node, cause).map(({ live, node: n }) => {
      const { events, actions } = this.x.assetOf(live.base);
      return {
        action: actions[n - this.x.nodeBase[live.base] - events.length].name,
        at: this.population.address(live),
      };
    });
  }

  private writeCut(): void {
    for (const { due, item } of this.queue.rest()) {
      if (item.kind === 'raise' && item.special?.dropped) continue;
      this.tally.cut++;
      if (item.kind === 'raise') {
        const event = this.x.assetOf(item.live.base).events[item.event].name;
        this.write({ kind: 'cut', due, at: this.population.address(item.live), event }, item.cause);
      } else if (item.kind === 'publication') {
        const through = item.held ? this.population.through(item.held) : {};
        this.write({ kind: 'cut', due, channel: item.channel, ...through }, item.cause);
      } else {
        const { to } = item.held.plan.binding;
        const action = 'action' in to ? to.action : '';
        const at = whereTo(this, item);
        this.write({ kind: 'cut', due, ...this.population.through(item.held), at, action }, item.cause);
      }
    }
  }
}
/** Makes a rehearsal ready to run; a verdict at once where its load set is not there. */
export function prepare(
  ground: RehearsalModel,
  rehearsal: Rehearsal,
  served: Uint8Array,
  sink: Sink | null,
): { run: Run; scenes: string[] } | NotRun {
  const scenes = ground.scenesOf(rehearsal.loadSet);
  if (!scenes) return { kind: 'verdict', name: rehearsal.name, error: 'load-set', pass: false };
  return {
    run: new Run(ground, rehearsal, scenes, served, sink),
    scenes: scenes.map((s) => ground.x.assetOf(s).decl.id),
  };
}
