import type {
  Action,
  Arg,
  Asset,
  Binding,
  Effect,
  EventDecl,
  Project,
  Rehearsal,
  Type,
  Value,
} from '../src/index.js';
import { canonicalJson, isLiteral } from '../src/index.js';

/**
 * A second reading of the rules of rehearsal, written for plainness alone: every raise looks through every binding of
 * everything, paths are walked anew each time, the queue is sorted before each step. Nothing is shared with the engine.
 */
interface Inst {
  id: string;
  asset: Asset;
  /** What contains it; null for scenes and copies. */
  parent: Inst | null;
  holder: Inst;
  /** Under whose address it stands. */
  under: Inst | null;
  children: Map<string, Inst>;
  copies: Map<string, Inst[]>;
  /** The place of its stand-in: what it is counted with. */
  place: string;
  overrides: Record<string, Value>;
  muted: string[];
  spawned: boolean;
  asleep: boolean;
  gone: boolean;
  started: number;
  born: number;
  values: Map<string, Value>;
  counts: Map<string, number>;
  authority: string | undefined;
  operator: string | undefined;
  timersFrom: number;
}
interface Bound {
  owner: Inst;
  binding: Binding;
}
/** Where a path has come to below a stand-in. */
interface StandInAt {
  holder: Inst;
  asset: Asset;
  way: string[];
  containing: string[];
  id: string;
}
type Rec = Record<string, unknown>;
interface Item {
  due: number;
  seq: number;
  take: () => void;
  cut: () => Rec;
  cause: number;
}
const us = (s: number): number => Math.round(s * 1e6);
const eq = (a: unknown, b: unknown): boolean => canonicalJson(a) === canonicalJson(b);

export class NaiveRehearsal {
  readonly lines: Rec[] = [];
  private scenes = new Map<string, Inst>();
  private loaded = new Set<string>();
  private queue: Item[] = [];
  private now = 0;
  private seq = 0;
  private clock = 0;
  private n = 0;
  private deliveries = 0;
  private paused = false;
  private over = false;
  private served = new Map<string, number>();
  private released = new Set<string>();
  private startQueue: (() => void)[] | null = null;
  readonly used = new Set<string>();

  constructor(
    private readonly project: Project,
    private readonly rehearsal: Rehearsal,
  ) {}

  private asset(id: string): Asset | undefined {
    return this.project.assets.find((a) => a.id === id);
  }
  private made(id: string): Asset | undefined {
    const asset = this.asset(id);
    return asset && asset.kind !== 'scene' ? asset : undefined;
  }

  // --- instances

  private build(
    asset: Asset,
    id: string,
    parent: Inst | null,
    spawned: boolean,
    containing: string[],
    place: string,
  ): Inst {
    const inst = {
      id,
      asset,
      parent,
      under: parent,
      children: new Map(),
      copies: new Map(),
      place,
      overrides: {},
      muted: [],
      spawned,
      asleep: false,
      gone: false,
      started: -1,
      born: 0,
      values: new Map(),
      counts: new Map(),
      authority: parent?.authority,
      operator: parent?.operator,
      timersFrom: this.now,
    } as unknown as Inst;
    inst.holder = spawned && parent ? parent.holder : inst;
    for (const p of asset.placements ?? []) {
      const placed = this.made(p.asset);
      if (!placed || [...containing, asset.id].includes(placed.id)) continue;
      const child = this.build(placed, p.id, null, spawned, [...containing, asset.id], `${place}/${p.id}`);
      child.parent = inst;
      child.under = inst;
      inst.children.set(p.id, child);
      child.overrides = p.properties ?? {};
      child.muted = p.muted ?? [];
      child.asleep = p.asleep === true;
      this.hand(child, p.authority, p.operator, inst);
      if (spawned) this.holders(child, inst.holder);
    }
    return inst;
  }
  private hand(i: Inst, authority: string | undefined, operator: string | undefined, around: Inst): void {
    const [a, o] = [authority ?? around.authority, operator ?? around.operator];
    const down = (x: Inst, pa: string | undefined, po: string | undefined): void => {
      x.authority = pa;
      x.operator = po;
      for (const p of x.asset.placements ?? []) {
        const c = x.children.get(p.id);
        if (c) down(c, p.authority ?? pa, p.operator ?? po);
      }
    };
    down(i, a, o);
  }
  private holders(i: Inst, holder: Inst): void {
    i.holder = holder;
    for (const c of i.children.values()) this.holders(c, holder);
  }
  /** Assets that a holder has stand-ins for, breadth first. */
  private standIns(holder: Asset): string[] {
    const found: string[] = [];
    const scan = (a: Asset): void => {
      for (const action of a.actions ?? [])
        for (const e of action.effects ?? [])
          if ('spawn' in e && this.made(e.spawn) && !found.includes(e.spawn)) found.push(e.spawn);
    };
    scan(holder);
    for (let i = 0; i < found.length; i++) {
      const seen: string[] = [];
      const inside = (a: Asset): void => {
        if (seen.includes(a.id)) return;
        seen.push(a.id);
        scan(a);
        for (const p of a.placements ?? []) {
          const c = this.made(p.asset);
          if (c) inside(c);
        }
      };
      inside(this.asset(found[i])!);
    }
    return found;
  }
  /** Everything that takes part, in expansion order, gone things too. */
  private all(): Inst[] {
    const out: Inst[] = [];
    const visit = (i: Inst): void => {
      out.push(i);
      for (const p of i.asset.placements ?? []) {
        const c = i.children.get(p.id);
        if (c) visit(c);
      }
      if (!i.spawned) for (const s of this.standIns(i.asset)) for (const c of i.copies.get(s) ?? []) visit(c);
    };
    for (const [id, s] of this.scenes) if (this.loaded.has(id)) visit(s);
    return out;
  }
  private inside(i: Inst): Inst[] {
    return [
      i,
      ...(i.asset.placements ?? []).flatMap((p) => {
        const c = i.children.get(p.id);
        return c ? this.inside(c) : [];
      }),
    ];
  }
  private address(i: Inst): string {
    if (!i.under) return `${i.id}:.`;
    const above = this.address(i.under);
    return above.endsWith(':.') ? `${above.slice(0, -1)}${i.id}` : `${above}/${i.id}`;
  }
  private asleep(i: Inst): boolean {
    return i.asleep || (i.parent !== null && this.asleep(i.parent));
  }

  /** What a path names: instances (a stand-in: of every copy), or null; and whether the scene takes part. */
  private resolve(
    owner: Inst,
    path: string,
  ): { found: Inst[] | null; many: boolean; text: string; loaded: boolean } {
    const colon = path.indexOf(':');
    const rest = colon < 0 ? path : path.slice(colon + 1);
    const scene = colon < 0 ? null : path.slice(0, colon);
    const own = this.address(owner);
    const text =
      colon >= 0
        ? path
        : rest === '.'
          ? own
          : own.endsWith(':.')
            ? `${own.slice(0, -1)}${rest}`
            : `${own}/${rest}`;
    let at: Inst | undefined = scene === null ? owner : this.scenes.get(scene);
    const loaded = scene === null || !this.scenes.has(scene) || this.loaded.has(scene);
    if (!at) return { found: null, many: false, text, loaded };
    let standIn = null as StandInAt | null;
    for (const s of rest === '.' ? [] : rest.split('/')) {
      if (s.startsWith('~')) {
        const holder: Inst = standIn ? standIn.holder : at.holder;
        const id = s.slice(1);
        if (!this.standIns(holder.asset).includes(id)) return { found: null, many: false, text, loaded };
        standIn = { holder, asset: this.asset(id)!, way: [], containing: [id], id };
      } else if (standIn) {
        const p: { id: string; asset: string } | undefined = (standIn.asset.placements ?? []).find(
          (x) => x.id === s,
        );
        const next: Asset | undefined = p && this.made(p.asset);
        if (!next || standIn.containing.includes(next.id)) return { found: null, many: false, text, loaded };
        standIn = {
          ...standIn,
          asset: next,
          way: [...standIn.way, s],
          containing: [...standIn.containing, next.id],
        };
      } else {
        at = at.children.get(s);
        if (!at) return { found: null, many: false, text, loaded };
      }
    }
    if (!standIn) return { found: [at], many: false, text: this.address(at), loaded };
    const found = (standIn.holder.copies.get(standIn.id) ?? []).map((c) =>
      standIn.way.reduce((i, s) => i.children.get(s)!, c),
    );
    const base = this.address(standIn.holder);
    const stem = `${base.endsWith(':.') ? base.slice(0, -1) : `${base}/`}${[`~${standIn.id}`, ...standIn.way].join('/')}`;
    return { found, many: true, text: stem, loaded };
  }
  private assetOf(owner: Inst, path: string): Asset | null {
    const r = this.resolve(owner, path);
    if (r.found === null) return null;
    if (r.found.length > 0) return r.found[0].asset;
    // A stand-in without copies: read the asset off the path.
    const segments = r.text.split(':')[1].split('/');
    let asset: Asset | undefined;
    for (const s of segments) {
      if (s.startsWith('~')) asset = this.asset(s.slice(1));
      else if (asset) {
        const p = (asset.placements ?? []).find((x) => x.id === s);
        asset = p && this.made(p.asset);
      }
    }
    return asset ?? null;
  }

  // --- values

  private initial(i: Inst, name: string): Value | undefined {
    const p = (i.asset.properties ?? []).find((x) => x.name === name);
    if (!p) return undefined;
    return Object.hasOwn(i.overrides, name) ? i.overrides[name] : p.default;
  }
  private current(i: Inst, name: string): Value | undefined {
    return i.values.has(name) ? i.values.get(name) : this.initial(i, name);
  }
  private evaluate(args: Record<string, Arg> | undefined, carried: Rec, reader: Inst): Rec {
    const out: Rec = {};
    for (const [name, arg] of Object.entries(args ?? {})) {
      let value: unknown;
      if (isLiteral(arg)) value = arg;
      else if ('sender' in arg) value = this.address(reader);
      else {
        value = 'payload' in arg ? carried[arg.payload] : this.current(reader, arg.property);
        if (arg.as === 'string' && value !== undefined && typeof value !== 'string')
          value = canonicalJson(value);
      }
      if (value !== undefined) out[name] = value;
    }
    return out;
  }

  // --- records

  private write(body: Rec, cause: number, step?: number): number {
    const n = ++this.n;
    this.lines.push({ n, t: this.now, cause, ...(step === undefined ? {} : { step }), ...body });
    return n;
  }
  private put(due: number, cause: number, take: () => void, cut: () => Rec): void {
    this.queue.push({ due, seq: ++this.seq, take, cut, cause });
  }

  // --- bindings

  private bindings(): Bound[] {
    return this.all().flatMap((owner) =>
      (owner.asset.bindings ?? [])
        .filter((b) => b.enabled !== false && !owner.muted.includes(b.id))
        .map((binding) => ({ owner, binding })),
    );
  }
  private on(i: Inst, event: string): Bound[] {
    return this.bindings().filter(
      ({ owner, binding: { from } }) =>
        'at' in from && from.event === event && this.resolve(owner, from.at).found?.includes(i) === true,
    );
  }
  private hears(channel: string): Bound[] {
    return this.bindings().filter(({ binding: { from } }) => 'channel' in from && from.channel === channel);
  }
  private since({ owner, binding }: Bound): number {
    return binding.origin === 'code' && binding.bind === 'start' ? owner.started : owner.born;
  }
  private hold(b: Bound, sender: Inst | null): 'not' | 'released' | 'holds' {
    const never = b.binding.origin === 'code' && b.binding.release === 'never';
    if (this.since(b) < 0 || (b.owner.gone && !never)) return 'not';
    return this.released.has(this.key(b, sender)) ? 'released' : 'holds';
  }
  private key(b: Bound, sender: Inst | null): string {
    return `${this.address(b.owner)}|${b.binding.id}|${sender ? this.address(sender) : '#'}`;
  }
  private through(b: Bound): Rec {
    return { owner: this.address(b.owner), binding: b.binding.id };
  }
  private lets(b: Bound, hold: string, startQueued: number, cause: number): boolean {
    const key = `${this.address(b.owner)}|${b.binding.id}`;
    const served = this.served.get(key) ?? 0;
    const stop = (reason: string): boolean => {
      this.write({ kind: 'stopped', ...this.through(b), reason }, cause);
      return false;
    };
    if (hold === 'released') return stop('released');
    if (startQueued >= 0 && this.since(b) > startQueued) return stop('not-bound');
    if (b.binding.limit !== undefined && served >= b.binding.limit) return stop('limit');
    this.served.set(key, served + 1);
    this.used.add(`${b.owner.place}|${b.binding.id}`);
    return true;
  }

  // --- raising

  private peers(): string[] {
    return (this.project.peers ?? []).map((p) => p.name);
  }
  private roles(i: Inst, peer: string | undefined): string[] {
    const r = [...(i.authority === peer ? ['authority'] : []), ...(i.operator === peer ? ['operator'] : [])];
    return r.length > 0 ? r : ['others'];
  }
  private admits(roles: unknown, i: Inst, peer: string | undefined): boolean {
    if (roles === undefined || roles === 'everyone') return true;
    const mine = this.roles(i, peer);
    const { only, except } = roles as { only?: string[]; except?: string[] };
    return only ? only.some((x) => mine.includes(x)) : !except!.some((x) => mine.includes(x));
  }
  private queueRaise(
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
  private takeRaise(
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
      if (hold === 'not' || !this.lets(b, hold, startQueued, n)) continue;
      this.bring(b, i, this.targets(b, i), payload, n, audience);
    }
  }

  /** Receivers now; a text where the target does not resolve, with the instance at which an action is missing. */
  private targets(
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
  private bring(
    b: Bound,
    reader: Inst,
    targets: ReturnType<NaiveRehearsal['targets']>,
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
  private takePublication(
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
      if (this.lets(b, hold, -1, n)) this.bring(b, b.owner, targets, payload, n, audience);
    }
  }
  private atOnce = new Map<string, number>();
  private takeDelivery(
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
  private places = new Map<number, string>();
  private cycle(place: string, action: string, cause: number): Rec[] {
    const back: Rec[] = [];
    for (let n = cause; n > 0; n = this.lines[n - 1].cause as number) {
      const r = this.lines[n - 1];
      if (r.kind !== 'performed') continue;
      back.unshift({ action: r.action, at: r.at });
      if (this.places.get(n) === place && r.action === action) return back;
    }
    return [];
  }

  // --- effects

  private effect(i: Inst, action: Action, e: Effect, args: Rec, times: number, n: number): string | null {
    if (e.when) {
      const value = this.current(i, e.when.property);
      if (value === undefined) return 'dangling';
      if (!eq(value, e.when.is)) return null;
    }
    if (e.everyNth !== undefined && times % e.everyNth !== 0) return null;
    if ('raise' in e) {
      const event = i.asset.events?.find((x) => x.name === e.raise);
      if (!event) return 'dangling';
      this.queueRaise(i, event, this.evaluate(e.payload, args, i), n, us(e.delay ?? 0));
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
  private change(
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
  private fits(value: Value, type: Type): boolean {
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
  private spawn(by: Inst, asset: Asset, overrides: Record<string, Value>, n: number): void {
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
  private startIfAwake(i: Inst, cause: number): void {
    if (i.started >= 0 || i.gone || this.asleep(i)) return;
    i.started = ++this.clock;
    for (const event of i.asset.events ?? []) {
      if (event.cause.type === 'start')
        this.queueRaise(i, event, {}, cause, 0, { startQueued: ++this.clock });
    }
  }
  private destroy(i: Inst, n: number): void {
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
        if (this.hold(b, null) !== 'holds') continue;
        for (const o of this.hears(from.channel))
          if (this.key(o, null) !== this.key(b, null) && this.hold(o, null) === 'holds')
            this.released.add(this.key(o, null));
      } else {
        for (const s of this.resolve(b.owner, from.at).found ?? []) {
          if (this.hold(b, s) !== 'holds' || !s.asset.events?.some((e) => e.name === from.event)) continue;
          for (const o of this.on(s, from.event))
            if (this.key(o, s) !== this.key(b, s) && this.hold(o, s) === 'holds')
              this.released.add(this.key(o, s));
        }
      }
    }
    for (const x of going) x.gone = true;
  }

  // --- the run

  /** Runs it; the lines are records without head, then the verdict. Only for load sets that are there. */
  run(): Rec[] {
    const set =
      this.rehearsal.loadSet === undefined
        ? null
        : this.project.loadSets!.find((s) => s.name === this.rehearsal.loadSet)!;
    for (const a of this.project.assets) {
      if (a.kind !== 'scene') continue;
      const scene = this.build(a, a.id, null, false, [], a.id);
      this.hand(scene, this.peers()[0], undefined, scene);
      this.scenes.set(a.id, scene);
      if (!set || a.persistent === true || set.scenes.includes(a.id)) this.loaded.add(a.id);
    }
    const steps = this.rehearsal.steps.map((step, i) => ({ step, i, t: us(step.at) }));
    const last = Math.max(0, ...steps.map((s) => s.t));
    this.startQueue = [];
    for (const i of this.all()) this.startIfAwake(i, 0);
    const starts = this.startQueue;
    this.startQueue = null;
    for (const take of starts) take();
    const tally = { held: 0, failed: 0, steps: 0, cut: 0 };
    const judged = new Set<number>();
    for (let t = 0; t !== Infinity && !this.over; t = this.nextTime(steps, judged, last)) {
      this.now = t;
      for (const { step, i } of steps) {
        if (us(step.at) !== t || 'expect' in step) continue;
        judged.add(i);
        if (!this.step(step, i)) tally.steps++;
      }
      this.tick(last);
      for (;;) {
        this.queue.sort((a, b) => a.due - b.due || a.seq - b.seq);
        if (this.queue.length === 0 || this.queue[0].due !== t || this.over) break;
        this.queue.shift()!.take();
      }
      for (const { step, i } of steps) {
        if (us(step.at) !== t || !('expect' in step) || this.over) continue;
        judged.add(i);
        const { ok, broken } = this.expect(step.expect, i);
        if (ok) tally.held++;
        else tally.failed++;
        if (broken) tally.steps++;
      }
    }
    if (!this.over) {
      this.queue.sort((a, b) => a.seq - b.seq);
      for (const item of this.queue) {
        tally.cut++;
        this.write({ kind: 'cut', due: item.due, ...item.cut() }, item.cause);
      }
    }
    const unjudged = steps.filter(({ step, i }) => 'expect' in step && !judged.has(i)).length;
    const pass = tally.failed === 0 && tally.steps === 0 && !this.over;
    return [
      ...this.lines,
      {
        kind: 'verdict',
        name: this.rehearsal.name,
        pass,
        records: this.n,
        deliveries: this.deliveries,
        end: this.now,
        ...tally,
        unjudged,
        runaway: this.over,
      },
    ];
  }
  private nextTime(steps: { t: number; i: number }[], judged: Set<number>, last: number): number {
    const due = this.queue.map((q) => q.due).filter((d) => d <= last + 60e6);
    const ticks = this.all().flatMap((i) => this.nextTicks(i, last));
    return Math.min(Infinity, ...due, ...ticks, ...steps.filter((s) => !judged.has(s.i)).map((s) => s.t));
  }
  private nextTicks(i: Inst, last: number): number[] {
    if (i.gone) return [];
    return (i.asset.events ?? []).flatMap(({ cause }) => {
      if (cause.type !== 'timer') return [];
      const every = us(cause.every);
      const next = i.timersFrom + (Math.floor((this.now - i.timersFrom) / every) + 1) * every;
      return next <= last ? [next] : [];
    });
  }
  private tick(last: number): void {
    for (const i of this.all()) {
      for (const event of i.asset.events ?? []) {
        if (event.cause.type !== 'timer' || i.gone || this.now > last) continue;
        const passed = this.now - i.timersFrom;
        if (passed <= 0 || passed % us(event.cause.every) !== 0 || this.asleep(i)) continue;
        this.takeRaise(i, event, {}, 0);
      }
    }
  }
  /** What an address of a step names. */
  private named(address: string): { fault?: string; inst?: Inst; asset?: Asset } {
    const colon = address.indexOf(':');
    const scene = colon < 0 ? undefined : this.scenes.get(address.slice(0, colon));
    if (!scene) return { fault: 'dangling' };
    let number: number | null = null;
    const plain = address.replace(/(~[^/#]+)(?:#(\d+))?/g, (_all, name: string, n?: string) => {
      number = n === undefined ? null : Number(n);
      return name;
    });
    const r = this.resolve(scene, plain);
    if (!r.found) return { fault: 'dangling' };
    const asset = this.assetOf(scene, plain)!;
    if (!r.loaded) return { fault: 'unloaded', asset };
    if (!r.many) return { inst: r.found[0], asset };
    const root = (i: Inst): Inst => (i.parent ? root(i.parent) : i);
    const living = r.found.filter((i) => !root(i).gone);
    const inst = number !== null ? r.found[number - 1] : (living.at(-1) ?? r.found.at(-1));
    return inst ? { inst, asset } : { fault: 'unborn', asset };
  }
  private step(step: Rehearsal['steps'][number], i: number): boolean {
    if ('pause' in step) {
      this.paused = step.pause;
      this.write({ kind: 'pause', is: step.pause }, 0, i);
    } else if ('publish' in step) {
      const { channel, key, payload = {} } = step.publish;
      const known = this.project.channels?.some((c) => c.name === channel) === true;
      this.takePublication(
        channel,
        known,
        key,
        payload,
        null,
        0,
        this.peers().length > 0 ? this.peers() : null,
        i,
      );
      return known;
    } else if ('raise' in step) {
      const { at, event, payload = {}, activator, by } = step.raise;
      const named = this.named(at);
      const decl = named.asset?.events?.find((e) => e.name === event);
      const strange =
        (by !== undefined && this.peers().length > 0 && !this.peers().includes(by)) ||
        (activator !== undefined && !this.asset(activator));
      const fault = named.fault === 'dangling' || !decl || strange ? 'dangling' : named.fault;
      if (fault) {
        this.write(
          {
            kind: 'refused',
            at: named.inst ? this.address(named.inst) : at,
            event,
            reason: fault === 'unborn' ? 'gone' : fault,
          },
          0,
          i,
        );
        return fault === 'unborn';
      }
      this.takeRaise(named.inst!, decl!, payload, 0, i, {
        by: this.peers().length > 0 ? by : undefined,
        activator,
      });
    }
    return true;
  }
  private expect(e: Rec & { at: string }, i: number): { ok: boolean; broken: boolean } {
    const named = this.named(e.at);
    const at = named.inst ? this.address(named.inst) : e.at;
    const { asset, inst } = named;
    const lacks =
      ('property' in e && !asset?.properties?.some((p) => p.name === e.property)) ||
      ('action' in e && !asset?.actions?.some((a) => a.name === e.action));
    let reason =
      named.fault === 'dangling' || lacks ? 'dangling' : named.fault === 'unloaded' ? 'unloaded' : '';
    let got: unknown = null;
    const gone = !inst || inst.gone;
    if (reason === '') {
      if ('gone' in e) got = gone;
      else if ('action' in e) got = inst?.counts.get(`a:${e.action as string}`) ?? 0;
      else if (gone) reason = 'gone';
      else got = 'asleep' in e ? this.asleep(inst) : this.current(inst, e.property as string);
    }
    const wanted = 'property' in e ? e.is : 'action' in e ? e.times : 'asleep' in e ? e.asleep : e.gone;
    const ok = reason === '' && eq(got, wanted);
    this.write({ kind: 'expect', ...e, ok, at, got, ...(reason === '' ? {} : { reason }) }, 0, i);
    return { ok, broken: reason === 'dangling' || reason === 'unloaded' };
  }
}

function effectText(e: Effect): string {
  if ('raise' in e) return `raise:${e.raise}`;
  if ('set' in e) return `set:${e.set}`;
  if ('toggle' in e) return `toggle:${e.toggle}`;
  if ('add' in e) return `add:${e.add}`;
  if ('spawn' in e) return `spawn:${e.spawn}`;
  return 'wake' in e ? 'wake' : 'sleep' in e ? 'sleep' : 'destroy';
}
