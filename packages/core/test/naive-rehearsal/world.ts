import type { Arg, Asked, Asset, Binding, Project, Rehearsal, Value } from '../../src/index.js';
import { canonicalJson, isLiteral } from '../../src/index.js';

/**
 * A second reading of the rules of rehearsal, written for plainness alone: every raise looks through every binding of
 * everything, paths are walked anew each time, the queue is sorted before each step. Nothing is shared with the engine.
 */
export interface Inst {
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
export interface Bound {
  owner: Inst;
  binding: Binding;
}
/** Where a path has come to below a stand-in. */
export interface StandInAt {
  holder: Inst;
  asset: Asset;
  way: string[];
  containing: string[];
  id: string;
}
export type Rec = Record<string, unknown>;
export interface Item {
  due: number;
  seq: number;
  take: () => void;
  cut: () => Rec;
  cause: number;
  /** The effect with `restart` that has queued it. */
  tag?: string;
}
export const us = (s: number): number => Math.round(s * 1e6);
export const eq = (a: unknown, b: unknown): boolean => canonicalJson(a) === canonicalJson(b);
/** What a test says of a value, spelt out. */
export function answers(asked: Asked, value: Value | undefined): boolean {
  if (typeof asked !== 'object' || Array.isArray(asked)) return value !== undefined && eq(value, asked);
  if ('not' in asked) return !(value !== undefined && eq(value, asked.not));
  if ('oneOf' in asked) return value !== undefined && asked.oneOf.filter((one) => eq(one, value)).length > 0;
  if (typeof value !== 'number') return false;
  const [[sign, n]] = Object.entries<number>(asked);
  const than = value > n ? 'more' : value < n ? 'less' : 'same';
  const lets: Record<string, string[]> = {
    under: ['less'],
    atMost: ['less', 'same'],
    over: ['more'],
    atLeast: ['more', 'same'],
  };
  return lets[sign].includes(than);
}

/** Instances, their values, and the records. */
export class NaiveWorld {
  readonly lines: Rec[] = [];
  protected scenes = new Map<string, Inst>();
  protected loaded = new Set<string>();
  protected queue: Item[] = [];
  protected now = 0;
  protected seq = 0;
  protected clock = 0;
  protected n = 0;
  protected deliveries = 0;
  protected paused = false;
  protected over = false;
  protected served = new Map<string, number>();
  protected released = new Set<string>();
  protected startQueue: (() => void)[] | null = null;
  readonly used = new Set<string>();

  constructor(
    protected readonly project: Project,
    protected readonly rehearsal: Rehearsal,
  ) {}

  protected asset(id: string): Asset | undefined {
    return this.project.assets.find((a) => a.id === id);
  }
  protected made(id: string): Asset | undefined {
    const asset = this.asset(id);
    return asset && asset.kind !== 'scene' ? asset : undefined;
  }

  // --- instances

  protected build(
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
      for (const [path, values] of Object.entries(p.inside ?? {})) {
        let at: Inst | undefined = child;
        for (const name of path.split('/')) at = at?.children.get(name);
        if (at) at.overrides = { ...at.overrides, ...values };
      }
      child.muted = p.muted ?? [];
      child.asleep = p.asleep === true;
      this.hand(child, p.authority, p.operator, inst);
      if (spawned) this.holders(child, inst.holder);
    }
    return inst;
  }
  protected hand(i: Inst, authority: string | undefined, operator: string | undefined, around: Inst): void {
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
  protected holders(i: Inst, holder: Inst): void {
    i.holder = holder;
    for (const c of i.children.values()) this.holders(c, holder);
  }
  /** Assets that a holder has stand-ins for, breadth first. */
  protected standIns(holder: Asset): string[] {
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
  protected all(): Inst[] {
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
  protected inside(i: Inst): Inst[] {
    return [
      i,
      ...(i.asset.placements ?? []).flatMap((p) => {
        const c = i.children.get(p.id);
        return c ? this.inside(c) : [];
      }),
    ];
  }
  protected address(i: Inst): string {
    if (!i.under) return `${i.id}:.`;
    const above = this.address(i.under);
    return above.endsWith(':.') ? `${above.slice(0, -1)}${i.id}` : `${above}/${i.id}`;
  }
  protected asleep(i: Inst): boolean {
    return i.asleep || (i.parent !== null && this.asleep(i.parent));
  }

  /** What a path names: instances (a stand-in: of every copy), or null; and whether the scene takes part. */
  protected resolve(
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
  protected assetOf(owner: Inst, path: string): Asset | null {
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

  protected initial(i: Inst, name: string): Value | undefined {
    const p = (i.asset.properties ?? []).find((x) => x.name === name);
    if (!p) return undefined;
    return Object.hasOwn(i.overrides, name) ? i.overrides[name] : p.default;
  }
  protected current(i: Inst, name: string): Value | undefined {
    return i.values.has(name) ? i.values.get(name) : this.initial(i, name);
  }
  protected evaluate(args: Record<string, Arg> | undefined, carried: Rec, reader: Inst): Rec {
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

  protected write(body: Rec, cause: number, step?: number): number {
    const n = ++this.n;
    this.lines.push({ n, t: this.now, cause, ...(step === undefined ? {} : { step }), ...body });
    return n;
  }
  protected put(due: number, cause: number, take: () => void, cut: () => Rec): void {
    this.queue.push({ due, seq: ++this.seq, take, cut, cause });
  }
}
