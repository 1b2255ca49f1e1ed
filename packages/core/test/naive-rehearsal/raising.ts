import type { Action, Effect, EventDecl, Value } from '../../src/index.js';
import { isLiteral } from '../../src/index.js';
import { answers, eq, NaiveWorld, us, type Bound, type Inst, type Rec } from './world.js';

/** Bindings and what passes through them: raises, publications, deliveries. */
export abstract class NaiveRaising extends NaiveWorld {
  /** Performs an effect; why it is lost, or null. */
  protected abstract effect(
    i: Inst,
    action: Action,
    e: Effect,
    args: Rec,
    times: number,
    n: number,
  ): string | null;

  // --- bindings

  protected bindings(): Bound[] {
    return this.all().flatMap((owner) =>
      (owner.asset.bindings ?? [])
        .filter((b) => b.enabled !== false && !owner.muted.includes(b.id))
        .map((binding) => ({ owner, binding })),
    );
  }
  protected on(i: Inst, event: string): Bound[] {
    return this.bindings().filter(
      ({ owner, binding: { from } }) =>
        'at' in from && from.event === event && this.resolve(owner, from.at).found?.includes(i) === true,
    );
  }
  protected hears(channel: string): Bound[] {
    return this.bindings().filter(({ binding: { from } }) => 'channel' in from && from.channel === channel);
  }
  protected since({ owner, binding }: Bound): number {
    return binding.origin === 'code' && binding.bind === 'start' ? owner.started : owner.born;
  }
  protected hold(b: Bound, sender: Inst | null): 'not' | 'released' | 'holds' {
    const never = b.binding.origin === 'code' && b.binding.release === 'never';
    if (this.since(b) < 0 || (b.owner.gone && !never)) return 'not';
    return this.released.has(this.key(b, sender)) ? 'released' : 'holds';
  }
  protected key(b: Bound, sender: Inst | null): string {
    return `${this.address(b.owner)}|${b.binding.id}|${sender ? this.address(sender) : '#'}`;
  }
  protected through(b: Bound): Rec {
    return { owner: this.address(b.owner), binding: b.binding.id };
  }
  protected lets(
    b: Bound,
    hold: string,
    startQueued: number,
    cause: number,
    sender: Inst,
    carried: Rec,
  ): boolean {
    const key = `${this.address(b.owner)}|${b.binding.id}`;
    const served = this.served.get(key) ?? 0;
    const stop = (reason: string): boolean => {
      this.write({ kind: 'stopped', ...this.through(b), reason }, cause);
      return false;
    };
    if (hold === 'released') return stop('released');
    if (startQueued >= 0 && this.since(b) > startQueued) return stop('not-bound');
    for (const c of b.binding.if ?? []) {
      const value = 'payload' in c ? carried[c.payload] : this.current(sender, c.property);
      if (!answers(c.is, value as Value | undefined)) return stop('condition');
    }
    if (b.binding.limit !== undefined && served >= b.binding.limit) return stop('limit');
    this.served.set(key, served + 1);
    this.used.add(`${b.owner.place}|${b.binding.id}`);
    return true;
  }

  // --- raising

  protected peers(): string[] {
    return (this.project.peers ?? []).map((p) => p.name);
  }
  protected roles(i: Inst, peer: string | undefined): string[] {
    const r = [...(i.authority === peer ? ['authority'] : []), ...(i.operator === peer ? ['operator'] : [])];
    return r.length > 0 ? r : ['others'];
  }
  protected admits(roles: unknown, i: Inst, peer: string | undefined): boolean {
    if (roles === undefined || roles === 'everyone') return true;
    const mine = this.roles(i, peer);
    const { only, except } = roles as { only?: string[]; except?: string[] };
    return only ? only.some((x) => mine.includes(x)) : !except!.some((x) => mine.includes(x));
  }
  protected queueRaise(
    i: Inst,
    event: EventDecl,
    payload: Rec,
    cause: number,
    delay: number,
    extra: { startQueued?: number; stood?: { b: Bound; hold: string }[] } = {},
  ): void {
    const take = (): void => this.takeRaise(i, event, payload, cause, undefined, extra);
    if (this.startQueue) this.startQueue.push(take);
    else this.put(this.now + delay, cause, take, () => ({ at: this.address(i), event: event.name }));
  }
  protected takeRaise(
    i: Inst,
    event: EventDecl,
    payload: Rec,
    cause: number,
    step?: number,
    {
      startQueued = -1,
      stood,
      by,
      activator,
    }: { startQueued?: number; stood?: { b: Bound; hold: string }[]; by?: string; activator?: string } = {},
  ): void {
    const at = this.address(i);
    const peer = by ?? i.authority;
    const raised = i.counts.get(`e:${event.name}`) ?? 0;
    let reason = '';
    const list = 'activators' in event.cause ? event.cause.activators : undefined;
    const tags = activator === undefined ? [] : (this.asset(activator)?.tags ?? []);
    if (i.gone && !stood) reason = 'gone';
    else if (this.asleep(i)) reason = 'asleep';
    else if (event.limit !== undefined && raised >= event.limit) reason = 'limit';
    else if (
      list &&
      !(activator !== undefined && list.some((x) => x === activator || tags.map((t) => `#${t}`).includes(x)))
    )
      reason = 'filtered';
    else if (
      this.peers().length > 0 &&
      (event.delivery?.send === 'nobody' || !this.admits(event.delivery?.send, i, peer))
    )
      reason = 'barred';
    else if (this.paused && event.raisedInPause !== true) reason = 'paused';
    if (reason) {
      this.write({ kind: 'refused', at, event: event.name, reason }, cause, step);
      return;
    }
    i.counts.set(`e:${event.name}`, raised + 1);
    const n = this.write(
      { kind: 'raise', at, event: event.name, payload, ...(this.peers().length > 0 ? { by: peer } : {}) },
      cause,
      step,
    );
    const audience =
      this.peers().length === 0
        ? null
        : event.delivery?.to === 'raiser'
          ? [peer]
          : this.peers().filter((p) => this.admits(event.delivery?.to, i, p));
    for (const { b, hold } of stood ?? this.on(i, event.name).map((b) => ({ b, hold: this.hold(b, i) }))) {
      if (hold === 'not' || !this.lets(b, hold, startQueued, n, i, payload)) continue;
      this.bring(b, i, this.targets(b, i), payload, n, audience);
    }
  }

  /** Receivers now; a text where the target does not resolve, with the instance at which an action is missing. */
  protected targets(
    { owner, binding: { to } }: Bound,
    reader: Inst,
  ): Inst[] | { text: string; sole?: Inst; unloaded?: boolean } {
    if ('channel' in to) return [];
    if ('at' in to) {
      const r = this.resolve(owner, to.at);
      const asset = this.assetOf(owner, to.at);
      const has = asset?.actions?.some((a) => a.name === to.action) === true;
      if (!r.loaded) return { text: r.text, unloaded: true };
      if (!r.found) return { text: r.text };
      if (!has) return { text: r.text, sole: r.many ? undefined : r.found[0] };
      return r.many ? r.found.filter((i) => !i.gone) : r.found;
    }
    const asset = this.asset(to.every);
    const text = { text: `every ${to.every}` };
    if (!asset?.actions?.some((a) => a.name === to.action)) return text;
    const match = to.match === undefined || to.match === 'all' ? null : to.match;
    let wanted: Value | undefined;
    if (match) {
      if (!asset.properties?.some((p) => p.name === match.property)) return text;
      wanted = isLiteral(match.equals) ? match.equals : this.initial(reader, match.equals.property);
      if (wanted === undefined) return text;
    }
    let found = this.all().filter((i) => i.asset === asset && !i.gone);
    if ((to.within ?? 'asset') === 'asset') {
      const below = (i: Inst): string | null => {
        let path = '';
        for (let x: Inst | null = i; x; x = x.under) {
          if (x === owner) return path;
          path = `/${x.id}${path}`;
        }
        return null;
      };
      found = found.filter(
        (i) => i !== owner && below(i) !== null && (to.spawned === true || !below(i)!.includes('/~')),
      );
    } else if (to.spawned !== true) found = found.filter((i) => !i.spawned);
    if (match)
      found = found.filter((i) => {
        const v = this.initial(i, match.property);
        return v !== undefined && eq(v, wanted);
      });
    return to.pick === 'first' ? found.slice(0, 1) : found;
  }
  protected bring(
    b: Bound,
    reader: Inst,
    targets: ReturnType<NaiveRaising['targets']>,
    carried: Rec,
    cause: number,
    audience: (string | undefined)[] | null,
  ): void {
    const { to, delay = 0 } = b.binding;
    const args = this.evaluate(b.binding.args, carried, reader);
    const due = this.now + us(delay);
    if ('channel' in to) {
      let known = this.project.channels?.some((c) => c.name === to.channel) === true;
      let key: Value | undefined;
      if (to.key !== undefined) {
        key = isLiteral(to.key) ? to.key : this.initial(reader, to.key.property);
        if (key === undefined) known = false;
      }
      this.put(
        due,
        cause,
        () => this.takePublication(to.channel, known, key, args, b, cause, audience),
        () => ({ channel: to.channel, ...this.through(b) }),
      );
      return;
    }
    const action = to.action;
    const queue = (i: Inst | null, text: string, unloaded: boolean): void =>
      this.put(
        due,
        cause,
        () => this.takeDelivery(b, i, text, action, args, cause, audience, unloaded),
        () => ({ ...this.through(b), at: i ? this.address(i) : text, action }),
      );
    if (!Array.isArray(targets)) return queue(targets.sole ?? null, targets.text, targets.unloaded === true);
    if (targets.length === 0) this.write({ kind: 'stopped', ...this.through(b), reason: 'empty' }, cause);
    for (const i of targets) queue(i, '', false);
  }
  protected takePublication(
    channel: string,
    known: boolean,
    key: Value | undefined,
    payload: Rec,
    by: Bound | null,
    cause: number,
    audience: (string | undefined)[] | null,
    step?: number,
  ): void {
    const through = by ? this.through(by) : {};
    if (!known) {
      this.write({ kind: 'lost', channel, ...through, reason: 'dangling' }, cause, step);
      return;
    }
    const n = this.write(
      { kind: 'publication', channel, ...(key === undefined ? {} : { key }), payload, ...through },
      cause,
      step,
    );
    for (const b of this.hears(channel)) {
      const hold = this.hold(b, null);
      if (hold === 'not') continue;
      const own = 'channel' in b.binding.from ? b.binding.from.key : undefined;
      let targets = this.targets(b, b.owner);
      if (own !== undefined && isLiteral(own) && (key === undefined || !eq(own, key))) continue;
      if (own !== undefined && !isLiteral(own)) {
        const listens = (i: Inst): boolean => {
          const v = this.initial(i, own.property);
          return key !== undefined && v !== undefined && eq(v, key);
        };
        if (Array.isArray(targets)) {
          targets = targets.filter(listens);
          if (targets.length === 0) continue;
        } else if (!targets.sole || !listens(targets.sole)) continue;
      }
      if (this.lets(b, hold, -1, n, b.owner, payload)) this.bring(b, b.owner, targets, payload, n, audience);
    }
  }
  protected atOnce = new Map<string, number>();
  protected takeDelivery(
    b: Bound,
    i: Inst | null,
    text: string,
    name: string,
    args: Rec,
    cause: number,
    audience: (string | undefined)[] | null,
    unloaded: boolean,
  ): void {
    const action = i?.asset.actions?.find((a) => a.name === name);
    const key = `${this.now}|${i?.place}|${name}`;
    const loop = i && action && (this.atOnce.get(key) ?? 0) >= 1000;
    if (loop) {
      this.over = true;
      this.write({ kind: 'runaway', why: 'loop', cycle: this.cycle(i.place, name, cause) }, cause);
      return;
    }
    this.deliveries++;
    let reason = '';
    if (unloaded) reason = 'unloaded';
    else if (!i) reason = 'dangling';
    else if (i.gone) reason = 'gone';
    else if (this.asleep(i) && action?.whileAsleep !== true) reason = 'asleep';
    else if (this.paused && i.asset.runsInPause !== true) reason = 'paused';
    else if (
      audience &&
      !(i.asset.existsOn === 'authority' ? audience.includes(i.authority) : audience.length > 0)
    )
      reason = 'nobody';
    else if (!action) reason = 'dangling';
    const at = i ? this.address(i) : text;
    if (reason || !i || !action) {
      this.write({ kind: 'lost', ...this.through(b), at, action: name, reason }, cause);
      return;
    }
    const times = (i.counts.get(`a:${name}`) ?? 0) + 1;
    i.counts.set(`a:${name}`, times);
    this.atOnce.set(key, (this.atOnce.get(key) ?? 0) + 1);
    const n = this.write({ kind: 'performed', ...this.through(b), at, action: name, args, times }, cause);
    this.places.set(n, i.place);
    for (const e of action.effects ?? []) {
      const lost = this.effect(i, action, e, args, times, n);
      if (lost) this.write({ kind: 'lost', at: this.address(i), effect: effectText(e), reason: lost }, n);
    }
  }
  protected places = new Map<number, string>();
  protected cycle(place: string, action: string, cause: number): Rec[] {
    const back: Rec[] = [];
    for (let n = cause; n > 0; n = this.lines[n - 1].cause as number) {
      const r = this.lines[n - 1];
      if (r.kind !== 'performed') continue;
      back.unshift({ action: r.action, at: r.at });
      if (this.places.get(n) === place && r.action === action) return back;
    }
    return [];
  }
}

export function effectText(e: Effect): string {
  if ('raise' in e) return `raise:${e.raise}`;
  if ('set' in e) return `set:${e.set}`;
  if ('toggle' in e) return `toggle:${e.toggle}`;
  if ('add' in e) return `add:${e.add}`;
  if ('spawn' in e) return `spawn:${e.spawn}`;
  return 'wake' in e ? 'wake' : 'sleep' in e ? 'sleep' : 'destroy';
}
