import {
  canonicalJson,
  type Action,
  type Arg,
  type Asked,
  type Asset,
  type Binding,
  type Effect,
  type Field,
  type Project,
  type Type,
  type Value,
} from '../src/index.js';
import type { Naive } from './naive.js';
import { isSound, possible, type Asking } from './naive-conditions.js';
import { effectText } from './naive-rehearsal/raising.js';

/**
 * A second reading of rules that need only what is written, for plainness alone: every path is walked by the names in
 * the document.
 */
export class NaiveTextRules {
  private readonly found = new Map<string, Set<string>>();
  private readonly assets: Map<string, Asset>;

  constructor(
    private readonly project: Project,
    private readonly n: Naive,
  ) {
    this.assets = new Map(project.assets.map((a) => [a.id, a]));
  }
  static readonly RULES = [
    'payload-mismatch',
    'dangling-effect',
    'never-true',
    'reaches-out',
    'unknown-asset',
    'dangling-name',
  ];

  run(): string[] {
    for (const asset of this.project.assets) {
      for (const b of asset.bindings ?? []) this.binding(asset, b);
      this.effects(asset);
      this.placements(asset);
      this.causes(asset);
    }
    const scenes = this.project.assets.filter((a) => a.kind === 'scene').map((a) => a.id);
    for (const { name: loadSet, scenes: named } of this.project.loadSets ?? []) {
      for (const name of named)
        if (!scenes.includes(name)) this.report('dangling-name', 'scene', { loadSet, name }, []);
    }
    return [...this.found].map(([k, at]) => `${k} ${[...at].sort().join(' ')}`).sort();
  }

  private report(rule: string, cls: string, subject: object, at: Iterable<string>): void {
    const key = `${rule}/${cls} ${canonicalJson(subject)}`;
    const set = this.found.get(key) ?? new Set();
    for (const a of at) set.add(a);
    this.found.set(key, set);
  }
  private copies(asset: Asset): string[] {
    return this.n.instances.filter((i) => i.asset.id === asset.id).map((i) => i.address);
  }

  private binding(owner: Asset, b: Binding): void {
    const all = this.n.instances.filter((i) => i.asset.id === owner.id);
    const unmuted = all.filter((i) => !i.muted.includes(b.id));
    if (b.enabled === false || (all.length > 0 && unmuted.length === 0)) return;
    const at = unmuted.map((i) => i.address);
    const subject = { asset: owner.id, binding: b.id };
    const paths = [b.from, b.to].flatMap((e) => ('at' in e ? [e.at] : []));
    if (owner.kind !== 'scene' && paths.some((p) => p.includes(':')))
      this.report('reaches-out', '', subject, at);
    this.asked(owner, b, at);
    const ends = this.ends(owner, b);
    if (!ends) return;
    if (!possible(this.questions(b, ends))) this.report('never-true', '', subject, at);
    const args = b.args ?? {};
    for (const p of ends.params) {
      if (!Object.hasOwn(args, p.name)) {
        if (!p.optional) this.report('payload-mismatch', '', { ...subject, param: p.name }, at);
      } else if (!this.fits(args[p.name], p.type, ends.payload, ends.reader)) {
        this.report('payload-mismatch', '', { ...subject, param: p.name }, at);
      }
    }
    for (const param of Object.keys(args)) {
      if (!ends.params.some((p) => p.name === param))
        this.report('payload-mismatch', '', { ...subject, param }, at);
    }
  }

  /** What a condition names must be there, where its source is; and its values must be of that type. */
  private asked(owner: Asset, { id, from, if: conditions = [] }: Binding, at: string[]): void {
    const sender = 'at' in from ? this.walk(owner, from.at) : owner;
    const channel = this.project.channels?.find((c) => 'channel' in from && c.name === from.channel);
    const event = sender?.events?.find((e) => 'event' in from && e.name === from.event);
    const source = 'channel' in from ? channel : event;
    for (const c of conditions) {
      const name = 'payload' in c ? c.payload : c.property;
      const known: { name: string; type: Type }[] | undefined =
        'payload' in c ? source && (source.payload ?? []) : sender ? (sender.properties ?? []) : undefined;
      const found = known?.find((f) => f.name === name);
      const subject = { asset: owner.id, binding: id, name };
      if (known && !found) this.report('dangling-name', 'condition', subject, at);
      if (found && !literalsIn(c.is, found.type).every((v) => this.literalFits(v, found.type)))
        this.report('dangling-name', 'value', subject, at);
    }
  }

  /** What a binding asks that can be asked at all. */
  private questions({ if: conditions = [] }: Binding, ends: { payload: Field[]; reader: Asset }): Asking[] {
    return conditions.flatMap((c): Asking[] => {
      const name = 'payload' in c ? c.payload : c.property;
      const field = 'payload' in c ? ends.payload.find((f) => f.name === name) : undefined;
      const property = 'payload' in c ? undefined : ends.reader.properties?.find((p) => p.name === name);
      const type = (field ?? property)?.type;
      if (type === undefined || !isSound(c.is, type)) return [];
      return [{ of: `${Object.keys(c)[0]} ${name}`, type, optional: field?.optional === true, is: c.is }];
    });
  }

  /** What flows over a binding both of whose ends are there; null if one is not. */
  private ends(
    owner: Asset,
    { from, to }: Binding,
  ): { payload: Field[]; params: Field[]; reader: Asset } | null {
    const channel = (name: string): Field[] | null => {
      const found = (this.project.channels ?? []).find((c) => c.name === name);
      return found ? (found.payload ?? []) : null;
    };
    const sender = 'at' in from ? this.walk(owner, from.at) : owner;
    if (!sender) return null;
    const event = 'event' in from ? sender.events?.find((e) => e.name === from.event) : undefined;
    const payload = 'channel' in from ? channel(from.channel) : event ? (event.payload ?? []) : null;
    const receiver = 'at' in to ? this.walk(owner, to.at) : 'every' in to ? this.assets.get(to.every) : null;
    const action = 'channel' in to ? undefined : receiver?.actions?.find((a) => a.name === to.action);
    const params = 'channel' in to ? channel(to.channel) : action ? (action.params ?? []) : null;
    if (!payload || !params) return null;
    const lacks = (asset: Asset | null | undefined, key: unknown): boolean =>
      typeof key === 'object' &&
      key !== null &&
      'property' in key &&
      !asset?.properties?.some((p) => p.name === key.property);
    if ('channel' in from && lacks(receiver, from.key)) return null;
    if ('channel' in to && lacks(sender, to.key)) return null;
    if ('every' in to && typeof to.match === 'object') {
      if (lacks(receiver, { property: to.match.property }) || lacks(sender, to.match.equals)) return null;
    }
    return { payload, params, reader: sender };
  }

  /** The asset that a path names when it is walked by name alone; null if it leads nowhere, or into what yields nothing. */
  private walk(owner: Asset, path: string): Asset | null {
    let [at, rest] = [owner as Asset | undefined, path];
    if (path.includes(':')) {
      const scene = path.slice(0, path.indexOf(':'));
      rest = path.slice(path.indexOf(':') + 1);
      at = this.project.assets.find((a) => a.kind === 'scene' && a.id === scene);
    }
    let containing = at ? [at.id] : [];
    for (const segment of rest === '.' ? [] : rest.split('/')) {
      if (!at) return null;
      if (segment.startsWith('~')) {
        const id = segment.slice(1);
        at = this.spawnedBy(at).has(id) ? this.assets.get(id) : undefined;
        containing = [id];
      } else {
        const id: string | undefined = at.placements?.find((p) => p.id === segment)?.asset;
        at = id === undefined || containing.includes(id) ? undefined : this.assets.get(id);
        if (at?.kind === 'scene') return null;
        containing.push(id ?? '');
      }
    }
    return at ?? null;
  }
  /** Everything that is spawned under an asset: by itself, and by what is spawned and what that contains. */
  private spawnedBy(asset: Asset): Set<string> {
    const spawned = new Set<string>();
    const looked = new Set<string>();
    const look = (a: Asset): void => {
      for (const effect of (a.actions ?? []).flatMap((x) => x.effects ?? [])) {
        if (!('spawn' in effect)) continue;
        const made = this.assets.get(effect.spawn);
        if (!made || made.kind === 'scene' || spawned.has(made.id)) continue;
        spawned.add(made.id);
        inside(made);
      }
    };
    const inside = (a: Asset): void => {
      if (looked.has(a.id)) return;
      looked.add(a.id);
      look(a);
      for (const p of a.placements ?? []) {
        const placed = this.assets.get(p.asset);
        if (placed && placed.kind !== 'scene') inside(placed);
      }
    };
    look(asset);
    return spawned;
  }

  private fits(arg: Arg, wanted: Type, payload: Field[], reader: Asset): boolean {
    if (typeof arg !== 'object' || Array.isArray(arg)) return this.literalFits(arg, wanted);
    if ('sender' in arg) return wanted === 'instance';
    const found =
      'payload' in arg
        ? payload.find((f) => f.name === arg.payload)?.type
        : reader.properties?.find((p) => p.name === arg.property)?.type;
    if (found === undefined) return false;
    if (arg.as === 'string') return wanted === 'string';
    return found === wanted || (found === 'int' && wanted === 'float');
  }
  private literalFits(value: Value, wanted: Type): boolean {
    if (wanted === 'bool') return typeof value === 'boolean';
    if (wanted === 'int') return Number.isInteger(value);
    if (wanted === 'float') return typeof value === 'number';
    if (wanted === 'vec2') return Array.isArray(value);
    if (typeof value !== 'string') return false;
    const declared = (this.project.enums ?? []).find((e) => wanted === `enum:${e.name}`);
    return declared ? declared.values.includes(value) : true;
  }

  private effects(asset: Asset): void {
    for (const action of asset.actions ?? []) {
      for (const effect of action.effects ?? []) {
        const names: [string | undefined, string[]][] = [
          [
            effect.when && 'property' in effect.when ? effect.when.property : undefined,
            (asset.properties ?? []).map((p) => p.name),
          ],
          [
            effect.when && 'param' in effect.when ? effect.when.param : undefined,
            (action.params ?? []).map((p) => p.name),
          ],
          [
            'set' in effect
              ? effect.set
              : 'toggle' in effect
                ? effect.toggle
                : 'add' in effect
                  ? effect.add
                  : undefined,
            (asset.properties ?? []).map((p) => p.name),
          ],
          ['raise' in effect ? effect.raise : undefined, (asset.events ?? []).map((e) => e.name)],
          [
            'spawn' in effect ? effect.spawn : undefined,
            this.project.assets.filter((a) => a.kind !== 'scene').map((a) => a.id),
          ],
        ];
        if (names.some(([name, known]) => name !== undefined && !known.includes(name))) {
          this.report('dangling-effect', '', { asset: asset.id, action: action.name }, this.copies(asset));
        }
        if ('raise' in effect) this.raised(asset, action.name, action.params ?? [], effect.raise);
        this.guard(asset, action, effect);
        if ('set' in effect && (typeof effect.to !== 'object' || Array.isArray(effect.to))) {
          const type = asset.properties?.find((p) => p.name === effect.set)?.type;
          if (type && !this.literalFits(effect.to, type)) {
            const subject = { asset: asset.id, action: action.name, effect: `set:${effect.set}` };
            this.report('dangling-name', 'value', subject, this.copies(asset));
          }
        }
      }
    }
    for (const p of asset.properties ?? []) {
      if (this.literalFits(p.default, p.type)) continue;
      const at = this.n.instances.filter(
        (i) => i.asset.id === asset.id && !Object.hasOwn(i.overrides, p.name),
      );
      this.report(
        'dangling-name',
        'value',
        { asset: asset.id, property: p.name },
        at.map((i) => i.address),
      );
    }
  }
  /** What a `when` asks must be of the type of what it asks; more or less is asked of numbers alone. */
  private guard(asset: Asset, action: Action, effect: Effect): void {
    const { when } = effect;
    if (!when) return;
    const type =
      'property' in when
        ? asset.properties?.find((p) => p.name === when.property)?.type
        : action.params?.find((p) => p.name === when.param)?.type;
    if (type === undefined) return;
    const literals = literalsIn(when.is, type);
    const param = 'param' in when ? action.params?.find((p) => p.name === when.param) : undefined;
    const asking = { of: '', type, optional: param?.optional === true, is: when.is };
    if (isSound(when.is, type) && !possible([asking])) {
      const subject = { asset: asset.id, action: action.name, effect: effectText(effect) };
      this.report('never-true', '', subject, this.copies(asset));
    }
    if (literals.every((v) => this.literalFits(v, type))) return;
    const subject = { asset: asset.id, action: action.name, effect: effectText(effect) };
    this.report('dangling-name', 'value', subject, this.copies(asset));
  }
  /** An effect that raises gives no payload in these projects, so every field that must be there is missing. */
  private raised(asset: Asset, action: string, _params: Field[], raise: string): void {
    const event = asset.events?.find((e) => e.name === raise);
    for (const f of event?.payload ?? []) {
      if (f.optional) continue;
      this.report('payload-mismatch', '', { asset: asset.id, action, param: f.name }, this.copies(asset));
    }
  }

  private placements(owner: Asset): void {
    const peers = (this.project.peers ?? []).map((p) => p.name);
    for (const p of owner.placements ?? []) {
      const subject = { asset: owner.id, placement: p.id };
      const placed = this.assets.get(p.asset);
      if (!placed || placed.kind === 'scene') {
        const at = this.copies(owner).map((a) =>
          a.endsWith(':.') ? `${a.slice(0, -1)}${p.id}` : `${a}/${p.id}`,
        );
        this.report('unknown-asset', '', subject, at);
      }
      const at = this.n.instances
        .filter((i) => i.parent?.asset.id === owner.id && i.parent.children.get(p.id) === i)
        .map((i) => i.address);
      if (placed && placed.kind !== 'scene') {
        for (const name of p.muted ?? []) {
          if (placed.bindings?.some((b) => b.id === name)) continue;
          this.report('dangling-name', 'muted', { ...subject, name }, at);
        }
        for (const [name, value] of Object.entries(p.properties ?? {})) {
          const type = placed.properties?.find((x) => x.name === name)?.type;
          const own = { ...subject, property: name };
          if (!type) this.report('dangling-name', 'override', own, at);
          else if (!this.literalFits(value, type)) this.report('dangling-name', 'value', own, at);
        }
        for (const [path, values] of Object.entries(p.inside ?? {})) {
          let inner: Asset | undefined = placed;
          for (const segment of path.split('/')) {
            const id: string | undefined = inner?.placements?.find((q) => q.id === segment)?.asset;
            inner = id === undefined ? undefined : this.assets.get(id);
            if (inner?.kind === 'scene') inner = undefined;
          }
          if (!inner) {
            this.report('dangling-name', 'override', { ...subject, name: path }, at);
            continue;
          }
          for (const [name, value] of Object.entries(values)) {
            const type = inner.properties?.find((x) => x.name === name)?.type;
            const own = { ...subject, property: `${path}.${name}` };
            if (!type) this.report('dangling-name', 'override', own, at);
            else if (!this.literalFits(value, type)) this.report('dangling-name', 'value', own, at);
          }
        }
      }
      for (const name of peers.length > 0 ? [p.authority, p.operator] : []) {
        if (name !== undefined && !peers.includes(name)) {
          this.report('dangling-name', 'peer', { ...subject, name }, at);
        }
      }
    }
    for (const b of owner.bindings ?? []) this.match(owner, b);
  }
  private match(owner: Asset, b: Binding): void {
    const { to } = b;
    if (b.enabled === false || !('every' in to) || typeof to.match !== 'object') return;
    const { property, equals } = to.match;
    if (typeof equals === 'object' && !Array.isArray(equals)) return;
    const type = this.assets.get(to.every)?.properties?.find((p) => p.name === property)?.type;
    if (!type || this.literalFits(equals, type)) return;
    const all = this.n.instances.filter((i) => i.asset.id === owner.id);
    const unmuted = all.filter((i) => !i.muted.includes(b.id));
    if (all.length > 0 && unmuted.length === 0) return;
    const subject = { asset: owner.id, binding: b.id };
    this.report(
      'dangling-name',
      'value',
      subject,
      unmuted.map((i) => i.address),
    );
  }

  private causes(asset: Asset): void {
    for (const { name: event, cause } of asset.events ?? []) {
      if (cause.type === 'change' && !asset.properties?.some((p) => p.name === cause.property)) {
        const subject = { asset: asset.id, event, name: cause.property };
        this.report('dangling-name', 'property', subject, this.copies(asset));
      }
      const list = ('activators' in cause && cause.activators) || [];
      const matches = (entry: string): boolean =>
        entry.startsWith('#')
          ? this.project.assets.some((a) => a.tags?.includes(entry.slice(1)))
          : this.assets.has(entry);
      if (!list.some(matches)) continue;
      for (const name of list) {
        if (!matches(name)) {
          this.report('dangling-name', 'activator', { asset: asset.id, event, name }, this.copies(asset));
        }
      }
    }
  }
}

/** The literals that must be of a type where it is asked; an order is for numbers alone. */
function literalsIn(is: Asked, type: Type): Value[] {
  if (typeof is !== 'object' || Array.isArray(is)) return [is];
  if ('not' in is) return [is.not];
  if ('oneOf' in is) return is.oneOf;
  return type === 'int' || type === 'float' ? [] : [Object.values<number>(is)[0]];
}
