import { judge } from './burst.js';
import { performEffects } from './effects.js';
import type { Value, Values, WiringProject } from './format.js';
import type { Game } from './game.js';
import type { Burst, Instance } from './instance.js';
import { Lifecycle } from './lifecycle.js';
import { LoadedScenes } from './loaded-scenes.js';
import { receivers as audienceOf } from './peers.js';
import { actionOf, raiseOf, through, type Delivery, type Queued, type Raise } from './queued.js';
import { loss, refusal, whereTo } from './reasons.js';
import type { LossReason, RecordBody, RefusalReason } from './records.js';
import { Restarts } from './restarts.js';
import { assetTables, type AssetTable } from './scene.js';
import { Selector } from './selection.js';
import { Serving } from './serving.js';
import { Wiring } from './wiring.js';
import { WorldTime } from './world-time.js';

/** How raises are judged and what they bring is delivered. */
export abstract class WorldDeliveries extends WorldTime {
  protected readonly loaded = new LoadedScenes();
  readonly tables: readonly AssetTable[];
  readonly assetAt: ReadonlyMap<string, number>;
  readonly channels: ReadonlySet<string>;
  protected readonly enums: ReadonlyMap<string, readonly string[]>;
  protected readonly selector: Selector;
  protected readonly bound: Wiring;
  protected readonly serving: Serving;
  readonly life: Lifecycle;
  protected readonly restarts = new Restarts();
  protected readonly peers: readonly string[];
  /** Whether nobody needs each delivery on its own: to write it, to bound the whole run, or to do it elsewhere. */
  protected readonly inBursts: boolean;
  paused = false;

  constructor(wiring: WiringProject, game: Game) {
    super(wiring, game);
    this.tables = assetTables(wiring);
    this.assetAt = new Map(wiring.assets.map((a, i) => [a.id, i]));
    this.channels = new Set(wiring.channels.map((c) => c.name));
    this.enums = new Map(wiring.enums.map((e) => [e.name, e.values]));
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
  protected get copies(): number {
    return this.life.copies;
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

  // --- Raises

  protected takeRaise(raise: Raise): void {
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
  protected raiserOf({ instance, special }: Raise): number {
    return special?.by ?? (this.wiring.peers.length > 0 ? instance.peersOf.authority : -1);
  }

  // --- Deliveries

  protected takeBurst({ sure, changes }: Burst): void {
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
  protected takeDelivery(delivery: Delivery): void {
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

  // --- For effects and reasons

  isLoaded(scene: string): boolean {
    return this.loaded.called(scene) !== undefined;
  }
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
