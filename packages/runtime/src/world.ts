import { judge } from './burst.js';
import { performEffects } from './effects.js';
import { EventOf, type RaiseOptions } from './event-of.js';
import { FORMAT, type Value, type Values, type WiringProject, type WiringScene } from './format.js';
import { LIMITS, type Game, type Limits, type Wired } from './game.js';
import { placedIn, type Burst, type Instance, type Scene } from './instance.js';
import { Lifecycle } from './lifecycle.js';
import { LoadedScenes } from './loaded-scenes.js';
import { inOrder } from './naming.js';
import { receivers as audienceOf } from './peers.js';
import { actionOf, raiseOf, through, type Delivery, type Queued, type Raise, type Timer } from './queued.js';
import { loss, refusal, whereTo } from './reasons.js';
import type { LossReason, RecordBody, RefusalReason, WorldRecord } from './records.js';
import { Restarts } from './restarts.js';
import { assetTables, eventNumber, SceneOf, type AssetTable } from './scene.js';
import { Selector } from './selection.js';
import { Serving } from './serving.js';
import { TimeQueue } from './time-queue.js';
import { NONE } from './value.js';
import { RunawayWatch } from './watch.js';
import { Wiring } from './wiring.js';

/** A longer list of what is due is let go of when it is done. */
const MOST_KEPT = 1000;
/** What stands in the list of what is due in place of what has been done, so that that can be freed. */
const DONE: Burst = { kind: 'burst', changes: 0, sure: [], isFree: false };

const NO_OPTIONS: RaiseOptions = {};

/** Makes a world that runs compiled wiring. @throws Error if the file is of another format */
export function createWorld(wiring: WiringProject, game: Game = {}): World {
  const { format }: { format: string } = wiring;
  if (format !== FORMAT) throw new Error(`expected ${FORMAT}, found ${format}`);
  return new World(wiring, game);
}

/**
 * The wiring of a game while it runs. Nothing here throws in the loop: what goes wrong is a record with its reason.
 * What is raised is judged at once; what follows is done by the next {@link World.advance}, breadth first.
 */
export class World {
  /** Microseconds since the beginning. */
  now = 0;
  /** Whether the last instant ended in a runaway. */
  runaway = false;
  deliveries = 0;
  records = 0;
  readonly queue = new TimeQueue<Queued>();
  /** Null once they have ended. */
  private timers: TimeQueue<Timer> | null = new TimeQueue<Timer>();
  /** What is due now, in the order in which it was queued. */
  private current: (Queued | Burst)[] = [];
  /** How many of them there are: the list is kept, so that a frame in which little happens allocates little. */
  private dueNow = 0;
  private isBusy = false;
  private readonly loaded = new LoadedScenes();
  readonly tables: readonly AssetTable[];
  readonly assetAt: ReadonlyMap<string, number>;
  readonly channels: ReadonlySet<string>;
  private readonly enums: ReadonlyMap<string, readonly string[]>;
  private readonly limits: Limits;
  private readonly watch: RunawayWatch;
  private readonly selector: Selector;
  private readonly bound: Wiring;
  private readonly serving: Serving;
  readonly life: Lifecycle;
  private readonly restarts = new Restarts();
  private readonly peers: readonly string[];
  /** Whether nobody needs each delivery on its own: to write it, to bound the whole run, or to do it elsewhere. */
  private readonly inBursts: boolean;
  paused = false;
  private ticks = 0;

  constructor(
    readonly wiring: WiringProject,
    readonly game: Game,
  ) {
    this.tables = assetTables(wiring);
    this.assetAt = new Map(wiring.assets.map((a, i) => [a.id, i]));
    this.channels = new Set(wiring.channels.map((c) => c.name));
    this.enums = new Map(wiring.enums.map((e) => [e.name, e.values]));
    this.limits = { ...LIMITS, ...game.limits };
    this.watch = new RunawayWatch(this.limits.atOnce, this.limits.deliveries < Infinity);
    this.peers = [...wiring.peers, ...wiring.strangers];
    const { deliveries, copies, records } = this.limits;
    const isBounded = Math.min(deliveries, copies, records) < Infinity;
    this.inBursts = !game.record && !game.later && !isBounded && wiring.peers.length === 0;
    this.selector = new Selector(
      () => this.loaded.scenes,
      this.assetAt,
      (address) => this.loaded.placeOf(address),
    );
    this.bound = new Wiring(() => this.loaded.scenes, this.selector);
    this.serving = new Serving(this, this.selector, this.bound);
    this.life = new Lifecycle(this, this.bound);
  }

  // --- Scenes

  /** Loads scenes together: what is awake in them starts. @throws Error for files of another compilation, or loaded already */
  load(...files: readonly (WiringScene | Scene)[]): void {
    const scenes = files.map((f) => (f instanceof SceneOf ? f : this.prepare(f)));
    for (const scene of scenes) {
      if (this.isLoaded(scene.file.scene)) throw new Error(`${scene.file.scene} is loaded already`);
      scene.loaded = true;
      scene.since = this.life.clock;
    }
    this.loaded.add(scenes);
    this.forget();
    const starts: Raise[] = [];
    for (const scene of this.loaded.scenes.filter((s) => scenes.includes(s))) {
      for (let i = 0; i < scene.count; i++) {
        if (scene.spawned[i] === 1) continue;
        const { starts: hasStarts, timers } = scene.tableOf(i);
        for (const event of timers)
          this.time({ instance: placedIn(scene, i), event, from: this.now, tick: 1 });
        if (hasStarts && !placedIn(scene, i).isAsleep) starts.push(...this.life.start(placedIn(scene, i), 0));
      }
    }
    if (this.game.later) this.queueNow(...starts);
    else for (const start of starts) this.takeRaise(start);
  }
  /** Makes a scene's file ready, so that {@link load} has less to do. */
  prepare(file: WiringScene): Scene {
    if (file.format !== FORMAT || file.hash !== this.wiring.hash)
      throw new Error(`the file of ${file.scene} is of another version of the wiring`);
    return new SceneOf(this.wiring, this.tables, file);
  }
  /** Unloads a scene: nothing of it acts or is heard any more. */
  unload(name: string): void {
    if (this.loaded.remove(name)) this.forget();
  }
  private forget(): void {
    this.bound.forget();
    this.life.changes++;
  }

  // --- What the game does

  /** Raises an event of an instance now; one that the game holds by {@link instance} need not be looked up. */
  raise(
    of: string | Instance,
    event: string,
    payload: Values = NONE,
    options: RaiseOptions = NO_OPTIONS,
    step?: number,
  ): boolean {
    const instance = typeof of === 'string' ? this.instance(of) : of;
    const number = instance ? eventNumber(instance.table, event) : undefined;
    const isPlain = options === NO_OPTIONS && step === undefined;
    if (isPlain && instance && number !== undefined && this.queues(this.burstOf(instance, number)))
      return true;
    const { activator, by } = options;
    const peer =
      by === undefined || this.wiring.peers.length === 0 ? undefined : this.wiring.peers.indexOf(by);
    const missing =
      number === undefined || peer === -1 || (activator !== undefined && !this.assetAt.has(activator));
    if (!instance || missing) {
      const at = instance?.address ?? (of as string);
      this.write({ kind: 'refused', at, event, reason: 'dangling' }, 0, step);
      return false;
    }
    this.takeRaise(raiseOf(instance, number, payload, 0, isPlain ? null : { step, by: peer, activator }));
    return true;
  }
  /** An event of an instance, to be raised again and again; null if there is no such thing. */
  event(address: string, name: string): EventOf | null {
    const instance = this.instance(address);
    const number = instance ? eventNumber(instance.table, name) : undefined;
    return instance && number !== undefined ? new EventOf(this, instance, name, number) : null;
  }
  /** Publishes to a channel now. */
  publish(channel: string, payload: Values = NONE, key?: Value, step?: number): boolean {
    const known = this.channels.has(channel);
    const audience = this.wiring.peers.length > 0 ? [...this.wiring.peers.keys()] : null;
    const head = { kind: 'publication', cause: 0, step, bound: null, audience } as const;
    this.serving.publish({ ...head, channel, known, key, payload });
    return known;
  }
  /** Pauses the game, or lets it go on. Time goes on all the same. */
  pause(is: boolean, step?: number): void {
    this.paused = is;
    this.life.changes++;
    this.write({ kind: 'pause', is }, 0, step);
  }
  /** Spawns a copy as an effect of an instance would. */
  spawn(by: string, asset: string, values: Readonly<Record<string, Value>> = {}): Instance | null {
    const instance = this.instance(by);
    return instance ? this.life.spawn(instance, asset, values, 0) : null;
  }
  /** Destroys an instance with all that it contains. */
  destroy(address: string): void {
    const instance = this.instance(address);
    if (instance) this.life.destroy(instance, 0);
  }
  /** An action that other code performs: its effects follow. Returns whether there is such an action. */
  act(address: string, action: string, args: Values = NONE): boolean {
    const instance = this.instance(address);
    const number = instance?.table.actionAt.get(action);
    if (!instance || number === undefined || instance.gone) return false;
    const { actions, events } = instance.table.decl;
    const times = ++instance.counts[events.length + number];
    const { effects } = actions[number];
    if (effects) performEffects(this, instance, actions[number], args, times, 0);
    return true;
  }
  setAsleep(address: string, asleep: boolean): void {
    const instance = this.instance(address);
    if (instance) this.life.setAsleep(instance, asleep, 0);
  }
  /** What an address names; `~X` is the newest copy that lives, or else the newest, `~X#2` that one. Null for nothing. */
  instance(address: string): Instance | null {
    return this.loaded.instance(address);
  }
  isLoaded(scene: string): boolean {
    return this.loaded.called(scene) !== undefined;
  }

  /** What a raise of an event would bring now, for tools: each binding in running order, with whom it reaches. */
  wired(address: string, event: string): Wired[] {
    const instance = this.instance(address);
    const number = instance?.table.eventAt.get(event);
    if (!instance || number === undefined) return [];
    return this.bound
      .on(instance, number)
      .filter((bound) => bound.towards(instance) === 'holds' && this.serving.publishes(bound, instance))
      .map((bound) => {
        const { to, delay = 0, limit } = bound.decl;
        const receivers = 'channel' in to ? [] : (this.selector.receivers(bound, instance) ?? []);
        return {
          ...through(bound),
          to: 'channel' in to ? `#${to.channel}` : to.action,
          receivers: receivers.map((r) => r.address),
          delay,
          left: limit === undefined ? Infinity : limit - bound.served,
        };
      });
  }

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
  private get ended(): boolean {
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
  private doAll(current: (Queued | Burst)[]): void {
    const { limits } = this;
    for (let i = 0; i < this.dueNow && !this.runaway; i++) {
      const item = current[i];
      if (item.kind === 'burst') {
        this.takeBurst(item);
        continue;
      }
      current[i] = DONE;
      this.do(item);
      if (this.life.copies > limits.copies || this.records > limits.records) this.endTotal();
    }
  }
  private tick(timers: TimeQueue<Timer>): void {
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
  private endTotal(): void {
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
  private count(cause: number, instance: Instance | null = null, action = -1): number {
    this.watch.record(cause, instance, action);
    return ++this.records;
  }
  /** Does what is due. */
  do(item: Queued): void {
    if (item.kind === 'delivery') this.takeDelivery(item);
    else if (item.kind === 'publication') this.serving.publish(item);
    else {
      const { special, instance } = item;
      if (special?.dropped) return;
      if (special?.restart !== undefined) this.restarts.done(instance, special.restart);
      this.takeRaise(item);
    }
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

  // --- Raises

  private takeRaise(raise: Raise): void {
    const { instance, event, cause, payload, special } = raise;
    const decl = instance.table.decl.events[event];
    const peers = this.wiring.peers.length;
    const of = peers > 0 ? instance.peersOf : null;
    const by = special?.by ?? of?.authority ?? -1;
    const reason = this.refusal(raise, by);
    if (reason) {
      this.write({ kind: 'refused', at: instance.address, event: decl.name, reason }, cause, special?.step);
      return;
    }
    instance.counts[event]++;
    let n: number;
    if (this.game.record) {
      const body: RecordBody = { kind: 'raise', at: instance.address, event: decl.name, payload };
      if (by >= 0) body.by = this.peers[by];
      n = this.write(body, cause, special?.step);
    } else n = this.count(cause);
    const audience = of ? audienceOf(decl, peers, by, of) : null;
    if (special?.stood) {
      for (const { bound, hold } of special.stood) this.serving.raise(raise, bound, hold, n, audience);
      return;
    }
    const burst = this.inBursts ? this.burstOf(instance, event) : null;
    if (burst?.sure && !this.watch.keeps) {
      this.current[this.dueNow++] = burst;
      return;
    }
    for (const bound of this.bound.on(instance, event))
      this.serving.raise(raise, bound, bound.towards(instance), n, audience);
  }
  /** Queues all that a raise brings, where that is sure; false, and nothing is done, where it must be judged. */
  queues(burst: Burst): boolean {
    if (!burst.isFree || burst.changes !== this.life.changes || this.watch.keeps) return false;
    this.current[this.dueNow++] = burst;
    return true;
  }
  /** What is bound to an event, as far as that needs no decision at each raise. */
  burstOf(instance: Instance, event: number): Burst {
    const { changes } = this.life;
    const before = instance.bursts[event];
    if (before?.changes === changes) return before;
    const { limit, activators } = instance.table.decl.events[event];
    const sure =
      this.paused || !this.inBursts
        ? null
        : judge(instance, this.bound.on(instance, event), this.game.ownEffects);
    const isHere = instance.scene.loaded && !instance.gone && !instance.isAsleep;
    const isFree = sure !== null && isHere && limit === undefined && !activators;
    return (instance.bursts[event] = { kind: 'burst', changes, sure, isFree });
  }
  /** Why a raise would be refused now; `by`: the number of its peer. */
  refusal(raise: Raise, by = this.raiserOf(raise)): RefusalReason | null {
    return refusal(this, raise, by);
  }
  private raiserOf({ instance, special }: Raise): number {
    return special?.by ?? (this.wiring.peers.length > 0 ? instance.peersOf.authority : -1);
  }
  // --- Deliveries

  private takeBurst({ sure, changes }: Burst): void {
    const { game, life, watch } = this;
    for (let i = 0; i < sure!.length && !this.runaway; i++) {
      const to = sure![i];
      const { instance, action, args } = to;
      if (life.changes !== changes || !watch.passes(to.tally)) {
        const { bound } = to;
        this.takeDelivery({ kind: 'delivery', cause: 0, bound, instance, action, args, audience: null });
        continue;
      }
      this.deliveries++;
      game.perform?.(instance, to.name, args);
      if (!to.hasEffects) continue;
      const { events, actions } = instance.table.decl;
      performEffects(this, instance, actions[action], args, ++instance.counts[events.length + action], 0);
    }
  }
  private takeDelivery(delivery: Delivery): void {
    const { instance, action, bound, args, cause } = delivery;
    const loops = instance !== null && action >= 0 && this.watch.isTooMany(instance, action);
    if (loops || this.deliveries >= this.limits.deliveries) {
      this.runaway = true;
      const cycle = this.watch
        .cycle(action < 0 ? null : instance, action, cause)
        .map((p) => ({ action: p.instance.table.decl.actions[p.action].name, at: p.instance.address }));
      this.write({ kind: 'runaway', why: loops ? 'loop' : 'total', cycle }, cause);
      return;
    }
    this.deliveries++;
    const reason = this.loss(delivery);
    if (reason) {
      this.write(
        { kind: 'lost', ...through(bound), at: this.whereTo(delivery), action: actionOf(bound), reason },
        cause,
      );
      return;
    }
    const { actions, events } = instance!.table.decl;
    const decl = actions[action];
    const times = ++instance!.counts[events.length + action];
    const { game } = this;
    const n = game.record
      ? this.write(
          { kind: 'performed', ...through(bound), at: instance!.address, action: decl.name, args, times },
          cause,
          undefined,
          instance!,
          action,
        )
      : this.count(cause, instance, action);
    game.perform?.(instance!, decl.name, args);
    if (decl.effects && !game.ownEffects?.(instance!.asset))
      performEffects(this, instance!, decl, args, times, n);
  }
  /** Where a delivery was bound for; what did not resolve stands as it is written, joined to its owner's address. */
  whereTo(delivery: Delivery): string {
    return whereTo(delivery);
  }
  /** Why a delivery would be lost now. */
  loss(delivery: Delivery): LossReason | null {
    return loss(this, delivery);
  }

  // --- For effects

  /** Queues a raise. With `restart` it takes the place of the one that waits under that name. */
  queueRaise(
    instance: Instance,
    event: number,
    payload: Values,
    cause: number,
    delay: number,
    restart?: string,
  ): void {
    if (restart === undefined) return this.enqueue(raiseOf(instance, event, payload, cause), delay);
    const raise = raiseOf(instance, event, payload, cause, { restart });
    const dropped = this.restarts.replace(raise, restart, this.now + delay);
    if (dropped !== null) this.queue.drop(dropped);
    this.enqueue(raise, delay);
  }
  /** Whether a value is of a type. A key need not be in its table. */
  isOfType(value: Value, type: string): boolean {
    if (type.startsWith('enum:')) {
      return typeof value === 'string' && (this.enums.get(type.slice(5))?.includes(value) ?? true);
    }
    if (type.startsWith('key:') || type === 'instance' || type === 'string') return typeof value === 'string';
    if (type === 'bool') return typeof value === 'boolean';
    if (type === 'vec2') return Array.isArray(value);
    return typeof value === 'number' && (type === 'float' || Number.isInteger(value));
  }
}
