import type { Expansion } from '../expand/expansion.js';
import type { Value } from '../project/types.js';
import { NONE } from './args.js';
import type { RehearsalModel } from './rehearsal-model.js';
import type { Raise, SpecialRaise } from './items.js';
import type { BindingState, InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { TargetResolver } from './target-resolver.js';
import type { RecordBody, Values } from './records.js';
import type { Wiring } from './wiring.js';
import { append } from '../util/append.js';

/** The run that things come and go in. */
export interface LifeHost {
  readonly now: number;
  write(body: RecordBody, cause: number): number;
  newRaise(live: InstanceState, event: number, payload: Values, cause: number, special: SpecialRaise): Raise;
  /** Queues it for this very moment, after all that is queued already. */
  queueNow(raise: Raise): void;
  addTimers(asset: number, live: () => InstanceState, from: number): void;
}

/** How instances start, sleep and wake, are spawned and destroyed, and what bindings let go then. */
export class Lifecycle {
  private readonly x: Expansion;
  /** Counts what takes hold and what is started, so that it can be reported what came before what. */
  private clock = 0;

  constructor(
    private readonly model: RehearsalModel,
    private readonly population: Population,
    private readonly wiring: Wiring,
    private readonly targets: TargetResolver,
    private readonly host: LifeHost,
  ) {
    this.x = model.x;
  }

  /** Starts all that is awake at the beginning: code bindings take hold, start raises are made. */
  startAll(scenes: readonly number[]): Raise[] {
    const { x, model } = this;
    const raises: Raise[] = [];
    for (const scene of scenes) {
      for (let i = scene; i < x.end[scene]; i++) {
        if (x.isSpawned(i)) continue;
        const asset = x.asset[i];
        this.host.addTimers(asset, () => this.population.at(i), 0);
        if (model.starts[asset] && model.beginsAwake(i)) append(raises, this.start(this.population.at(i), 0));
      }
    }
    return raises;
  }
  /** Lets its code bindings take hold and makes its start raises. */
  private start(live: InstanceState, cause: number): Raise[] {
    live.started = ++this.clock;
    return this.x.assetOf(live.base).events.flatMap((event, e) => {
      if (event.cause.type !== 'start') return [];
      return [this.host.newRaise(live, e, NONE, cause, { startQueued: ++this.clock })];
    });
  }
  /** Starts whatever of an instance and its contents is awake for the first time. */
  private startAwake(live: InstanceState, cause: number): void {
    const { model, population } = this;
    for (const base of population.contained(live)) {
      if (!model.starts[this.x.asset[base]]) continue;
      const inside = population.beside(live, base);
      if (inside.started >= 0 || inside.gone || population.isAsleep(inside)) continue;
      for (const raise of this.start(inside, cause)) this.host.queueNow(raise);
    }
  }
  setAsleep(live: InstanceState, asleep: boolean, cause: number): void {
    if (live.asleep === asleep) return;
    live.asleep = asleep;
    this.host.write({ kind: asleep ? 'sleep' : 'wake', at: this.population.address(live) }, cause);
    if (!asleep) this.startAwake(live, cause);
  }
  spawn(by: InstanceState, asset: number, overrides: Readonly<Record<string, Value>>, cause: number): void {
    const { population, x, model } = this;
    const standIn = x.standInOf(by.base, asset);
    const copy = population.spawn(standIn, by, overrides, ++this.clock);
    const root = population.rootOf(copy);
    this.host.write(
      { kind: 'born', at: population.address(root), asset: x.index.assets[asset].decl.id },
      cause,
    );
    for (let i = standIn; i < x.end[standIn]; i++) {
      if (model.timers[x.asset[i]].length > 0) {
        this.host.addTimers(x.asset[i], () => population.inside(copy, i), this.host.now);
      }
    }
    this.startAwake(root, cause);
  }
  destroy(live: InstanceState, cause: number): void {
    if (live.gone) return;
    const { population, x } = this;
    this.host.write({ kind: 'gone', at: population.address(live) }, cause);
    const going = [...population.contained(live)]
      .map((base) => population.beside(live, base))
      .filter((inside) => !inside.gone);
    for (const inside of going) {
      x.assetOf(inside.base).events.forEach((event, e) => {
        if (event.cause.type !== 'destroyed') return;
        const stood = this.wiring
          .on(inside, e)
          .map((state) => ({ state, activity: state.activityTowards(inside) }));
        this.host.queueNow(this.host.newRaise(inside, e, NONE, cause, { stood }));
      });
    }
    for (const inside of going) for (const state of this.wiring.ownedBy(inside)) this.letGo(state);
    for (const inside of going) inside.gone = true;
    if (live.copy && live.base === live.copy.standIn) population.forget(live.copy);
  }
  /**
   * A code binding that releases all takes with it every other one that holds on the same event or channel; not where it
   * has not taken hold, but also where others have released it.
   */
  private letGo(state: BindingState): void {
    const { binding, release } = state.compiled;
    if (release !== 'all') return;
    for (const sender of this.sendersOf(state)) {
      if (state.activityTowards(sender) === 'inactive') continue;
      const beside =
        sender === null && 'channel' in binding.from
          ? this.wiring.hearing(binding.from.channel)
          : this.wiring.on(sender!, this.eventOf(state, sender!));
      for (const other of beside) {
        if (other !== state && other.activityTowards(sender) === 'active') other.release(sender);
      }
    }
  }
  private eventOf({ compiled: { binding } }: BindingState, sender: InstanceState): number {
    return this.x.assetOf(sender.base).eventAt.get('event' in binding.from ? binding.from.event : '') ?? -1;
  }
  /** What a binding listens to: null for its channel. */
  private sendersOf({ owner, compiled }: BindingState): (InstanceState | null)[] {
    const { from } = compiled.binding;
    if ('channel' in from) return [null];
    const { x } = this;
    const base = this.model.pathsOf(x.asset[owner.base]).get(from.at).resolve(owner.base);
    if (base < 0 || !x.assetOf(base).eventAt.has(from.event) || !this.targets.takesPart(base)) return [];
    return this.targets.allAt(base, compiled.sameCopy ? owner : null);
  }
}
