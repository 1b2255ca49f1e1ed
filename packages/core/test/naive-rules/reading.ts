import { canonicalJson, type Action, type Binding, type EventDecl } from '../../src/index.js';
import { isSound, possible, type Asking } from '../naive-conditions.js';
import type { Naive, NaiveEdge, NaiveEnds, NaiveInstance } from '../naive.js';

/** A delivery of an event: the edge that ends at the action, and the publication before it. */
export interface Way {
  last: NaiveEdge;
  before: NaiveEdge | null;
}

/**
 * What the second reading of rules looks at and reports to: the plain expansion with its edges, and searches instead of
 * tables. Random projects are audited by both.
 */
export class NaiveReading {
  /** Rule, class and subject as a text, with occurrences. */
  readonly found = new Map<string, Set<string>>();
  readonly edges: NaiveEdge[];
  readonly out = new Map<string, NaiveEdge[]>();
  readonly into = new Map<string, NaiveEdge[]>();
  readonly at = new Map<string, NaiveInstance>();

  constructor(readonly n: Naive) {
    this.edges = n.edges();
    for (const e of this.edges) {
      push(this.out, e.tail, e);
      push(this.into, e.head, e);
    }
    for (const i of n.instances) this.at.set(i.address, i);
  }

  report(rule: string, cls: string, subject: object, at: Iterable<string>): void {
    const key = `${rule}/${cls} ${canonicalJson(subject)}`;
    const set = this.found.get(key) ?? new Set();
    for (const a of at) set.add(a);
    this.found.set(key, set);
  }
  *events(): Iterable<{ i: NaiveInstance; e: EventDecl; node: string }> {
    for (const i of this.n.instances)
      for (const e of i.asset.events ?? []) yield { i, e, node: `${i.address} ${e.name}` };
  }
  isBound(node: string): boolean {
    return (this.out.get(node) ?? []).some((e) => e.kind === 'bind' || e.kind === 'publish');
  }
  get bound(): { i: NaiveInstance; e: EventDecl; node: string }[] {
    return [...this.events()].filter(({ node }) => this.isBound(node));
  }
  /** Each copy of each binding that is neither disabled nor muted, with its ends; null where one is not there. */
  *copies(): Iterable<{ owner: NaiveInstance; binding: Binding; ends: NaiveEnds | null }> {
    for (const owner of this.n.instances) {
      for (const binding of owner.asset.bindings ?? []) {
        if (binding.enabled === false || owner.muted.includes(binding.id)) continue;
        yield { owner, binding, ends: this.n.ends(owner, binding) };
      }
    }
  }
  bindingRef({ by }: NaiveEdge): object {
    return { asset: by!.owner.asset.id, binding: by!.binding.id };
  }
  /** The scene that it stands in. */
  sceneOf(i: NaiveInstance): NaiveInstance {
    return i.parent ? this.sceneOf(i.parent) : i;
  }
  placementRef(i: NaiveInstance): object {
    if (!i.parent) return { asset: i.asset.id };
    return { asset: i.parent.asset.id, placement: i.address.split(/[/:]/).at(-1) };
  }
  action(node: string): { i: NaiveInstance; a: Action } | null {
    const [address, name] = node.split(' ');
    const i = this.at.get(address);
    const a = i?.asset.actions?.find((x) => x.name === name);
    return i && a ? { i, a } : null;
  }
  /** Every way from an event to an action: the edge that ends there, and the publication before it. */
  deliveriesOf(node: string): Way[] {
    return (this.out.get(node) ?? []).flatMap((e): Way[] => {
      if (e.kind === 'bind') return [{ last: e, before: null }];
      if (e.kind !== 'publish') return [];
      return (this.out.get(e.head) ?? []).map((last) => ({ last, before: e }));
    });
  }
  /** Whether some payload and some properties let two ways of an event both through: all that could make a difference is tried. */
  canBothServe(node: string, a: Way, b: Way): boolean {
    return possible([a, b].flatMap((way) => this.asked(node, way.last, way.before !== null)));
  }
  /** Expanded bindings in running order: owners in expansion order, then array order. */
  rank({ by }: NaiveEdge): number {
    return this.n.instances.indexOf(by!.owner) * 1000 + by!.owner.asset.bindings!.indexOf(by!.binding);
  }
  /** What the last edge of a way asks, as far as it can be asked: of the event and its sender, or of a channel and the owner. */
  asked(node: string, edge: NaiveEdge, heard: boolean): Asking[] {
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
}

export function push<K, T>(map: Map<K, T[]>, key: K, item: T): void {
  const list = map.get(key);
  if (list) list.push(item);
  else map.set(key, [item]);
}

/** Some rules, read a second time. */
export interface SecondReading {
  rules: string[];
  read: (r: NaiveReading) => void;
}
