import type { Values } from './format.js';
import type { Bound, Hold, Instance } from './instance.js';
import { through, type Audience, type Publication, type Queued, type Raise } from './queued.js';
import type { RecordBody, StopReason, Through } from './records.js';
import { readKey, type Selector } from './selection.js';
import { evaluate, holds, own } from './value.js';
import type { Wiring } from './wiring.js';

/** The world in which bindings serve. */
interface Served {
  readonly channels: ReadonlySet<string>;
  write(body: RecordBody, cause: number, step?: number): number;
  enqueue(item: Queued, delay: number): void;
}

/** What bindings do with raises and publications: let them through or stop them, and queue what they bring. */
export class Serving {
  constructor(
    private readonly world: Served,
    private readonly selector: Selector,
    private readonly wiring: Wiring,
  ) {}

  /** Serves a raise by a binding on its event. */
  raise({ instance, payload, special }: Raise, bound: Bound, hold: Hold, n: number, to: Audience): void {
    if (hold === 'not' || !this.lets(bound, hold, special?.startQueued ?? -1, n, instance, payload)) return;
    this.deliver(bound, instance, null, payload, n, to);
  }
  /** Writes a publication, and serves it by each binding that hears it. */
  publish({ channel, known, key, payload, bound, cause, step, audience }: Publication): void {
    const by: Partial<Through> = bound ? through(bound) : {};
    if (!known) {
      this.world.write({ kind: 'lost', channel, ...by, reason: 'dangling' }, cause, step);
      return;
    }
    const keyed = key === undefined ? {} : { key };
    const n = this.world.write({ kind: 'publication', channel, ...keyed, payload, ...by }, cause, step);
    for (const hearer of this.wiring.hearersOf(channel)) {
      const hold = hearer.towards(null);
      if (hold === 'not') continue;
      const hearers = this.selector.hearers(hearer, key);
      if (hearers === 'deaf' || !this.lets(hearer, hold, -1, n, hearer.owner, payload)) continue;
      this.deliver(hearer, hearer.owner, hearers, payload, n, audience);
    }
  }
  /** Whether the channel of a binding to a channel, and the key that it reads, are there. */
  publishes({ decl: { to } }: Bound, reader: Instance): boolean {
    return (
      !('channel' in to) || (this.world.channels.has(to.channel) && readKey(to.key, reader) !== 'missing')
    );
  }

  /** Whether a binding lets a raise or publication through; if so its limit takes one. */
  private lets(
    bound: Bound,
    hold: Hold,
    startQueued: number,
    cause: number,
    reader: Instance,
    carried: Values,
  ): boolean {
    const { limit, if: conditions } = bound.decl;
    const asks = conditions?.every((c) =>
      holds(c.is, 'payload' in c ? own(carried, c.payload) : reader.get(c.property)),
    );
    if (hold === 'released') this.stop(bound, 'released', cause);
    else if (startQueued >= 0 && bound.since > startQueued) this.stop(bound, 'not-bound', cause);
    else if (asks === false) this.stop(bound, 'condition', cause);
    else if (limit !== undefined && bound.served >= limit) this.stop(bound, 'limit', cause);
    else {
      bound.served++;
      return true;
    }
    return false;
  }
  private stop(bound: Bound, reason: StopReason, cause: number): void {
    this.world.write({ kind: 'stopped', ...through(bound), reason }, cause);
  }

  /** Queues what a binding brings. `hearers`: its receivers where it heard a channel; all null where none resolves. */
  private deliver(
    bound: Bound,
    reader: Instance,
    hearers: { all: Instance[] | null } | null,
    carried: Values,
    cause: number,
    audience: Audience,
  ): void {
    const { world } = this;
    const { decl, action, receiver } = bound;
    const { to, delay = 0 } = decl;
    const args = bound.constant ?? evaluate(decl.args, carried, reader);
    if (receiver && !hearers) {
      world.enqueue({ kind: 'delivery', cause, bound, instance: receiver, action, args, audience }, delay);
      return;
    }
    if ('channel' in to) {
      const read = readKey(to.key, reader);
      const known = this.publishes(bound, reader);
      const key = read === 'missing' ? undefined : read.key;
      const { channel } = to;
      world.enqueue(
        { kind: 'publication', cause, step: undefined, channel, known, key, payload: args, bound, audience },
        delay,
      );
      return;
    }
    const all = hearers ? hearers.all : this.selector.receivers(bound, reader);
    if (all === null) {
      const instance = 'at' in to && action < 0 ? this.selector.soleAt(bound) : null;
      world.enqueue({ kind: 'delivery', cause, bound, instance, action: -1, args, audience }, delay);
      return;
    }
    if (all.length === 0) this.stop(bound, 'empty', cause);
    for (const instance of all)
      world.enqueue({ kind: 'delivery', cause, bound, instance, action, args, audience }, delay);
  }
}
