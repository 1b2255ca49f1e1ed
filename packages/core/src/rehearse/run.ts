import type { Expansion } from '../expand/expansion.js';
import { maySend, receivers as audienceOf } from '../expand/peers.js';
import type { Rehearsal, Step, Value } from '../project/types.js';
import { isLiteral, sameValue } from '../project/value.js';
import { baseOf, nameLive, type Named } from './addresses.js';
import { evaluate, NONE } from './args.js';
import { performEffects } from './effects.js';
import { judge } from './expectations.js';
import { joined, microseconds, type RehearsalGround } from './ground.js';
import type { Held, Hold } from './held.js';
import type { Audience, Delivery, Item, Publication, Raise } from './items.js';
import type { Live } from './live.js';
import { Population } from './population.js';
import type { NotRun, RecordBody, RefusalReason, TraceRecord, Values, Verdict } from './records.js';
import { RunawayWatch } from './runaway.js';
import { selectLive } from './select.js';
import { TimeQueue } from './time-queue.js';
import { Wiring } from './wiring.js';

/** Takes each record as it is written. */
export type Sink = (record: TraceRecord) => void;

/** What is due later than this after the last step is cut off, in microseconds. */
const AFTER_LAST_STEP = 60_000_000;
/** Things taken between two chances to stop. */
const SLICE = 4096;
/** Ticks of timers in one run: deliveries are bounded, but a timer that nothing is bound to could tick for ever. */
const MAX_TICKS = 2_000_000;

interface Timer {
  live: Live;
  event: number;
  /** When the counting of its ticks began, and the number of the next one. */
  from: number;
  tick: number;
}

/** One dry run of one rehearsal. `go` is a generator, so that whoever runs it can stop between slices. */
export class Run {
  readonly x: Expansion;
  readonly population: Population;
  private readonly wiring: Wiring;
  private readonly watch: RunawayWatch;
  private readonly queue = new TimeQueue<Item>();
  private readonly timers = new TimeQueue<Timer>();
  /** What is due now, in the order in which it was queued. */
  private current: Item[] = [];
  private readonly lastStep: number;
  private now = 0;
  private seq = 0;
  /** Counts what takes hold and what is started, so that it can be told what came before what. */
  private clock = 0;
  private records = 0;
  private deliveries = 0;
  private paused = false;
  private readonly tally = { held: 0, failed: 0, steps: 0, cut: 0 };
  private runaway = false;
  private ticks = 0;
  private readonly takesPart: (instance: number) => boolean;

  constructor(
    readonly ground: RehearsalGround,
    private readonly rehearsal: Rehearsal,
    private readonly scenes: readonly number[],
    /** For each expanded binding 1 once it has served a raise. */
    private readonly served: Uint8Array,
    private readonly sink: Sink | null,
  ) {
    this.x = ground.x;
    this.population = new Population(ground);
    this.watch = new RunawayWatch(this.x.nodeBase[this.x.count]);
    this.wiring = new Wiring(ground, this.population, scenes);
    this.lastStep = rehearsal.steps.reduce((last, s) => Math.max(last, microseconds(s.at)), 0);
    const part = new Uint8Array(this.x.count);
    for (const scene of scenes) part.fill(1, scene, this.x.end[scene]);
    this.takesPart = (instance) => part[instance] === 1;
  }

  /** Runs to the end. Yields now and then; nothing is lost by never coming back. */
  *go(): Generator<undefined, Verdict> {
    const steps = this.rehearsal.steps.map((step, i) => ({ step, i, t: microseconds(step.at) }));
    const acts = steps.filter(({ step }) => !('expect' in step)).sort((a, b) => a.t - b.t);
    const expects = steps.filter(({ step }) => 'expect' in step).sort((a, b) => a.t - b.t);
    let [act, expect, taken, turns] = [0, 0, 0, 0];
    const starts = this.startAll();
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

  private verdict(unjudged: number): Verdict {
    const { held, failed, steps, cut } = this.tally;
    return {
      kind: 'verdict',
      name: this.rehearsal.name,
      pass: failed === 0 && steps === 0 && !this.runaway,
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

  // --- Starting, sleeping, coming and going

  private startAll(): Raise[] {
    const { x, ground } = this;
    const raises: Raise[] = [];
    for (const scene of this.scenes) {
      for (let i = scene; i < x.end[scene]; i++) {
        if (x.isSpawned(i)) continue;
        const asset = x.asset[i];
        this.addTimers(asset, () => this.population.at(i), 0);
        if (ground.starts[asset] && ground.beginsAwake(i))
          raises.push(...this.start(this.population.at(i), 0));
      }
    }
    return raises;
  }
  /** Lets its code bindings take hold and makes its start raises. */
  private start(live: Live, cause: number): Raise[] {
    live.started = ++this.clock;
    return this.x.assetOf(live.base).events.flatMap((event, e) => {
      if (event.cause.type !== 'start') return [];
      return [{ ...this.newRaise(live, e, NONE, cause), startQueued: ++this.clock }];
    });
  }
  /** Starts whatever of an instance and its contents is awake for the first time. */
  private startAwake(live: Live, cause: number): void {
    const { ground, population } = this;
    for (const base of population.contained(live)) {
      if (!ground.starts[this.x.asset[base]]) continue;
      const inside = population.beside(live, base);
      if (inside.started >= 0 || inside.gone || population.isAsleep(inside)) continue;
      for (const raise of this.start(inside, cause)) this.current.push(raise);
    }
  }
  setAsleep(live: Live, asleep: boolean, cause: number): void {
    if (live.asleep === asleep) return;
    live.asleep = asleep;
    this.write({ kind: asleep ? 'sleep' : 'wake', at: this.population.address(live) }, cause);
    if (!asleep) this.startAwake(live, cause);
  }
  spawn(by: Live, asset: number, overrides: Readonly<Record<string, Value>>, cause: number): void {
    const { population, x, ground } = this;
    const standIn = x.standInOf(by.base, asset);
    const copy = population.spawn(standIn, by, overrides, ++this.clock);
    const root = population.rootOf(copy);
    this.write({ kind: 'born', at: population.address(root), asset: x.index.assets[asset].decl.id }, cause);
    for (let i = standIn; i < x.end[standIn]; i++) {
      if (ground.timers[x.asset[i]].length > 0) {
        this.addTimers(x.asset[i], () => population.inside(copy, i), this.now);
      }
    }
    this.startAwake(root, cause);
  }
  destroy(live: Live, cause: number): void {
    if (live.gone) return;
    const { population, x } = this;
    this.write({ kind: 'gone', at: population.address(live) }, cause);
    const going = [...population.contained(live)]
      .map((base) => population.beside(live, base))
      .filter((inside) => !inside.gone);
    for (const inside of going) {
      x.assetOf(inside.base).events.forEach((event, e) => {
        if (event.cause.type !== 'destroyed') return;
        const stood = this.wiring.on(inside, e).map((held) => ({ held, hold: held.towards(inside) }));
        this.current.push({ ...this.newRaise(inside, e, NONE, cause), stood });
      });
    }
    for (const inside of going) for (const held of this.wiring.ownedBy(inside)) this.letGo(held);
    for (const inside of going) inside.gone = true;
    if (live.copy && live.base === live.copy.standIn) population.forget(live.copy);
  }
  /** A code binding that releases all takes with it every other one that holds on the same event or channel. */
  private letGo(held: Held): void {
    const { binding, release } = held.plan;
    if (release !== 'all') return;
    for (const sender of this.sendersOf(held)) {
      if (held.towards(sender) !== 'holds') continue;
      const beside =
        sender === null && 'channel' in binding.from
          ? this.wiring.hearing(binding.from.channel)
          : this.wiring.on(sender!, this.eventOf(held, sender!));
      for (const other of beside) {
        if (other !== held && other.towards(sender) === 'holds') other.release(sender);
      }
    }
  }
  private eventOf({ plan: { binding } }: Held, sender: Live): number {
    return this.x.assetOf(sender.base).eventAt.get('event' in binding.from ? binding.from.event : '') ?? -1;
  }
  /** What a binding listens to: null for its channel. */
  private sendersOf({ owner, plan }: Held): (Live | null)[] {
    const { from } = plan.binding;
    if ('channel' in from) return [null];
    const { x, population } = this;
    const base = this.ground.pathsOf(x.asset[owner.base]).get(from.at).resolve(owner.base);
    if (base < 0 || !x.assetOf(base).eventAt.has(from.event) || !this.takesPart(base)) return [];
    return this.allAt(base, plan.sameCopy ? owner : null, population);
  }
  /** The instance of that number, or in every copy that there is of it. */
  private allAt(base: number, beside: Live | null, population: Population): Live[] {
    if (!this.x.isSpawned(base)) return [population.at(base)];
    if (beside) return [population.beside(beside, base)];
    const standIn = this.ground.standInOver(base);
    return population.copiesOf(standIn).map((copy) => population.inside(copy, base));
  }

  // --- Timers

  private addTimers(asset: number, live: () => Live, from: number): void {
    for (const event of this.ground.timers[asset]) this.addTimer({ live: live(), event, from, tick: 1 });
  }
  private addTimer(timer: Timer): void {
    const { cause } = this.x.assetOf(timer.live.base).events[timer.event];
    if (cause.type !== 'timer') return;
    const due = timer.from + timer.tick * microseconds(cause.every);
    if (due <= this.lastStep) this.timers.push(due, timer);
  }
  private tick(): boolean {
    if (this.timers.next !== this.now) return false;
    const { population } = this;
    const due = this.timers.take(this.now);
    due.sort((a, b) => population.compare(a.live, b.live) || a.event - b.event);
    this.ticks += due.length;
    if (this.ticks > MAX_TICKS) {
      this.runaway = true;
      this.write({ kind: 'runaway', why: 'total', cycle: [] }, 0);
      return true;
    }
    for (const timer of due) {
      if (timer.live.gone) continue;
      if (!population.isAsleep(timer.live)) this.takeRaise(this.newRaise(timer.live, timer.event, NONE, 0));
      timer.tick++;
      this.addTimer(timer);
    }
    return true;
  }

  // --- Raises

  private newRaise(live: Live, event: number, payload: Values, cause: number): Raise {
    return {
      kind: 'raise',
      seq: ++this.seq,
      cause,
      step: -1,
      live,
      event,
      payload,
      by: null,
      activator: null,
      startQueued: -1,
      stood: null,
    };
  }
  queueRaise(live: Live, event: number, payload: Values, cause: number, delay: number): void {
    this.enqueue(this.newRaise(live, event, payload, cause), delay);
  }
  private enqueue(item: Item, delay: number): void {
    if (delay === 0) this.current.push(item);
    else this.queue.push(this.now + delay, item);
  }
  private take(item: Item): void {
    if (item.kind === 'delivery') this.takeDelivery(item);
    else if (item.kind === 'raise') this.takeRaise(item);
    else this.takePublication(item);
  }

  private takeRaise(raise: Raise): void {
    const { live, event, cause, step } = raise;
    const decl = this.x.assetOf(live.base).events[event];
    const peers = this.ground.peers > 0 ? this.population.peersOf(live) : null;
    const by = raise.by ?? peers?.authority ?? -1;
    const reason = this.refusal(raise, by);
    if (reason) {
      const at = this.population.address(live);
      this.write({ kind: 'refused', at, event: decl.name, reason }, cause, step);
      return;
    }
    live.counts[event]++;
    const n = this.sink ? this.writeRaise(raise, peers ? by : -1) : this.count(cause);
    const audience = peers ? audienceOf(decl, this.ground.peers, by, peers) : null;
    if (raise.stood) {
      for (const { held, hold } of raise.stood) this.serve(raise, held, hold, n, audience);
      return;
    }
    for (const held of this.wiring.on(live, event)) {
      this.serve(raise, held, held.towards(live), n, audience);
    }
  }
  private writeRaise({ live, event, payload, cause, step }: Raise, by: number): number {
    const at = this.population.address(live);
    const body: RecordBody = {
      kind: 'raise',
      at,
      event: this.x.assetOf(live.base).events[event].name,
      payload,
    };
    if (by >= 0) body.by = this.ground.holding.names[by];
    return this.write(body, cause, step);
  }
  private serve(raise: Raise, held: Held, hold: Hold, n: number, audience: Audience): void {
    if (hold === 'not' || !this.lets(held, hold, raise.startQueued, n)) return;
    this.deliver(held, raise.live, null, raise.payload, n, audience);
  }
  private refusal(raise: Raise, by: number): RefusalReason | null {
    const { live, event } = raise;
    const decl = this.x.assetOf(live.base).events[event];
    if (live.gone && !raise.stood) return 'gone';
    if (this.population.isAsleep(live)) return 'asleep';
    if (decl.limit !== undefined && live.counts[event] >= decl.limit) return 'limit';
    if ('activators' in decl.cause && decl.cause.activators && !this.admits(decl.cause.activators, raise)) {
      return 'filtered';
    }
    if (this.ground.peers > 0 && !maySend(decl, by, this.population.peersOf(live))) return 'barred';
    return this.paused && decl.raisedInPause !== true ? 'paused' : null;
  }
  private admits(list: readonly string[], { activator }: Raise): boolean {
    if (activator === null) return false;
    const tags = this.x.index.assets[this.x.index.assetAt.get(activator) ?? -1]?.decl.tags ?? [];
    return list.some(
      (entry) => entry === activator || (entry.startsWith('#') && tags.includes(entry.slice(1))),
    );
  }

  /** Whether a binding lets a raise or publication through; if so its limit takes one. */
  private lets(held: Held, hold: Hold, startQueued: number, cause: number): boolean {
    const { limit } = held.plan.binding;
    if (hold === 'released') this.stop(held, 'released', cause);
    else if (startQueued >= 0 && held.since > startQueued) this.stop(held, 'not-bound', cause);
    else if (limit !== undefined && held.served >= limit) this.stop(held, 'limit', cause);
    else {
      held.served++;
      this.served[held.plan.number] = 1;
      return true;
    }
    return false;
  }
  private stop(held: Held, reason: 'released' | 'not-bound' | 'limit' | 'empty', cause: number): void {
    this.write({ kind: 'stopped', ...this.through(held), reason }, cause);
  }
  private through(held: Held): { owner: string; binding: string } {
    return { owner: this.population.address(held.owner), binding: held.plan.binding.id };
  }

  /**
   * Queues what a binding brings: of an event (`sender`), or of a channel that it hears, whose receivers were found
   * before (`hearers`; null where the target does not resolve).
   */
  private deliver(
    held: Held,
    sender: Live,
    hearers: { lives: readonly Live[] | null } | null,
    carried: Values,
    cause: number,
    audience: Audience,
  ): void {
    const { binding, target, delay } = held.plan;
    const args = evaluate(binding.args, carried, sender, this.population);
    if (target.kind === 'channel') {
      const read = 'channel' in binding.to ? this.keyOf(binding.to.key, sender) : NO_KEY;
      const seq = ++this.seq;
      const { channel } = target;
      const known = target.known && read !== MISSING;
      const key = read === MISSING ? undefined : read.key;
      this.enqueue(
        { kind: 'publication', seq, cause, step: -1, channel, known, key, payload: args, held, audience },
        delay,
      );
      return;
    }
    if (!hearers && target.kind === 'path' && target.action >= 0 && this.isPlacedHere(target.base)) {
      const live = this.population.at(target.base);
      const seq = ++this.seq;
      this.enqueue(
        { kind: 'delivery', seq, cause, held, live, action: target.action, args, audience },
        delay,
      );
      return;
    }
    const lives = hearers ? hearers.lives : this.receivers(held, sender);
    if (lives === null) {
      const live = target.kind === 'path' && target.base >= 0 && target.action < 0 ? this.soleAt(held) : null;
      this.enqueue(
        { kind: 'delivery', seq: ++this.seq, cause, held, live, action: -1, args, audience },
        delay,
      );
      return;
    }
    if (lives.length === 0) this.stop(held, 'empty', cause);
    for (const live of lives) {
      const seq = ++this.seq;
      this.enqueue(
        { kind: 'delivery', seq, cause, held, live, action: target.action, args, audience },
        delay,
      );
    }
  }
  /** Nearly every target: it needs no list. */
  private isPlacedHere(base: number): boolean {
    return base >= 0 && !this.x.isSpawned(base) && this.takesPart(base);
  }
  /** The placed instance, or the one in the owner's copy, at which an action is looked for in vain. */
  private soleAt({ plan: { target }, owner }: Held): Live | null {
    if (target.kind !== 'path' || target.base < 0) return null;
    if (!this.x.isSpawned(target.base)) return this.population.at(target.base);
    return target.sameCopy ? this.population.beside(owner, target.base) : null;
  }

  /** Who a binding reaches now; null where its target does not resolve. `reader` is whose keys it reads. */
  private receivers(held: Held, reader: Live): Live[] | null {
    const { target, binding } = held.plan;
    const { population } = this;
    if (target.kind === 'path') {
      if (target.base < 0 || target.action < 0 || !this.takesPart(target.base)) return null;
      const all = this.allAt(target.base, target.sameCopy ? held.owner : null, population);
      return this.x.isSpawned(target.base) && !target.sameCopy ? all.filter((live) => !live.gone) : all;
    }
    if (target.kind === 'channel' || !target.known || !('every' in binding.to)) return null;
    const { match, within = 'asset', pick = 'all', spawned = false } = binding.to;
    let wanted: { property: string; value: number } | null = null;
    if (match !== undefined && match !== 'all') {
      const key = this.keyOf(match.equals, reader);
      if (key === MISSING || key.key === undefined) return null;
      wanted = { property: match.property, value: this.ground.values.number(key.key) };
    }
    const selection = { asset: target.asset, within, spawned, pick, match: wanted };
    return selectLive(this.ground, population, this.takesPart, held.owner, selection);
  }
  private keyOf(
    key: Value | { property: string } | undefined,
    reader: Live,
  ): { key: Value | undefined } | typeof MISSING {
    if (key === undefined) return NO_KEY;
    if (isLiteral(key)) return { key };
    const value = this.population.initial(reader, key.property);
    return value === undefined ? MISSING : { key: value };
  }

  // --- Publications

  private takePublication(p: Publication): void {
    const { channel, key, payload, held, cause, step } = p;
    const through = held ? this.through(held) : {};
    if (!p.known) {
      if (!held) this.tally.steps++;
      this.write({ kind: 'lost', channel, ...through, reason: 'dangling' }, cause, step);
      return;
    }
    const keyed = key === undefined ? {} : { key };
    const n = this.write({ kind: 'publication', channel, ...keyed, payload, ...through }, cause, step);
    for (const hearer of this.wiring.hearing(channel)) {
      const hold = hearer.towards(null);
      if (hold === 'not') continue;
      const hearers = this.hearers(hearer, key);
      if (hearers === 'deaf' || !this.lets(hearer, hold, -1, n)) continue;
      this.deliver(hearer, hearer.owner, hearers, payload, n, p.audience);
    }
  }
  /** The receivers of a binding that hears a publication with that key (or none); `deaf` if none of them does. */
  private hearers(held: Held, key: Value | undefined): { lives: readonly Live[] | null } | 'deaf' {
    const { from } = held.plan.binding;
    const own = 'channel' in from ? from.key : undefined;
    if (own === undefined || isLiteral(own)) {
      const hears = own === undefined || (key !== undefined && sameValue(own, key));
      return hears ? { lives: this.receivers(held, held.owner) } : 'deaf';
    }
    if (key === undefined) return 'deaf';
    const lives = this.receivers(held, held.owner);
    const listens = (live: Live): boolean => {
      const value = this.population.initial(live, own.property);
      return value !== undefined && sameValue(value, key);
    };
    if (lives === null) {
      const sole = this.soleAt(held);
      return sole && listens(sole) ? { lives } : 'deaf';
    }
    const narrowed = lives.filter(listens);
    return narrowed.length > 0 ? { lives: narrowed } : 'deaf';
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
    const reason = this.loss(delivery);
    if (reason) {
      const { to } = held.plan.binding;
      const name = 'action' in to ? to.action : '';
      this.write(
        { kind: 'lost', ...this.through(held), at: this.whereTo(delivery), action: name, reason },
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
  /** Where a delivery was bound for; what did not resolve stands as it is written, joined to its owner's address. */
  private whereTo({ live, held: { plan, owner } }: Delivery): string {
    if (live) return this.population.address(live);
    const { to } = plan.binding;
    if ('every' in to) return `every ${to.every}`;
    if (plan.target.kind !== 'path' || !('at' in to)) return '';
    const { base } = plan.target;
    return base >= 0 ? this.x.address(base) : joined(this.population.address(owner), to.at);
  }
  private loss({
    live,
    held,
    action,
    audience,
  }: Delivery): 'unloaded' | 'gone' | 'asleep' | 'paused' | 'nobody' | 'dangling' | null {
    const { target } = held.plan;
    if (target.kind === 'path' && target.scene >= 0 && !this.takesPart(target.scene)) return 'unloaded';
    if (!live) return 'dangling';
    const asset = this.x.assetOf(live.base);
    if (live.gone) return 'gone';
    if (asset.actions[action]?.whileAsleep !== true && this.population.isAsleep(live)) return 'asleep';
    if (this.paused && asset.decl.runsInPause !== true) return 'paused';
    if (audience) {
      const holds =
        asset.decl.existsOn === 'authority'
          ? audience.includes(this.population.peersOf(live).authority)
          : audience.length > 0;
      if (!holds) return 'nobody';
    }
    return action < 0 ? 'dangling' : null;
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

  // --- Steps and the end

  private name(address: string): Named {
    return nameLive(this.ground, this.population, this.takesPart, address);
  }
  private takeStep(step: Step, i: number): void {
    if ('pause' in step) {
      this.paused = step.pause;
      this.write({ kind: 'pause', is: step.pause }, 0, i);
    } else if ('publish' in step) {
      const { channel, key, payload = NONE } = step.publish;
      const known = this.x.index.channelAt.has(channel);
      const audience = this.ground.peers > 0 ? [...Array(this.ground.peers).keys()] : null;
      const head = { kind: 'publication', seq: ++this.seq, cause: 0, step: i } as const;
      this.takePublication({ ...head, channel, known, key, payload, held: null, audience });
    } else if ('raise' in step) this.takeStepRaise(step.raise, i);
  }
  private takeStepRaise(
    { at, event, payload = NONE, activator, by }: Extract<Step, { raise: object }>['raise'],
    i: number,
  ): void {
    const named = this.name(at);
    const base = baseOf(named);
    const number = base < 0 ? undefined : this.x.assetOf(base).eventAt.get(event);
    const peer = by === undefined || this.ground.peers === 0 ? null : this.peerNumber(by);
    const missing =
      (base >= 0 && number === undefined) ||
      peer === -1 ||
      (activator !== undefined && !this.x.index.assetAt.has(activator));
    const fault = named.fault === 'dangling' || missing ? 'dangling' : named.fault;
    if (fault !== null || !named.live) {
      if (fault !== 'unborn') this.tally.steps++;
      const reason = fault === 'unborn' || fault === null ? 'gone' : fault;
      const where = named.live ? this.population.address(named.live) : at;
      this.write({ kind: 'refused', at: where, event, reason }, 0, i);
      return;
    }
    const raise = this.newRaise(named.live, number!, payload, 0);
    this.takeRaise({ ...raise, step: i, by: peer, activator: activator ?? null });
  }
  private peerNumber(name: string): number {
    return (this.x.index.project.peers ?? []).findIndex((p) => p.name === name);
  }
  private takeExpectation(step: Step, i: number): void {
    if (!('expect' in step)) return;
    const { broken, ...body } = judge(this.x, this.population, step.expect, this.name(step.expect.at));
    if (broken) this.tally.steps++;
    if (body.ok) this.tally.held++;
    else this.tally.failed++;
    this.write({ kind: 'expect', ...body }, 0, i);
  }
  private writeCut(): void {
    const rest = [...this.queue.rest()].sort((a, b) => a.item.seq - b.item.seq);
    for (const { due, item } of rest) {
      this.tally.cut++;
      if (item.kind === 'raise') {
        const event = this.x.assetOf(item.live.base).events[item.event].name;
        this.write({ kind: 'cut', due, at: this.population.address(item.live), event }, item.cause);
      } else if (item.kind === 'publication') {
        const through = item.held ? this.through(item.held) : {};
        this.write({ kind: 'cut', due, channel: item.channel, ...through }, item.cause);
      } else {
        const { to } = item.held.plan.binding;
        const action = 'action' in to ? to.action : '';
        const at = this.whereTo(item);
        this.write({ kind: 'cut', due, ...this.through(item.held), at, action }, item.cause);
      }
    }
  }
}
const MISSING = Symbol('missing');
const NO_KEY: { key: Value | undefined } = { key: undefined };

/** Makes a rehearsal ready to run; a verdict at once where its load set is not there. */
export function prepare(
  ground: RehearsalGround,
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
