import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type {
  Action,
  Arg,
  Asset,
  Binding,
  Effect,
  EventDecl,
  Field,
  KeyExpr,
  Placement,
  Project,
  Property,
  Step,
  Type,
} from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { AssetRenames, Rename, Renames } from './renames.js';

/** What an earlier asset would be if everything had had its later name. What no name touches is the very same. */
interface Carried {
  asset: Asset;
  /** For each rename how many bindings name it. */
  uses: Map<Rename, number>;
}

/** Reads earlier declarations with later names. */
export class Carrier {
  /** Renames that the thing that is being read uses. */
  private hits = new Set<Rename>();
  private readonly none: boolean;

  constructor(
    private readonly before: ProjectIndex,
    private readonly renames: Renames,
  ) {
    const { asset, channel, enum: enums, table, inside } = renames;
    this.none = asset.size + channel.size + enums.size + table.size + inside.size === 0;
  }

  /** The whole project; `uses` counts for each rename the bindings that name it. Linear, but for the paths of bindings. */
  project(uses = new Map<Rename, number>()): Project {
    const { project, assets } = this.before;
    if (this.none) return project;
    const next: Project = { ...project };
    next.assets = assets.map((asset) => {
      const carried = this.asset(asset);
      for (const [rename, n] of carried.uses) uses.set(rename, (uses.get(rename) ?? 0) + n);
      return carried.asset;
    });
    if (project.channels) {
      next.channels = each(project.channels, (c) => ({
        ...c,
        name: this.name(this.renames.channel, c.name),
        ...(c.payload ? { payload: this.fields(c.payload) } : {}),
      }));
    }
    if (project.enums) {
      next.enums = each(project.enums, (e) => ({ ...e, name: this.name(this.renames.enum, e.name) }));
    }
    if (project.tables) {
      next.tables = each(project.tables, (t) => ({ ...t, name: this.name(this.renames.table, t.name) }));
    }
    if (project.loadSets) {
      next.loadSets = each(project.loadSets, (s) => ({
        ...s,
        scenes: s.scenes.map((id) => this.assetName(id)),
      }));
    }
    if (project.rehearsals) {
      next.rehearsals = each(project.rehearsals, (r) => ({ ...r, steps: r.steps.map((s) => this.step(s)) }));
    }
    return next;
  }

  /** Cost: the asset, and the paths of its bindings. */
  private asset(owner: AssetIndex): Carried {
    const uses = new Map<Rename, number>();
    const { decl } = owner;
    if (this.none) return { asset: decl, uses };
    const own = this.renames.inside.get(decl.id);
    const next: Asset = { ...decl, id: this.name(this.renames.asset, decl.id) };
    if (decl.properties) next.properties = each(decl.properties, (p) => this.property(p, own));
    if (decl.events) next.events = each(decl.events, (e) => this.event(e, own));
    if (decl.actions) next.actions = each(decl.actions, (a) => this.action(a, own));
    if (decl.placements) next.placements = each(decl.placements, (p) => this.placement(p, own));
    if (decl.bindings) {
      next.bindings = each(decl.bindings, (b) => {
        this.hits.clear();
        const carried = this.binding(owner, b);
        for (const hit of this.hits) uses.set(hit, (uses.get(hit) ?? 0) + 1);
        return carried;
      });
    }
    return { asset: next, uses };
  }
  private fields<T extends readonly Field[] | undefined>(fields: T): T {
    if (!fields) return fields;
    return each(fields, (f) => {
      const type = this.type(f.type);
      return type === f.type ? f : { ...f, type };
    }) as unknown as T;
  }
  private step(step: Step): Step {
    if ('publish' in step) {
      const channel = this.name(this.renames.channel, step.publish.channel);
      return { ...step, publish: { ...step.publish, channel } };
    }
    if ('raise' in step) {
      const { at, asset } = this.path(null, step.raise.at);
      const { event, activator } = step.raise;
      const raise = { ...step.raise, at, event: this.inside(asset, 'event', event) };
      if (activator !== undefined) raise.activator = this.name(this.renames.asset, activator);
      return { ...step, raise };
    }
    if (!('expect' in step)) return step;
    const { at, asset } = this.path(null, step.expect.at);
    const expect = { ...step.expect, at };
    if ('property' in expect) expect.property = this.inside(asset, 'property', expect.property);
    if ('action' in expect) expect.action = this.inside(asset, 'action', expect.action);
    return { ...step, expect };
  }
  private assetName(id: string): string {
    return this.name(this.renames.asset, id);
  }

  private name(names: ReadonlyMap<string, Rename> | undefined, name: string): string {
    const rename = names?.get(name);
    if (!rename) return name;
    this.hits.add(rename);
    return rename.to;
  }
  private inside(asset: AssetIndex | null, kind: keyof AssetRenames, name: string): string {
    return asset ? this.name(this.renames.inside.get(asset.decl.id)?.[kind], name) : name;
  }
  private type(type: Type): Type {
    if (type.startsWith('enum:')) return `enum:${this.name(this.renames.enum, type.slice(5))}`;
    return type.startsWith('key:') ? `key:${this.name(this.renames.table, type.slice(4))}` : type;
  }

  /** A path with later names, and the asset that it leads to. The owner is null for an address, which begins with a scene. */
  private path(owner: AssetIndex | null, path: string): { at: string; asset: AssetIndex | null } {
    const { scene, segments } = parsePath(path);
    const { before } = this;
    let asset = scene === null ? owner : this.assetOf(scene);
    const written = segments.map((segment) => {
      if (!segment.startsWith('~')) {
        const renamed = this.inside(asset, 'placement', segment);
        const slot = asset?.placementAt.get(segment);
        asset = slot === undefined ? null : (before.assets[asset!.placed[slot]] ?? null);
        return renamed;
      }
      const [, id, number] = /^~([^#]*)(.*)$/.exec(segment)!;
      asset = this.assetOf(id);
      return `~${this.assetName(id)}${number}`;
    });
    const rest = segments.length === 0 ? '.' : written.join('/');
    return { at: scene === null ? rest : `${this.assetName(scene)}:${rest}`, asset };
  }
  private assetOf(id: string): AssetIndex | null {
    return this.before.assets[this.before.assetAt.get(id) ?? -1] ?? null;
  }

  private binding(owner: AssetIndex, binding: Binding): Binding {
    const next: Binding = { ...binding };
    let reader: AssetIndex | null = owner;
    if ('at' in binding.from) {
      const { at, asset } = this.path(owner, binding.from.at);
      reader = asset;
      next.from = { ...binding.from, at, event: this.inside(asset, 'event', binding.from.event) };
    }
    let receiver: AssetIndex | null = null;
    const { to } = binding;
    if ('channel' in to) {
      next.to = { ...to, channel: this.name(this.renames.channel, to.channel) };
      if (to.key !== undefined) next.to.key = this.key(to.key, reader);
    } else if ('at' in to) {
      const { at, asset } = this.path(owner, to.at);
      receiver = asset;
      next.to = { ...to, at, action: this.inside(asset, 'action', to.action) };
    } else {
      receiver = this.assetOf(to.every);
      next.to = {
        ...to,
        every: this.assetName(to.every),
        action: this.inside(receiver, 'action', to.action),
      };
      if (to.match !== undefined && to.match !== 'all') {
        const property = this.inside(receiver, 'property', to.match.property);
        next.to.match = { property, equals: this.key(to.match.equals, reader) };
      }
    }
    if ('channel' in binding.from) {
      const { channel, key } = binding.from;
      next.from = { ...binding.from, channel: this.name(this.renames.channel, channel) };
      if (key !== undefined) next.from.key = this.key(key, receiver);
    }
    if (binding.args) next.args = this.args(binding.args, reader);
    return this.hits.size === 0 ? binding : next;
  }
  private key(key: KeyExpr, reader: AssetIndex | null): KeyExpr {
    return isLiteral(key) ? key : { ...key, property: this.inside(reader, 'property', key.property) };
  }
  private args(args: Readonly<Record<string, Arg>>, reader: AssetIndex | null): Record<string, Arg> {
    return mapValues(args, (arg) =>
      isLiteral(arg) || !('property' in arg)
        ? arg
        : { ...arg, property: this.inside(reader, 'property', arg.property) },
    );
  }

  private property(p: Property, own: AssetRenames | undefined): Property {
    return { ...p, name: this.name(own?.property, p.name), type: this.type(p.type) };
  }
  private event(e: EventDecl, own: AssetRenames | undefined): EventDecl {
    const next = { ...e, name: this.name(own?.event, e.name) };
    if (e.payload) next.payload = this.fields(e.payload);
    if (e.cause.type === 'change') {
      next.cause = { ...e.cause, property: this.name(own?.property, e.cause.property) };
    } else if ('activators' in e.cause && e.cause.activators) {
      next.cause = { ...e.cause, activators: e.cause.activators.map((a) => this.assetName(a)) };
    }
    return next;
  }
  private action(a: Action, own: AssetRenames | undefined): Action {
    const next = { ...a, name: this.name(own?.action, a.name) };
    if (a.params) next.params = this.fields(a.params);
    if (a.effects) next.effects = a.effects.map((e) => this.effect(e, own));
    return next;
  }
  private effect(effect: Effect, own: AssetRenames | undefined): Effect {
    const property = (name: string): string => this.name(own?.property, name);
    const next = { ...effect };
    if (next.when) next.when = { ...next.when, property: property(next.when.property) };
    if ('set' in next) next.set = property(next.set);
    else if ('toggle' in next) next.toggle = property(next.toggle);
    else if ('add' in next) next.add = property(next.add);
    else if ('raise' in next) {
      next.raise = this.name(own?.event, next.raise);
      if (next.payload) {
        next.payload = mapValues(next.payload, (arg) =>
          isLiteral(arg) || !('property' in arg) ? arg : { ...arg, property: property(arg.property) },
        );
      }
    } else if ('spawn' in next) {
      const names = this.renames.inside.get(next.spawn)?.property;
      next.spawn = this.assetName(next.spawn);
      if (next.properties) next.properties = this.keys(next.properties, names);
    }
    return next;
  }
  private placement(p: Placement, own: AssetRenames | undefined): Placement {
    const next = { ...p, id: this.name(own?.placement, p.id), asset: this.assetName(p.asset) };
    if (p.properties) next.properties = this.keys(p.properties, this.renames.inside.get(p.asset)?.property);
    return next;
  }
  private keys<T>(
    record: Readonly<Record<string, T>>,
    names: ReadonlyMap<string, Rename> | undefined,
  ): Record<string, T> {
    return Object.fromEntries(Object.entries(record).map(([k, v]) => [this.name(names, k), v]));
  }
}

function each<T>(list: readonly T[], change: (item: T) => T): T[] {
  return list.map(change);
}
function mapValues<T>(record: Readonly<Record<string, T>>, change: (value: T) => T): Record<string, T> {
  return Object.fromEntries(Object.entries(record).map(([k, v]) => [k, change(v)]));
}
