import { assetAtPath } from '../edit/wiring.js';
import { placementStem } from '../edit/placement-edits.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { isName } from '../project/name.js';
import { parsePath } from '../project/path.js';
import { nameFromText } from '../project/typed-name.js';
import type { Arg, Binding, Condition, Field, KeyExpr } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { LineBinding } from '../wireline/parse.js';
import { parsePlacement } from '../wireline/placement.js';
import { Spelling } from './misspelt.js';
import { needKey, type Need, type NeedKind, type Wishes } from './needs.js';
import { Slots } from './slots.js';
import { stemOf } from './stems.js';

/** A field of something that is to be declared: which slot has its type, and whether every line gives it. */
interface FieldUse {
  slot: number;
  uses: number;
}
/** What lines say of an event, an action or a channel that is to be declared. */
export interface Said {
  fields: Map<string, FieldUse>;
  /** How many lines give its fields values; those that only ask do not count. */
  uses: number;
}
/** A property that is to be declared. */
export interface SaidProperty {
  slot: number;
  isKey: boolean;
}

/** Names that were meant for others, one after the other, so that two that are meant for each other come to an end. */
const MOST_AGAIN = 8;
/** A name that stands on so many lines is no slip of the pen for another new one. */
const MEANT = 3;

/** Reads what lines name: what is there, what is not, and what they say of it. Cost: the lines; names that are alike are looked for in a bounded number. */
export class LinesReading {
  readonly needs = new Map<string, Need>();
  readonly said = new Map<string, Said>();
  readonly properties = new Map<string, SaidProperty>();
  /** For each placement that is to be made its asset. */
  readonly placed = new Map<string, string>();
  readonly slots = new Slots();
  /** The lines with the names that were meant. */
  readonly lines: LineBinding[] = [];
  private readonly spelling = new Spelling();
  /** Assets by their names without regard to writing: `ropegauge` is RopeGauge. */
  private readonly alike = new Map<string, string>();
  /** What stands there by the name without its number: `horn-7` is what `horn-2` is. */
  private readonly siblings = new Map<string, string>();
  private readonly stems: Set<string>;
  /** Stems of what is to be placed. */
  private readonly fresh = new Set<string>();
  private line = 0;

  constructor(
    private readonly index: ProjectIndex,
    private readonly owner: AssetIndex,
    private readonly wishes: Wishes,
    /** How often the lines name things by each stem. */
    private readonly counts: ReadonlyMap<string, number>,
  ) {
    for (const { decl } of index.assets) {
      if (this.canHold(decl.kind) && decl.id !== owner.decl.id) this.alike.set(plain(decl.id), decl.id);
    }
    for (const { id, asset } of owner.placements) {
      const stem = stemOf(id);
      if (index.assetAt.has(asset) && !this.siblings.has(stem)) this.siblings.set(stem, asset);
    }
    this.stems = new Set(owner.placements.map((p) => stemOf(p.id)));
    for (const id of this.alike.values()) this.stems.add(placementStem(id));
  }

  read(line: LineBinding): void {
    const from = this.from(line.from);
    const reader = 'channel' in from.end ? this.owner.decl.id : from.asset;
    const to = this.to(line.to, reader);
    this.args(line.args ?? {}, from.key, to.key, reader);
    for (const c of line.if ?? []) this.condition(c, from.key, reader);
    // A key of what is published is the sender's; of what is heard each listener has its own.
    if ('channel' in to.end) this.keyExpr(to.end.key, reader);
    if ('channel' in from.end) this.keyExpr(from.end.key, to.asset);
    this.lines.push({ ...line, from: from.end, to: to.end });
    this.line++;
  }

  private from(end: LineBinding['from']): { end: Binding['from']; asset: string | null; key: string | null } {
    if ('channel' in end) {
      const channel = this.channel(end.channel);
      return { end: { ...end, channel }, asset: null, key: needKey('channel', channel) };
    }
    const { at, asset } = this.thing(end.at);
    if (asset === null) return { end: { ...end, at }, asset, key: null };
    const event = this.declared('event', asset, end.event);
    return { end: { at, event }, asset, key: needKey('event', event, asset) };
  }
  private to(
    end: LineBinding['to'],
    reader: string | null,
  ): { end: Binding['to']; asset: string | null; key: string | null } {
    if ('channel' in end) {
      const channel = this.channel(end.channel);
      return { end: { ...end, channel }, asset: null, key: needKey('channel', channel) };
    }
    if ('every' in end) {
      const every = this.selected(end.every);
      if (every === null) return { end, asset: null, key: null };
      const action = this.declared('action', every, end.action);
      const next = { ...end, every, action };
      if (end.match !== undefined && end.match !== 'all') {
        const { property, equals } = end.match;
        const name = this.property(every, property, true);
        next.match = { property: name, equals };
        const slot = this.propertySlot(every, name);
        if (isLiteral(equals)) this.slots.holds(slot, equals);
        else if (reader !== null) {
          const read = this.property(reader, equals.property, true);
          this.slots.joins(slot, this.propertySlot(reader, read));
          next.match = { property: name, equals: { property: read } };
        }
      }
      return { end: next, asset: every, key: needKey('action', action, every) };
    }
    const { at, asset } = this.thing(end.at);
    if (asset === null) return { end: { ...end, at }, asset, key: null };
    const action = this.declared('action', asset, end.action);
    return { end: { at, action }, asset, key: needKey('action', action, asset) };
  }

  /** What a path names: a thing that is there, or one that is to be placed; null for what cannot be made from here. */
  private thing(path: string, again = 0): { at: string; asset: string | null } {
    const there = assetAtPath(this.index, this.owner, path);
    if (there) return { at: path, asset: there.decl.id };
    const { scene, segments } = parsePath(path);
    const isHere = scene === null || (scene === this.owner.decl.id && this.owner.decl.kind === 'scene');
    // What cannot be a name cannot be made; it stays for the audit to tell.
    if (!isHere || segments.length !== 1 || !isName(segments[0])) return { at: path, asset: null };
    const id = segments[0];
    const known = this.placed.get(id);
    if (known !== undefined) {
      this.need('placement', id, '', []);
      if (!this.index.assetAt.has(known)) this.need('asset', known, '', []);
      return { at: id, asset: known };
    }
    const stem = stemOf(id);
    const key = needKey('placement', id);
    const slips = this.needs.has(key) ? [] : this.slipsOf(stem);
    const use = this.need(
      'placement',
      id,
      '',
      slips.map((s) => s + id.slice(stem.length)),
    );
    if (use !== null && again < MOST_AGAIN) return this.thing(use, again + 1);
    // As long as nobody knows what is meant, nothing is made for it.
    if (this.needs.get(key)?.isOpen === true) return { at: id, asset: null };
    const asset = this.assetOf(id);
    if (!this.index.assetAt.has(asset)) {
      this.need('asset', asset, '', []);
      this.alike.set(plain(asset), asset);
    }
    this.placed.set(id, asset);
    this.fresh.add(stem);
    return { at: id, asset };
  }
  /** Who writes a new name again and again means it. */
  private slipsOf(stem: string): string[] {
    if (this.stems.has(stem) || this.fresh.has(stem)) return [];
    const isMeant = (this.counts.get(stem) ?? 0) >= MEANT;
    return this.spelling.of(stem, isMeant ? this.stems : [...this.stems, ...this.fresh]);
  }
  /** The asset of what is to be placed: the one that somebody says, that of its siblings, one that is called alike, or a new one. */
  private assetOf(id: string): string {
    const text = this.wishes.get(needKey('placement', id))?.text;
    const read = text === undefined ? null : parsePlacement(text);
    if (read && 'value' in read && isName(read.value.asset)) return read.value.asset;
    const stem = stemOf(id);
    const name = nameFromText(stem.replace(/[-_]+/g, ' '), 'prefab');
    // A word alone stays as it is typed, and a prefab begins large.
    const own = name === '' ? 'Thing' : name[0].toUpperCase() + name.slice(1);
    return this.siblings.get(stem) ?? this.alike.get(plain(stem)) ?? own;
  }
  /** The asset of "every Lamp"; null as long as it is not known what is meant. */
  private selected(id: string, again = 0): string | null {
    if (this.index.assetAt.has(id)) return id;
    if (!isName(id)) return null;
    const key = needKey('asset', id);
    const near = this.needs.has(key) ? [] : this.spelling.of(id, this.alike.values());
    const use = this.need('asset', id, '', near);
    if (use !== null && again < MOST_AGAIN) return this.selected(use, again + 1);
    if (this.needs.get(key)?.isOpen === true) return null;
    this.alike.set(plain(id), id);
    return id;
  }
  private channel(name: string, again = 0): string {
    if (this.index.channelAt.has(name) || !isName(name)) return name;
    const known = [...this.index.channelAt.keys(), ...this.named('channel', '')];
    const near = this.needs.has(needKey('channel', name)) ? [] : this.spelling.of(name, known);
    const use = this.need('channel', name, '', near);
    return use === null || again === MOST_AGAIN ? name : this.channel(use, again + 1);
  }
  private declared(kind: 'event' | 'action', asset: string, name: string, again = 0): string {
    const of = this.index.assets[this.index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
    const at = kind === 'event' ? of?.eventAt : of?.actionAt;
    if (at?.has(name) || !isName(name)) return name;
    const isKnown = this.needs.has(needKey(kind, name, asset));
    const near = isKnown ? [] : this.spelling.of(name, [...(at?.keys() ?? []), ...this.named(kind, asset)]);
    const use = this.need(kind, name, asset, near);
    return use === null || again === MOST_AGAIN ? name : this.declared(kind, asset, use, again + 1);
  }
  private property(asset: string, name: string, isKey: boolean, again = 0): string {
    const of = this.index.assets[this.index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
    if (of?.propertyAt.has(name) || !isName(name)) return name;
    const key = needKey('property', name, asset);
    const known = this.properties.get(key);
    const near = known
      ? []
      : this.spelling.of(name, [...(of?.propertyAt.keys() ?? []), ...this.named('property', asset)]);
    const use = this.need('property', name, asset, near);
    if (use !== null && again < MOST_AGAIN) return this.property(asset, use, isKey, again + 1);
    if (known) known.isKey ||= isKey;
    else this.properties.set(key, { slot: this.propertySlot(asset, name), isKey });
    return name;
  }

  private args(
    args: Readonly<Record<string, Arg>>,
    from: string | null,
    to: string | null,
    reader: string | null,
  ): void {
    const said = to === null ? null : this.saidOf(to);
    if (said) said.uses++;
    for (const [name, arg] of Object.entries(args)) {
      const slot = to === null ? null : this.fieldSlot(to, name, true);
      const put = slot ?? this.slots.slot(`lost/${this.line}/${name}`, name);
      if (isLiteral(arg)) this.slots.holds(put, arg);
      else if ('sender' in arg) this.slots.is(put, 'instance');
      else {
        if (arg.as === 'string') this.slots.is(put, 'string');
        const read =
          'payload' in arg
            ? from === null
              ? null
              : this.fieldSlot(from, arg.payload, false)
            : reader === null
              ? null
              : this.propertySlot(reader, this.property(reader, arg.property, false));
        if (read !== null && arg.as !== 'string') this.slots.joins(put, read);
      }
    }
  }
  private condition(c: Condition, from: string | null, reader: string | null): void {
    if ('payload' in c) {
      if (from !== null) this.slots.asks(this.fieldSlot(from, c.payload, false), c.is);
    } else if (reader !== null) {
      this.slots.asks(this.propertySlot(reader, this.property(reader, c.property, false)), c.is);
    }
  }
  private keyExpr(key: KeyExpr | undefined, reader: string | null): void {
    if (key === undefined || isLiteral(key) || reader === null) return;
    // Keys are mostly names.
    this.slots.guess(this.propertySlot(reader, this.property(reader, key.property, true)), 'string');
  }

  /** What lines say of something that is to be declared; null for what is there. */
  private saidOf(key: string): Said | null {
    if (!this.needs.has(key)) return null;
    let said = this.said.get(key);
    if (!said) this.said.set(key, (said = { fields: new Map(), uses: 0 }));
    return said;
  }
  /** The slot of a field of an event, an action or a channel, declared or to be declared. */
  private fieldSlot(of: string, name: string, isGiven: boolean): number {
    const said = this.saidOf(of);
    const slot = this.slots.slot(
      `${of}.${name}`,
      name,
      said ? null : (this.fieldsOf(of)?.find((f) => f.name === name)?.type ?? null),
    );
    if (said) {
      const use = said.fields.get(name);
      if (!use) said.fields.set(name, { slot, uses: isGiven ? 1 : 0 });
      else if (isGiven) use.uses++;
    }
    return slot;
  }
  private propertySlot(asset: string, name: string): number {
    const of = this.index.assets[this.index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
    const at = of?.propertyAt.get(name);
    return this.slots.slot(
      `property:${asset}.${name}`,
      name,
      at === undefined ? null : of!.properties[at].type,
    );
  }
  private fieldsOf(key: string): readonly Field[] | undefined {
    const { index } = this;
    const [kind, rest] = [key.slice(0, key.indexOf(':')), key.slice(key.indexOf(':') + 1)];
    if (kind === 'channel') return index.project.channels?.[index.channelAt.get(rest) ?? -1]?.payload;
    const slash = rest.indexOf('/');
    const asset = index.assets[index.assetAt.get(rest.slice(0, slash)) ?? -1] as AssetIndex | undefined;
    const name = rest.slice(slash + 1);
    if (kind === 'event') return asset?.events[asset.eventAt.get(name) ?? -1]?.payload;
    return asset?.actions[asset.actionAt.get(name) ?? -1]?.params;
  }

  /** Names that are to be declared already. */
  private readonly names = new Map<string, string[]>();
  private named(kind: NeedKind, of: string): readonly string[] {
    return this.names.get(`${kind}:${of}`) ?? [];
  }
  /** Notes that something is needed. The name that was meant instead, if somebody said one. */
  private need(kind: NeedKind, name: string, of: string, near: readonly string[]): string | null {
    const key = needKey(kind, name, of);
    const wish = this.wishes.get(key);
    if (wish?.use !== undefined && wish.use !== name) return wish.use;
    const known = this.needs.get(key);
    if (known) {
      if (known.lines.at(-1) !== this.line) known.lines.push(this.line);
      return null;
    }
    const isOpen = near.length > 0 && wish?.make !== true && wish?.text === undefined;
    this.needs.set(key, { key, kind, of, name, lines: [this.line], near, isOpen, text: '', fault: null });
    const list = this.names.get(`${kind}:${of}`);
    if (list) list.push(name);
    else this.names.set(`${kind}:${of}`, [name]);
    return null;
  }

  private canHold(kind: Placed): boolean {
    return kind !== 'scene' && (this.owner.decl.kind !== 'widget' || kind === 'widget');
  }
}
type Placed = AssetIndex['decl']['kind'];

function plain(name: string): string {
  return name.replace(/[-_]/g, '').toLowerCase();
}
