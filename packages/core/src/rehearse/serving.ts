import { holds } from '../project/condition.js';
import type { Condition } from '../project/types.js';
import { own } from '../util/own.js';
import { evaluate } from './args.js';
import type { BindingActivity } from './compiled-binding.js';
import type { Audience, Item, Publication, Raise } from './items.js';
import type { BindingState, InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import { MISSING, NO_KEY, type TargetResolver } from './target-resolver.js';
import type { FoundValue, RecordBody, StopReason, Values } from './records.js';
import type { Wiring } from './wiring.js';

/** Marks of coverage. */
export const SERVED = 1;
export const REFUSED = 2;

/** The run in which bindings serve. */
interface Served {
  write(body: RecordBody, cause: number, step?: number): number;
  enqueue(item: Item, delay: number): void;
  nextSeq(): number;
}

/** What bindings do with raises and publications: let them through or stop them, and queue what they bring. */
export class Serving {
  constructor(
    private readonly run: Served,
    private readonly population: Population,
    private readonly targets: TargetResolver,
    private readonly wiring: Wiring,
    /** For each expanded binding a mark of coverage. */
    private readonly served: Uint8Array,
  ) {}

  /** Serves a raise by a binding on its event. */
  raise(raise: Raise, state: BindingState, activity: BindingActivity, n: number, audience: Audience): void {
    const { live, payload, special } = raise;
    if (activity === 'inactive' || !this.lets(state, activity, special?.startQueued ?? -1, n, live, payload))
      return;
    this.deliver(state, live, null, payload, n, audience);
  }
  /** Writes a publication, and serves it by each binding that hears it. */
  publish(p: Publication): void {
    const { channel, key, payload, state, cause, step } = p;
    const through = state ? this.population.through(state) : {};
    if (!p.known) {
      this.run.write({ kind: 'lost', channel, ...through, reason: 'dangling' }, cause, step);
      return;
    }
    const keyed = key === undefined ? {} : { key };
    const n = this.run.write({ kind: 'publication', channel, ...keyed, payload, ...through }, cause, step);
    for (const hearer of this.wiring.hearing(channel)) {
      const activity = hearer.activityTowards(null);
      if (activity === 'inactive') continue;
      const hearers = this.targets.hearers(hearer, key);
      if (hearers === 'deaf' || !this.lets(hearer, activity, -1, n, hearer.owner, payload)) continue;
      this.deliver(hearer, hearer.owner, hearers, payload, n, p.audience);
    }
  }

  /** Whether a binding lets a raise or publication through; if so its limit takes one. */
  private lets(
    state: BindingState,
    activity: BindingActivity,
    startQueued: number,
    cause: number,
    sender: InstanceState,
    carried: Values,
  ): boolean {
    const { limit, conditions } = state.compiled;
    let found: FoundValue | null;
    if (activity === 'released') this.stop(state, 'released', cause);
    else if (startQueued >= 0 && state.since > startQueued) this.stop(state, 'not-bound', cause);
    else if (conditions && (found = this.notSo(conditions, sender, carried))) {
      if (this.served[state.compiled.number] === 0) this.served[state.compiled.number] = REFUSED;
      this.stop(state, 'condition', cause, found);
    } else if (state.served >= limit) this.stop(state, 'limit', cause);
    else {
      state.served++;
      this.served[state.compiled.number] = SERVED;
      return true;
    }
    return false;
  }
  /** The first thing that is asked and is not so; null if all holds. */
  private notSo(conditions: readonly Condition[], sender: InstanceState, carried: Values): FoundValue | null {
    for (const c of conditions) {
      const isField = 'payload' in c;
      const asked = isField ? c.payload : c.property;
      const value = isField ? own(carried, asked) : this.population.current(sender, asked);
      if (!holds(c.is, value)) return { asked, value: value ?? null };
    }
    return null;
  }
  private stop(state: BindingState, reason: StopReason, cause: number, found?: FoundValue): void {
    this.run.write(
      { kind: 'stopped', ...this.population.through(state), reason, ...(found ? { found } : {}) },
      cause,
    );
  }

  /**
   * Queues what a binding brings: of an event (`sender`), or of a channel that it hears, whose receivers were found
   * before (`hearers`; null where the target does not resolve).
   */
  private deliver(
    state: BindingState,
    sender: InstanceState,
    hearers: { lives: readonly InstanceState[] | null } | null,
    carried: Values,
    cause: number,
    audience: Audience,
  ): void {
    const { binding, target, delay } = state.compiled;
    const args = evaluate(state.compiled.args, carried, sender, this.population);
    if (target.kind === 'channel') {
      const read = 'channel' in binding.to ? this.targets.keyOf(binding.to.key, sender) : NO_KEY;
      const seq = this.run.nextSeq();
      const { channel } = target;
      const known = target.known && read !== MISSING;
      const key = read === MISSING ? undefined : read.key;
      this.run.enqueue(
        { kind: 'publication', seq, cause, step: -1, channel, known, key, payload: args, state, audience },
        delay,
      );
      return;
    }
    if (!hearers && target.kind === 'path' && target.action >= 0 && this.targets.isPlacedHere(target.base)) {
      const live = this.population.at(target.base);
      const seq = this.run.nextSeq();
      this.run.enqueue(
        { kind: 'delivery', seq, cause, state, live, action: target.action, args, audience },
        delay,
      );
      return;
    }
    const lives = hearers ? hearers.lives : this.targets.receivers(state, sender);
    if (lives === null) {
      const live =
        target.kind === 'path' && target.base >= 0 && target.action < 0 ? this.targets.soleAt(state) : null;
      this.run.enqueue(
        { kind: 'delivery', seq: this.run.nextSeq(), cause, state, live, action: -1, args, audience },
        delay,
      );
      return;
    }
    if (lives.length === 0) this.stop(state, 'empty', cause);
    for (const live of lives) {
      const seq = this.run.nextSeq();
      this.run.enqueue(
        { kind: 'delivery', seq, cause, state, live, action: target.action, args, audience },
        delay,
      );
    }
  }
}
