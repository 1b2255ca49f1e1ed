import { canonicalJson, type EventDecl, type Roles, type Value } from '../src/index.js';
import { isSound, possible, type Asking } from './naive-conditions.js';
import { answers } from './naive-rehearsal/world.js';
import type { Naive, NaiveEdge, NaiveInstance } from './naive.js';

/** A finding as a text: rule, class, subject, occurrences. */
type Found = Map<string, Set<string>>;

/**
 * A second reading of many rules, written for plainness alone over the plain expansion: searches instead of tables.
 * Random projects are audited by both.
 */
export class NaiveRules {
  readonly found: Found = new Map();
  private readonly edges: NaiveEdge[];
  private readonly out = new Map<string, NaiveEdge[]>();
  private readonly into = new Map<string, NaiveEdge[]>();
  private readonly at = new Map<string, NaiveInstance>();

  constructor(private readonly n: Naive) {
    this.edges = n.edges();
    for (const e of this.edges) {
      push(this.out, e.tail, e);
      push(this.into, e.head, e);
    }
    for (const i of n.instances) this.at.set(i.address, i);
  }

  run(): string[] {
    this.neverRaised();
    this.spawnGap();
    this.deadWiring();
    this.asleep();
    this.fanOut();
    this.tangle();
    this.keys();
    this.duplicates();
    this.unhandled();
    this.deliveries();
    this.areas();
    this.release();
    return [...this.found].map(([k, at]) => `${k} ${[...at].sort().join(' ')}`).sort();
  }
  static readonly RULES = [
    'never-raised',
    'spawn-gap',
    'dead-wiring',
    'asleep-receiver',
    'asleep-sender',
    'wide-fan-out',
    'prefab-tangle',
    'default-key',
    'shared-key',
    'duplicate-binding',
    'unhandled-value',
    'pause-deaf',
    'unreliable-state',
    'authority-gap',
    'barred-raise',
    'empty-audience',
    'no-activation',
    'covers-entry',
    'unpaired-area',
    'over-release',
  ];

  private report(rule: string, cls: string, subject: object, at: Iterable<string>): void {
    const key = `${rule}/${cls} ${canonicalJson(subject)}`;
    const set = this.found.get(key) ?? new Set();
    for (const a of at) set.add(a);
    this.found.set(key, set);
  }
  private *events(): Iterable<{ i: NaiveInstance; e: EventDecl; node: string }> {
    for (const i of this.n.instances)
      for (const e of i.asset.events ?? []) yield { i, e, node: `${i.address} ${e.name}` };
  }
  private isBound(node: string): boolean {
    return (this.out.get(node) ?? []).some((e) => e.kind === 'bind' || e.kind === 'publish');
  }
  private get bound(): { i: NaiveInstance; e: EventDecl; node: string }[] {
    return [...this.events()].filter(({ node }) => this.isBound(node));
  }
  private placementRef(i: NaiveInstance): object {
    if (!i.parent) return { asset: i.asset.id };
    return { asset: i.parent.asset.id, placement: i.address.split(/[/:]/).at(-1) };
  }
  private action(
    node: string,
  ): { i: NaiveInstance; a: NonNullable<NaiveInstance['asset']['actions']>[number] } | null {
    const [address, name] = node.split(' ');
    const i = this.at.get(address);
    const a = i?.asset.actions?.find((x) => x.name === name);
    return i && a ? { i, a } : null;
  }
  private neverRaisedNodes(): Set<string> {
    const never = new Set<string>();
    for (const { i, e, node } of this.bound) {
      const raised = (i.asset.actions ?? []).some((a) =>
        (a.effects ?? []).some((x) => 'raise' in x && x.raise === e.name),
      );
      if (e.cause.type === 'raised' && !raised) never.add(node);
    }
    return never;
  }

  private neverRaised(): void {
    const never = this.neverRaisedNodes();
    for (const { i, e, node } of this.events()) {
      if (never.has(node)) this.report('never-raised', '', { asset: i.asset.id, event: e.name }, [i.address]);
    }
  }

  private spawnGap(): void {
    for (const holder of this.n.instances) {
      for (const s of holder.standIns.values()) {
        for (const inner of this.n.inside(s)) {
          const rest = inner.address.slice(s.address.length);
          for (const e of inner.asset.events ?? []) {
            if (this.isBound(`${inner.address} ${e.name}`)) continue;
            const placed = this.n.instances.some(
              (p) => p.asset === s.asset && !p.spawned && this.isBound(`${p.address}${rest} ${e.name}`),
            );
            if (placed)
              this.report('spawn-gap', '', { asset: inner.asset.id, event: e.name }, [inner.address]);
          }
        }
      }
    }
  }

  /** The smallest set, by going round until nothing more is added. */
  private live(
    sleep: boolean,
    extra: Set<string>,
  ): { live: Set<string>; canBeAwake: (i: NaiveInstance) => boolean } {
    const live = new Set<string>();
    const wakes = (i: NaiveInstance): boolean =>
      (i.asset.actions ?? []).some(
        (a) =>
          a.whileAsleep && (a.effects ?? []).some((x) => 'wake' in x) && live.has(`${i.address} ${a.name}`),
      );
    const around = (i: NaiveInstance): NaiveInstance[] => {
      const standIn = i.parent && [...i.parent.standIns.values()].includes(i);
      return i.parent && !standIn ? [i, ...around(i.parent)] : [i];
    };
    const beginsAsleep = (i: NaiveInstance): boolean => {
      const name = i.address.split(/[/:]/).at(-1);
      return i.parent?.asset.placements?.find((p) => p.id === name)?.asleep === true;
    };
    const canBeAwake = (i: NaiveInstance): boolean => around(i).every((j) => !beginsAsleep(j) || wakes(j));
    const counts = (node: string): boolean => {
      if (!sleep || node.startsWith('#')) return true;
      const i = this.at.get(node.split(' ')[0])!;
      return this.action(node)?.a.whileAsleep === true || canBeAwake(i);
    };
    const spawnedLive = (i: NaiveInstance): boolean => {
      let s = i;
      while (![...(s.parent?.standIns.values() ?? [])].includes(s)) s = s.parent!;
      return this.n.instances.some(
        (j) =>
          this.n.holderOf(j) === s.parent &&
          (j.asset.actions ?? []).some(
            (a) =>
              live.has(`${j.address} ${a.name}`) &&
              (a.effects ?? []).some((x) => 'spawn' in x && x.spawn === s.asset.id),
          ),
      );
    };
    for (let size = -1; size !== live.size;) {
      size = live.size;
      for (const { i, e, node } of this.events()) {
        const outside = e.cause.type !== 'raised' && (!i.spawned || spawnedLive(i));
        if ((outside || extra.has(node)) && counts(node)) live.add(node);
      }
      for (const edge of this.edges) if (live.has(edge.tail) && counts(edge.head)) live.add(edge.head);
    }
    return { live, canBeAwake };
  }

  private deadWiring(): void {
    const { live } = this.live(false, this.neverRaisedNodes());
    for (const e of this.edges) {
      const published = (this.into.get(e.tail) ?? []).some((p) => p.kind === 'publish');
      if (!(e.kind === 'bind' || (e.kind === 'hear' && published)) || live.has(e.head)) continue;
      const { i, a } = this.action(e.head)!;
      this.report('dead-wiring', '', { asset: i.asset.id, action: a.name }, [i.address]);
    }
  }

  private asleep(): void {
    const { canBeAwake } = this.live(true, new Set());
    const sleeper = (i: NaiveInstance): NaiveInstance => {
      const standIn = i.parent && [...i.parent.standIns.values()].includes(i);
      return i.parent && !standIn && !canBeAwake(i.parent) ? sleeper(i.parent) : i;
    };
    for (const e of this.edges) {
      if (e.kind !== 'bind' && e.kind !== 'hear') continue;
      const { i, a } = this.action(e.head)!;
      if (a.whileAsleep || canBeAwake(i)) continue;
      this.report('asleep-receiver', '', this.placementRef(sleeper(i)), [sleeper(i).address]);
    }
    for (const { i, e } of this.bound) {
      if (e.cause.type === 'raised' || canBeAwake(i)) continue;
      this.report('asleep-sender', '', this.placementRef(sleeper(i)), [sleeper(i).address]);
    }
  }

  /** Every way from an event to an action: the edge that ends there, and the publication before it. */
  private deliveriesOf(node: string): { last: NaiveEdge; before: NaiveEdge | null }[] {
    return (this.out.get(node) ?? []).flatMap((e): { last: NaiveEdge; before: NaiveEdge | null }[] => {
      if (e.kind === 'bind') return [{ last: e, before: null }];
      if (e.kind !== 'publish') return [];
      return (this.out.get(e.head) ?? []).map((last) => ({ last, before: e }));
    });
  }

  private fanOut(): void {
    const limit = this.n.project.policy?.maxFanOut ?? 12;
    for (const { i, e, node } of this.events()) {
      const reached = new Set(this.deliveriesOf(node).map((d) => d.last.head));
      if (reached.size > limit)
        this.report('wide-fan-out', '', { asset: i.asset.id, event: e.name }, [i.address]);
    }
  }

  private tangle(): void {
    const limit = this.n.project.policy?.maxTangle ?? 8;
    const direct = this.edges
      .filter((e) => e.kind === 'bind')
      .map((e) => {
        const from = this.at.get(e.tail.split(' ')[0])!.asset;
        const to = this.at.get(e.head.split(' ')[0])!.asset;
        return { from, to, by: e.by! };
      });
    const parts = this.n.project.assets.filter((a) => a.kind !== 'scene');
    for (const a of parts) {
      for (const b of parts) {
        if (a.id >= b.id) continue;
        const one = direct.filter((d) => d.from === a && d.to === b);
        const back = direct.filter((d) => d.from === b && d.to === a);
        const distinct = (list: typeof one): number => new Set(list.map((d) => d.by.binding)).size;
        if (one.length === 0 || back.length === 0 || distinct(one) + distinct(back) <= limit) continue;
        this.report(
          'prefab-tangle',
          '',
          { assets: [a.id, b.id] },
          [...one, ...back].map((d) => d.by.owner.address),
        );
      }
    }
  }

  private keys(): void {
    const { project, instances } = this.n;
    const sceneOf = (i: NaiveInstance): NaiveInstance => (i.parent ? sceneOf(i.parent) : i);
    const together = (a: NaiveInstance, b: NaiveInstance): boolean =>
      a === b ||
      a.asset.persistent === true ||
      b.asset.persistent === true ||
      (project.loadSets ?? []).some((s) => s.scenes.includes(a.asset.id) && s.scenes.includes(b.asset.id));
    for (const asset of project.assets) {
      const own = instances.filter((i) => i.asset === asset && !i.spawned);
      for (const p of asset.properties ?? []) {
        const kept = own.filter((i) => !Object.hasOwn(i.overrides, p.name));
        const fires = p.isKey === true && kept.length >= 2 && kept.length < own.length;
        if (fires)
          this.report(
            'default-key',
            '',
            { asset: asset.id, property: p.name },
            kept.map((i) => i.address),
          );
        if (!p.unique) continue;
        const judged = own.filter((i) => !fires || !kept.includes(i));
        const value = (i: NaiveInstance): Value => this.n.value(i, p.name)!;
        for (const i of judged) {
          const others = judged.filter(
            (j) =>
              j !== i &&
              canonicalJson(value(j)) === canonicalJson(value(i)) &&
              together(sceneOf(i), sceneOf(j)),
          );
          if (others.length === 0) continue;
          this.report('shared-key', '', { asset: asset.id, property: p.name, key: value(i) }, [i.address]);
        }
      }
    }
  }

  /** Expanded bindings in running order: owners in expansion order, then array order. */
  private rank({ by }: NaiveEdge): number {
    return this.n.instances.indexOf(by!.owner) * 1000 + by!.owner.asset.bindings!.indexOf(by!.binding);
  }
  private duplicates(): void {
    const us = (e: NaiveEdge | null): number => Math.round((e?.by!.binding.delay ?? 0) * 1e6);
    type Way = { last: NaiveEdge; before: NaiveEdge | null };
    const how = ({ last, before }: Way): string =>
      canonicalJson([last.head, last.by!.binding.args ?? {}, us(before) + us(last)]);
    /** Whether some payload and some properties let both through: all that could make a difference is tried. */
    const both = (node: string, a: Way, b: Way): boolean => {
      return possible([a, b].flatMap((way) => this.asked(node, way.last, way.before !== null)));
    };
    const pairUp = (node: string, list: Way[]): void => {
      const sorted = [...list].sort((a, b) => this.rank(a.last) - this.rank(b.last));
      for (const way of sorted) {
        const first = sorted.find((e) => e === way || (how(e) === how(way) && both(node, e, way)))!.last;
        const later = way.last;
        if (this.rank(first) === this.rank(later)) continue;
        const ref = (e: NaiveEdge): object => ({ asset: e.by!.owner.asset.id, binding: e.by!.binding.id });
        this.report('duplicate-binding', '', { bindings: [ref(first), ref(later)] }, [
          later.by!.owner.address,
        ]);
      }
    };
    for (const { node } of this.events()) {
      pairUp(node, this.deliveriesOf(node));
      const published = (this.out.get(node) ?? []).filter((e) => e.kind === 'publish');
      pairUp(
        node,
        published.map((last) => ({ last, before: null })),
      );
    }
  }

  /** Events and channels of which every binding asks one field, and none acts for some value of it. */
  private unhandled(): void {
    const left = (edges: NaiveEdge[], field: string): boolean => {
      const own = [...new Set(edges.map((e) => e.by!.binding))].map((b) =>
        (b.if ?? []).flatMap((c) => ('payload' in c && c.payload === field ? [c.is] : [])),
      );
      if (own.length === 0 || own.some((asked) => asked.length === 0)) return false;
      return [true, false].some((v) => !own.some((asked) => asked.every((is) => answers(is, v))));
    };
    for (const i of this.n.instances) {
      for (const e of i.asset.events ?? []) {
        const edges = this.out.get(`${i.address} ${e.name}`) ?? [];
        for (const f of (e.payload ?? []).filter((f) => f.type === 'bool')) {
          if (left(edges, f.name))
            this.report('unhandled-value', '', { asset: i.asset.id, event: e.name, name: f.name }, [
              i.address,
            ]);
        }
      }
    }
    for (const { name, payload = [] } of this.n.project.channels ?? []) {
      const edges = this.edges.filter(
        (e) => e.kind === 'hear' && 'channel' in e.by!.binding.from && e.by!.binding.from.channel === name,
      );
      for (const f of payload.filter((f) => f.type === 'bool')) {
        if (left(edges, f.name)) this.report('unhandled-value', '', { channel: name, name: f.name }, []);
      }
    }
  }

  /** What the last edge of a way asks, as far as it can be asked: of the event and its sender, or of a channel and the owner. */
  private asked(node: string, edge: NaiveEdge, heard: boolean): Asking[] {
    const { owner, binding } = edge.by!;
    const sender = heard ? owner : this.n.instances.find((i) => node.startsWith(`${i.address} `))!;
    const event = sender.asset.events?.find((e) => !heard && `${sender.address} ${e.name}` === node);
    const { from } = binding;
    const channel = this.n.project.channels?.find((c) => 'channel' in from && c.name === from.channel);
    const fields = (heard ? channel?.payload : event?.payload) ?? [];
    return (binding.if ?? []).flatMap((c): Asking[] => {
      const name = 'payload' in c ? c.payload : c.property;
      const field = 'payload' in c ? fields.find((f) => f.name === name) : undefined;
      const property = 'payload' in c ? undefined : sender.asset.properties?.find((p) => p.name === name);
      const type = field?.type ?? property?.type;
      if (type === undefined) return [];
      if (!isSound(c.is, type)) return [];
      const source = property ? `@${sender.address}` : heard ? `#${edge.tail}` : '.';
      return [{ of: `${source} ${name}`, type, optional: field?.optional === true, is: c.is }];
    });
  }

  private peerOf(i: NaiveInstance, role: 'authority' | 'operator'): string | undefined {
    const peers = this.n.project.peers ?? [];
    if (!i.parent) return role === 'authority' ? peers[0]?.name : undefined;
    const placement = i.parent.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1));
    const named = placement?.[role];
    if (named !== undefined) return peers.some((p) => p.name === named) ? named : undefined;
    return this.peerOf(i.parent, role);
  }
  private admits(roles: Roles, peer: string, i: NaiveInstance): boolean {
    if (roles === 'everyone') return true;
    const [authority, operator] = [this.peerOf(i, 'authority'), this.peerOf(i, 'operator')];
    const own = [
      ...(peer === authority ? ['authority'] : []),
      ...(peer === operator ? ['operator'] : []),
      ...(peer !== authority && peer !== operator ? ['others'] : []),
    ];
    return 'only' in roles
      ? own.some((r) => roles.only.includes(r as never))
      : !own.some((r) => roles.except.includes(r as never));
  }

  private deliveries(): void {
    const peers = (this.n.project.peers ?? []).map((p) => p.name);
    for (const { i, e, node } of this.bound) {
      const { send = 'everyone', to = 'everyone', reliable = true } = e.delivery ?? {};
      const may = send === 'nobody' ? [] : peers.filter((p) => this.admits(send, p, i));
      const audience = (p: string): string[] =>
        to === 'raiser' ? [p] : peers.filter((q) => this.admits(to, q, i));
      const subject = { asset: i.asset.id, event: e.name };
      if (peers.length > 0 && may.length === 0) this.report('barred-raise', '', subject, [i.address]);
      if (may.length > 0 && may.every((p) => audience(p).length === 0))
        this.report('empty-audience', '', subject, [i.address]);
      for (const { last } of this.deliveriesOf(node)) {
        const { i: receiver, a } = this.action(last.head)!;
        const tell = (rule: string): void =>
          this.report(rule, '', { asset: last.by!.owner.asset.id, binding: last.by!.binding.id }, [
            last.by!.owner.address,
          ]);
        if (e.raisedInPause && !receiver.asset.runsInPause) tell('pause-deaf');
        if (peers.length === 0) continue;
        const changes = (a.effects ?? []).some((x) => !('raise' in x));
        if (!reliable && changes) tell('unreliable-state');
        const keeper = this.peerOf(receiver, 'authority');
        const told = may.some((p) => keeper !== undefined && audience(p).includes(keeper));
        if (receiver.asset.existsOn === 'authority' && !told) tell('authority-gap');
      }
    }
  }

  private position(i: NaiveInstance): [number, number] {
    if (!i.parent) return [0, 0];
    const [x, y] = this.position(i.parent);
    const [dx, dy] = i.parent.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1))?.at ?? [
      0, 0,
    ];
    return [x + dx, y + dy];
  }
  private areas(): void {
    const { instances, project } = this.n;
    const tags = project.assets.flatMap((a) => (a.tags ?? []).map((t) => `#${t}`));
    const names = new Set([...project.assets.map((a) => a.id), ...tags]);
    for (const asset of project.assets) {
      for (const e of asset.events ?? []) {
        const list = 'activators' in e.cause ? e.cause.activators : undefined;
        if (!list || list.some((x) => names.has(x))) continue;
        const at = instances.filter((i) => i.asset === asset).map((i) => i.address);
        this.report('no-activation', 'filter', { asset: asset.id, event: e.name }, at);
      }
    }
    const scene = (i: NaiveInstance): NaiveInstance => (i.parent ? scene(i.parent) : i);
    const isEntry = (i: NaiveInstance): boolean =>
      !i.spawned &&
      i.parent?.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1))?.entry === true;
    for (const { i, e, node } of this.bound) {
      if (e.cause.type !== 'area-enter' && e.cause.type !== 'area-leave') continue;
      const { area } = i.asset;
      if (!area) this.report('no-activation', 'area', this.placementRef(i), [i.address]);
      if (e.cause.type !== 'area-enter') continue;
      const [ax, ay] = this.position(i);
      const covered = instances.some((j) => {
        const [x, y] = this.position(j);
        return (
          isEntry(j) &&
          scene(j) === scene(i) &&
          area &&
          'circle' in area &&
          Math.hypot(x - ax, y - ay) <= area.circle
        );
      });
      if (covered && !i.spawned && !i.asleep)
        this.report('covers-entry', '', this.placementRef(i), [i.address]);
      const leaves = (i.asset.events ?? []).filter((l) => l.cause.type === 'area-leave');
      const paired = leaves.length === 0 || leaves.some((l) => this.isBound(`${i.address} ${l.name}`));
      const switches = this.deliveriesOf(node).some(
        ({ last, before }) =>
          last.by!.binding.limit === undefined &&
          before?.by!.binding.limit === undefined &&
          (this.action(last.head)!.a.effects ?? []).some((x) => 'set' in x || 'wake' in x),
      );
      if (e.limit === undefined && !paired && switches)
        this.report('unpaired-area', '', this.placementRef(i), [i.address]);
    }
  }

  private release(): void {
    const users = new Map<string, NaiveEdge[]>();
    for (const e of this.edges) {
      if (!e.by) continue;
      push(users, e.kind === 'hear' ? e.tail.slice(0, e.tail.indexOf('[')) : e.tail, e);
    }
    for (const list of users.values()) {
      for (const e of list) {
        const { binding, owner } = e.by!;
        if (binding.origin !== 'code' || binding.release !== 'all') continue;
        if (list.every((o) => this.rank(o) === this.rank(e))) continue;
        this.report('over-release', '', { asset: owner.asset.id, binding: binding.id }, [owner.address]);
      }
    }
  }
}

function push<K, T>(map: Map<K, T[]>, key: K, item: T): void {
  const list = map.get(key);
  if (list) list.push(item);
  else map.set(key, [item]);
}
