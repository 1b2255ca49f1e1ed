import type { Action, Asset, Effect, Type, Value } from '../../src/index.js';
import { isLiteral } from '../../src/index.js';
import { NaiveRaising } from './raising.js';
import { answers, eq, us, type Inst, type Rec } from './world.js';

/** What actions do. */
export class NaiveEffects extends NaiveRaising {
  // --- effects

  protected effect(i: Inst, action: Action, e: Effect, args: Rec, times: number, n: number): string | null {
    if (e.when) {
      const { when } = e;
      const declared =
        'property' in when
          ? this.current(i, when.property) !== undefined
          : action.params?.some((p) => p.name === when.param) === true;
      if (!declared) return 'dangling';
      const value =
        'property' in when ? this.current(i, when.property) : (args[when.param] as Value | undefined);
      if (!answers(when.is, value)) return null;
    }
    if (e.everyNth !== undefined && times % e.everyNth !== 0) return null;
    if ('raise' in e) {
      const event = i.asset.events?.find((x) => x.name === e.raise);
      if (!event) return 'dangling';
      const payload = this.evaluate(e.payload, args, i);
      if (e.restart !== true) this.queueRaise(i, event, payload, n, us(e.delay ?? 0));
      else {
        const tag = `${this.address(i)} ${action.name} ${action.effects!.indexOf(e)}`;
        this.queue = this.queue.filter((q) => q.tag !== tag);
        this.queueRaise(i, event, payload, n, us(e.delay ?? 0));
        this.queue.at(-1)!.tag = tag;
      }
      return null;
    }
    if ('spawn' in e) {
      const asset = this.made(e.spawn);
      if (!asset) return 'dangling';
      if (!i.gone) this.spawn(i, asset, e.properties ?? {}, n);
      return null;
    }
    if ('destroy' in e) this.destroy(i, n);
    else if ('wake' in e || 'sleep' in e) {
      const flag = 'sleep' in e;
      if (i.asleep === flag) return null;
      i.asleep = flag;
      this.write({ kind: flag ? 'sleep' : 'wake', at: this.address(i) }, n);
      if (!flag) for (const x of this.inside(i)) this.startIfAwake(x, n);
    } else return this.change(i, action, e, args, n);
    return null;
  }
  protected change(
    i: Inst,
    action: Action,
    e: Extract<Effect, { set: string } | { toggle: string } | { add: string }>,
    args: Rec,
    n: number,
  ): string | null {
    const name = 'set' in e ? e.set : 'toggle' in e ? e.toggle : e.add;
    const property = i.asset.properties?.find((p) => p.name === name);
    if (!property) return 'dangling';
    const from = this.current(i, name)!;
    let to: Value;
    if ('toggle' in e) {
      if (property.type !== 'bool' || typeof from !== 'boolean') return 'misfit';
      to = !from;
    } else {
      const expr = 'set' in e ? e.to : e.by;
      let value: unknown = expr;
      if (!isLiteral(expr)) {
        if (!action.params?.some((p) => p.name === expr.param)) return 'dangling';
        value = args[expr.param];
        if (value === undefined) return 'misfit';
      }
      if (!this.fits(value as Value, property.type)) return 'misfit';
      if ('add' in e && (typeof from !== 'number' || typeof value !== 'number')) return 'misfit';
      to = 'add' in e ? (from as number) + (value as number) : (value as Value);
    }
    if (eq(from, to)) return null;
    i.values.set(name, to);
    this.write({ kind: 'change', at: this.address(i), property: name, from, to }, n);
    for (const event of i.asset.events ?? []) {
      if (event.cause.type !== 'change' || event.cause.property !== name) continue;
      this.queueRaise(i, event, event.payload?.some((f) => f.name === name) ? { [name]: to } : {}, n, 0);
    }
    return null;
  }
  protected fits(value: Value, type: Type): boolean {
    if (type === 'bool') return typeof value === 'boolean';
    if (type === 'int') return Number.isInteger(value);
    if (type === 'float') return typeof value === 'number';
    if (type === 'vec2') return Array.isArray(value);
    if (typeof value !== 'string') return false;
    const values = type.startsWith('enum:')
      ? this.project.enums?.find((x) => x.name === type.slice(5))?.values
      : undefined;
    return !values || values.includes(value);
  }
  protected spawn(by: Inst, asset: Asset, overrides: Record<string, Value>, n: number): void {
    const { holder } = by;
    const copies = holder.copies.get(asset.id) ?? [];
    holder.copies.set(asset.id, copies);
    const copy = this.build(
      asset,
      `~${asset.id}#${copies.length + 1}`,
      null,
      true,
      [],
      `${holder.place}/~${asset.id}`,
    );
    copy.under = holder;
    this.holders(copy, holder);
    copy.overrides = overrides;
    this.hand(copy, by.authority, by.operator, by);
    copies.push(copy);
    const born = ++this.clock;
    for (const x of this.inside(copy)) {
      x.born = born;
      x.timersFrom = this.now;
    }
    this.write({ kind: 'born', at: this.address(copy), asset: asset.id }, n);
    for (const x of this.inside(copy)) this.startIfAwake(x, n);
  }
  protected startIfAwake(i: Inst, cause: number): void {
    if (i.started >= 0 || i.gone || this.asleep(i)) return;
    i.started = ++this.clock;
    for (const event of i.asset.events ?? []) {
      if (event.cause.type === 'start')
        this.queueRaise(i, event, {}, cause, 0, { startQueued: ++this.clock });
    }
  }
  protected destroy(i: Inst, n: number): void {
    if (i.gone) return;
    this.write({ kind: 'gone', at: this.address(i) }, n);
    const going = this.inside(i).filter((x) => !x.gone);
    for (const x of going) {
      for (const event of x.asset.events ?? []) {
        if (event.cause.type !== 'destroyed') continue;
        const stood = this.on(x, event.name).map((b) => ({ b, hold: this.hold(b, x) }));
        this.queueRaise(x, event, {}, n, 0, { stood });
      }
    }
    for (const b of this.bindings()) {
      if (!going.includes(b.owner) || b.binding.origin !== 'code' || b.binding.release !== 'all') continue;
      const { from } = b.binding;
      if ('channel' in from) {
        if (this.hold(b, null) === 'not') continue;
        for (const o of this.hears(from.channel))
          if (this.key(o, null) !== this.key(b, null) && this.hold(o, null) === 'holds')
            this.released.add(this.key(o, null));
      } else {
        for (const s of this.resolve(b.owner, from.at).found ?? []) {
          if (this.hold(b, s) === 'not' || !s.asset.events?.some((e) => e.name === from.event)) continue;
          for (const o of this.on(s, from.event))
            if (this.key(o, s) !== this.key(b, s) && this.hold(o, s) === 'holds')
              this.released.add(this.key(o, s));
        }
      }
    }
    for (const x of going) x.gone = true;
  }
}
