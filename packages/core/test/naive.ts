import type { Asset, Binding, Effect, EventDecl, KeyExpr, Project, Value } from '../src/index.js';
import { canonicalJson, isLiteral } from '../src/index.js';
import type { NaiveEdge, NaiveEnds, NaiveInstance } from './naive-types.js';

export type { NaiveEdge, NaiveEnds, NaiveInstance } from './naive-types.js';

/**
 * A second reading of the format's rules of meaning, written for plainness alone: objects, recursion and searches,
 * nothing shared with the core. Random projects are expanded by both.
 */
export class Naive {
  readonly instances: NaiveInstance[] = [];
  readonly scenes = new Map<string, NaiveInstance>();

  constructor(readonly project: Project) {
    for (const asset of project.assets) {
      if (asset.kind !== 'scene') continue;
      this.scenes.set(asset.id, this.make(asset, null, `${asset.id}:`, false, {}, [], false, []));
    }
  }
  asset(id: string): Asset | undefined {
    return this.project.assets.find((a) => a.id === id);
  }

  private make(
    asset: Asset,
    parent: NaiveInstance | null,
    address: string,
    spawned: boolean,
    overrides: Record<string, Value>,
    muted: string[],
    asleep: boolean,
    containing: string[],
  ): NaiveInstance {
    const instance: NaiveInstance = {
      address: address.endsWith(':') ? `${address}.` : address,
      asset,
      parent,
      children: new Map(),
      standIns: new Map(),
      spawned,
      asleep,
      overrides,
      muted,
    };
    this.instances.push(instance);
    const base = address.endsWith(':') ? address : `${address}/`;
    for (const p of asset.placements ?? []) {
      const placed = this.asset(p.asset);
      if (!placed || placed.kind === 'scene' || [...containing, asset.id].includes(placed.id)) {
        instance.children.set(p.id, 'stopped');
        continue;
      }
      const child = this.make(
        placed,
        instance,
        base + p.id,
        spawned,
        p.properties ?? {},
        p.muted ?? [],
        asleep || p.asleep === true,
        [...containing, asset.id],
      );
      instance.children.set(p.id, child);
      // What stands around comes later, and so counts.
      for (const [path, values] of Object.entries(p.inside ?? {})) {
        let at: NaiveInstance | 'stopped' | undefined = child;
        for (const name of path.split('/')) at = at === 'stopped' ? undefined : at?.children.get(name);
        if (at && at !== 'stopped') at.overrides = { ...at.overrides, ...values };
      }
    }
    if (!spawned) this.makeStandIns(instance, base);
    return instance;
  }

  private makeStandIns(holder: NaiveInstance, base: string): void {
    const order: { id: string; effect: Effect & { spawn: string }; by: () => NaiveInstance }[] = [];
    const scan = (asset: Asset, by: () => NaiveInstance): void => {
      for (const effect of effectsOf(asset)) {
        if (!('spawn' in effect) || order.some((o) => o.id === effect.spawn)) continue;
        const spawnedAsset = this.asset(effect.spawn);
        if (spawnedAsset && spawnedAsset.kind !== 'scene') order.push({ id: effect.spawn, effect, by });
      }
    };
    const scanInside = (asset: Asset, containing: string[], by: () => NaiveInstance): void => {
      scan(asset, by);
      for (const p of asset.placements ?? []) {
        const placed = this.asset(p.asset);
        if (placed && placed.kind !== 'scene' && ![...containing, asset.id].includes(placed.id)) {
          scanInside(placed, [...containing, asset.id], () => by().children.get(p.id) as NaiveInstance);
        }
      }
    };
    scan(holder.asset, () => holder);
    for (let i = 0; i < order.length; i++) {
      const { id } = order[i];
      scanInside(this.asset(id)!, [], () => holder.standIns.get(id)!);
    }
    for (const { id, effect, by } of order) {
      const overrides = 'properties' in effect ? (effect.properties ?? {}) : {};
      const standIn = this.make(this.asset(id)!, holder, `${base}~${id}`, true, overrides, [], false, []);
      standIn.spawner = by();
      holder.standIns.set(id, standIn);
    }
  }

  holderOf(i: NaiveInstance): NaiveInstance {
    return i.spawned ? this.holderOf(i.parent!) : i;
  }
  /** What an instance contains, itself included. */
  inside(i: NaiveInstance): NaiveInstance[] {
    return [i, ...[...i.children.values()].flatMap((c) => (c === 'stopped' ? [] : this.inside(c)))];
  }
  value(i: NaiveInstance, property: string): Value | undefined {
    const declared = i.asset.properties?.find((p) => p.name === property);
    if (!declared) return undefined;
    return Object.hasOwn(i.overrides, property) ? i.overrides[property] : declared.default;
  }

  resolve(owner: NaiveInstance, path: string): NaiveInstance | 'missing' | 'stopped' {
    let [at, rest]: [NaiveInstance | undefined, string] = [owner, path];
    if (path.includes(':')) {
      at = this.scenes.get(path.split(':')[0]);
      rest = path.split(':').slice(1).join(':');
    }
    if (!at) return 'missing';
    if (rest === '.') return at;
    for (const segment of rest.split('/')) {
      const next: NaiveInstance | 'stopped' | undefined = segment.startsWith('~')
        ? this.holderOf(at).standIns.get(segment.slice(1))
        : at.children.get(segment);
      if (!next) return 'missing';
      if (next === 'stopped') return 'stopped';
      at = next;
    }
    return at;
  }

  /** All edges as texts, in no particular order. */
  edges(): NaiveEdge[] {
    const edges: NaiveEdge[] = [];
    const hearings: Hearing[] = [];
    const channelNodes = new Set<string>();
    for (const owner of this.instances) {
      for (const b of owner.asset.bindings ?? []) {
        if (b.enabled === false || owner.muted.includes(b.id)) continue;
        this.addBinding(owner, b, edges, hearings, channelNodes);
      }
    }
    for (const h of hearings) {
      const all = [...channelNodes].filter((n) => n.startsWith(`#${h.channel}[`));
      const at = h.key === undefined ? all : [channelNode(h.channel, h.key)];
      for (const tail of at) edges.push({ tail, head: h.head, kind: 'hear', class: h.cls, by: h.by });
    }
    for (const i of this.instances) {
      for (const action of i.asset.actions ?? []) {
        for (const effect of action.effects ?? []) this.addEffect(i, action.name, effect, edges);
      }
    }
    return edges;
  }

  /** What a copy of a binding joins; null where one of its ends is not there. */
  ends(owner: NaiveInstance, b: Binding): NaiveEnds | null {
    const channels = new Set((this.project.channels ?? []).map((c) => c.name));
    let reader = owner;
    let event: EventDecl | undefined;
    if ('channel' in b.from) {
      if (!channels.has(b.from.channel)) return null;
    } else {
      const sender = this.resolve(owner, b.from.at);
      if (typeof sender === 'string') return null;
      const { from } = b;
      event = sender.asset.events?.find((e) => 'event' in from && e.name === from.event);
      if (!event) return null;
      reader = sender;
    }
    const { to } = b;
    if ('channel' in to) {
      if (!channels.has(to.channel)) return null;
      const key = to.key === undefined ? undefined : this.keyValue(to.key, reader);
      return to.key !== undefined && key === undefined ? null : { reader, event, publishes: { key } };
    }
    let receivers: NaiveInstance[];
    let listener: Asset;
    let candidates: NaiveInstance[] = [];
    if ('every' in to) {
      const asset = this.asset(to.every);
      if (!asset?.actions?.some((a) => a.name === to.action)) return null;
      listener = asset;
      const selected = this.select(owner, reader, to, asset);
      if (!selected) return null;
      candidates = selected;
      receivers = to.pick === 'first' ? selected.slice(0, 1) : selected;
    } else {
      const receiver = this.resolve(owner, to.at);
      if (typeof receiver === 'string' || !receiver.asset.actions?.some((a) => a.name === to.action))
        return null;
      receivers = [receiver];
      listener = receiver.asset;
    }
    const key = 'channel' in b.from ? b.from.key : undefined;
    const lacks =
      key !== undefined && !isLiteral(key) && !listener.properties?.some((p) => p.name === key.property);
    return lacks ? null : { reader, event, receivers, candidates };
  }
  private keyValue(key: KeyExpr, of: NaiveInstance): Value | undefined {
    return isLiteral(key) ? key : this.value(of, key.property);
  }

  private addBinding(
    owner: NaiveInstance,
    b: Binding,
    edges: NaiveEdge[],
    hearings: Hearing[],
    channelNodes: Set<string>,
  ): void {
    const ends = this.ends(owner, b);
    if (!ends) return;
    const own =
      b.limit !== undefined && !owner.spawned
        ? 'limited'
        : (b.if ?? []).length > 0
          ? 'conditional'
          : (b.delay ?? 0) > 0
            ? 'delayed'
            : 'instant';
    const { reader, event, publishes, receivers = [] } = ends;
    const cls = event && limitedEvent(event, reader) ? 'limited' : own;
    const tail = event ? `${reader.address} ${event.name}` : '';
    const by = { owner, binding: b };
    if ('channel' in b.to) {
      const node = channelNode(b.to.channel, publishes!.key);
      channelNodes.add(node);
      edges.push({ tail, head: node, kind: 'publish', class: cls, by });
      return;
    }
    const { to, from } = b;
    if (!('channel' in from)) {
      for (const r of receivers)
        edges.push({ tail, head: `${r.address} ${to.action}`, kind: 'bind', class: cls, by });
      return;
    }
    const { channel, key } = from;
    if (key === undefined || isLiteral(key)) channelNodes.add(channelNode(channel, key));
    for (const r of receivers) {
      const value = key === undefined ? undefined : this.keyValue(key, r);
      channelNodes.add(channelNode(channel, value));
      hearings.push({ channel, key: value, head: `${r.address} ${to.action}`, cls: own, by });
    }
  }

  /** What a selection takes, or picks the first of; null if it cannot be made. */
  select(
    owner: NaiveInstance,
    reader: NaiveInstance,
    to: Extract<Binding['to'], { every: string }>,
    asset: Asset,
  ): NaiveInstance[] | null {
    const match = to.match === 'all' ? undefined : to.match;
    let wanted: Value | undefined;
    if (match) {
      if (!asset.properties?.some((p) => p.name === match.property)) return null;
      wanted = isLiteral(match.equals) ? match.equals : this.value(reader, match.equals.property);
      if (wanted === undefined) return null;
    }
    const base = owner.address.endsWith(':.') ? owner.address.slice(0, -1) : `${owner.address}/`;
    return this.instances.filter((i) => {
      if (i.asset.id !== asset.id) return false;
      const local = to.within !== 'project';
      if (local && (i === owner || !i.address.startsWith(base))) return false;
      const below = local ? i.address.slice(base.length) : i.address;
      if (to.spawned !== true && /(^|[/:])~/.test(below)) return false;
      return !match || canonicalJson(this.value(i, match.property)) === canonicalJson(wanted);
    });
  }

  private addEffect(i: NaiveInstance, action: string, effect: Effect, edges: NaiveEdge[]): void {
    const tail = `${i.address} ${action}`;
    const guarded = effect.when !== undefined || effect.everyNth !== undefined;
    const add = (to: NaiveInstance, e: EventDecl, kind: string, base: string, always = false): void => {
      const limited = always || (kind === 'raise' && limitedEvent(e, to));
      edges.push({ tail, head: `${to.address} ${e.name}`, kind, class: limited ? 'limited' : base, effect });
    };
    const events = (of: NaiveInstance, type: string): EventDecl[] =>
      (of.asset.events ?? []).filter((e) => e.cause.type === type);
    const plain = guarded ? 'conditional' : 'instant';
    if ('raise' in effect) {
      const e = i.asset.events?.find((x) => x.name === effect.raise);
      if (e) add(i, e, 'raise', guarded ? 'conditional' : (effect.delay ?? 0) > 0 ? 'delayed' : 'instant');
    } else if ('destroy' in effect) {
      for (const j of this.inside(i)) for (const e of events(j, 'destroyed')) add(j, e, 'raise', plain);
    } else if ('wake' in effect) {
      for (const j of this.inside(i))
        if (j.asleep) for (const e of events(j, 'start')) add(j, e, 'raise', plain, true);
    } else if ('spawn' in effect) {
      const standIn = this.holderOf(i).standIns.get(effect.spawn);
      if (standIn)
        for (const j of this.inside(standIn)) for (const e of events(j, 'start')) add(j, e, 'spawn', plain);
    } else if (!('sleep' in effect)) {
      const property = 'set' in effect ? effect.set : 'toggle' in effect ? effect.toggle : effect.add;
      if (!i.asset.properties?.some((p) => p.name === property)) return;
      const base = guarded || ('set' in effect && isLiteral(effect.to)) ? 'conditional' : 'instant';
      for (const e of events(i, 'change')) {
        if (e.cause.type === 'change' && e.cause.property === property) add(i, e, 'raise', base);
      }
    }
  }
}

interface Hearing {
  channel: string;
  key: Value | undefined;
  head: string;
  cls: string;
  by: { owner: NaiveInstance; binding: Binding };
}

function effectsOf(asset: Asset): Effect[] {
  return (asset.actions ?? []).flatMap((a) => a.effects ?? []);
}
function limitedEvent(e: EventDecl, of: NaiveInstance): boolean {
  return !of.spawned && (e.limit !== undefined || e.cause.type === 'destroyed');
}
export function channelNode(channel: string, key: Value | undefined): string {
  return `#${channel}[${key === undefined ? '' : canonicalJson(key)}]`;
}
