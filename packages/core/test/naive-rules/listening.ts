import { canonicalJson, isLiteral, type Asset, type Binding, type KeyExpr } from '../../src/index.js';
import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

/** A key as a text; `none` for no key, `any` where it cannot be read. */
type Key = string;
interface Use {
  owner: NaiveInstance;
  binding: Binding;
  key: Key;
  /** Both ends are there. */
  isWhole: boolean;
}
interface Uses {
  /** Events and actions that count as bound and driven: a fault at one end is not one of the other too. */
  nodes: Set<string>;
  published: Map<string, Use[]>;
  heard: Map<string, Use[]>;
}

/** What each copy of a binding uses, also where its other end is missing. */
function usesOf(r: NaiveReading): Uses {
  const { n } = r;
  const channels = (n.project.channels ?? []).map((c) => c.name);
  const nodes = new Set<string>();
  const published = new Map<string, Use[]>(channels.map((c) => [c, []]));
  const heard = new Map<string, Use[]>(channels.map((c) => [c, []]));
  for (const { owner, binding, ends } of r.copies()) {
    const { from, to } = binding;
    const there = (path: string): NaiveInstance | null => {
      const found = n.resolve(owner, path);
      return typeof found === 'string' ? null : found;
    };
    const sender = 'at' in from ? there(from.at) : null;
    const reader = 'at' in from ? sender : owner;
    if (sender && 'event' in from && sender.asset.events?.some((e) => e.name === from.event))
      nodes.add(`${sender.address} ${from.event}`);
    const use = (key: Key): Use => ({ owner, binding, key, isWhole: ends !== null });
    if ('channel' in to) published.get(to.channel)?.push(use(keyOf(r, to.key, reader)));
    const receivers = 'channel' in to ? [] : receiversOf(r, owner, reader, to, there);
    for (const i of receivers ?? []) {
      if ('action' in to && i.asset.actions?.some((a) => a.name === to.action))
        nodes.add(`${i.address} ${to.action}`);
    }
    if (!('channel' in from)) continue;
    // A selection that is not whole is no instance whose key could be read.
    const listeners = 'every' in to && !ends ? [] : (receivers ?? []);
    const at = listeners.map((i) => keyOf(r, from.key, i));
    for (const key of at.length > 0 ? at : [keyOf(r, from.key, null)])
      heard.get(from.channel)?.push(use(key));
  }
  return { nodes, published, heard };
}

function keyOf(r: NaiveReading, key: KeyExpr | undefined, of: NaiveInstance | null): Key {
  if (key === undefined) return 'none';
  if (isLiteral(key)) return canonicalJson(key);
  const value = of ? r.n.value(of, key.property) : undefined;
  return value === undefined ? 'any' : canonicalJson(value);
}

/** What a binding leads to as far as that can be reported; null where its receivers are not there. */
function receiversOf(
  r: NaiveReading,
  owner: NaiveInstance,
  reader: NaiveInstance | null,
  to: Exclude<Binding['to'], { channel: string }>,
  there: (path: string) => NaiveInstance | null,
): NaiveInstance[] | null {
  if ('at' in to) {
    const receiver = there(to.at);
    return receiver && [receiver];
  }
  const asset: Asset | undefined = r.n.asset(to.every);
  const match = to.match === 'all' ? undefined : to.match;
  if (!asset || (match && !asset.properties?.some((p) => p.name === match.property))) return null;
  if (match && !isLiteral(match.equals)) {
    if (reader && r.n.value(reader, match.equals.property) === undefined) return null;
  }
  // What is read from a sender that is not there may be anything.
  const asked = match && !isLiteral(match.equals) && !reader ? { ...to, match: undefined } : to;
  const selected = r.n.select(owner, reader ?? owner, asked, asset);
  return to.pick === 'first' ? selected!.slice(0, 1) : selected;
}

function events(r: NaiveReading, { nodes }: Uses): void {
  const gaps = [...r.found].filter(([key]) => key.startsWith('spawn-gap/'));
  for (const asset of r.n.project.assets) {
    const instances = r.n.instances.filter((i) => i.asset === asset);
    for (const e of asset.events ?? []) {
      const subject = { asset: asset.id, event: e.name };
      const without = instances.filter((i) => !nodes.has(`${i.address} ${e.name}`)).map((i) => i.address);
      const gap = gaps.find(([key]) => key === `spawn-gap/ ${canonicalJson(subject)}`)?.[1];
      const reported = e.expectsListener ? without.filter((at) => !gap?.has(at)) : without;
      if (reported.length > 0 && (e.expectsListener || without.length === instances.length))
        r.report('unheard-event', '', subject, reported);
    }
    for (const a of asset.actions ?? []) {
      const without = instances.filter((i) => !nodes.has(`${i.address} ${a.name}`)).map((i) => i.address);
      if (a.expectsSender && without.length > 0)
        r.report('orphan-listener', 'action', { asset: asset.id, action: a.name }, without);
    }
  }
}

function channels(r: NaiveReading, { published, heard }: Uses): void {
  for (const [channel, publications] of published) {
    const hearings = heard.get(channel)!;
    if (publications.length === 0 && hearings.length === 0) r.report('unused-channel', '', { channel }, []);
    if (publications.length > 0 && hearings.length === 0)
      r.report('unheard-channel', 'channel', { channel }, []);
    /** A listener without key hears everything, one with a key what has the same, one whose key cannot be read anything. */
    const hears = (p: Use, h: Use): boolean =>
      h.key === 'none' || h.key === 'any' || (p.key !== 'none' && (h.key === p.key || p.key === 'any'));
    const tell = (rule: string, cls: string, { owner, binding }: Use): void =>
      r.report(rule, cls, { asset: owner.asset.id, binding: binding.id }, [owner.address]);
    for (const p of publications) {
      if (p.isWhole && hearings.length > 0 && !hearings.some((h) => hears(p, h)))
        tell('unheard-channel', 'key', p);
    }
    for (const h of hearings) {
      const selects = r.edges.some(
        (e) => e.kind === 'hear' && e.by!.owner === h.owner && e.by!.binding === h.binding,
      );
      if (selects && !publications.some((p) => hears(p, h))) tell('orphan-listener', 'channel', h);
    }
  }
}

export const ofListening: SecondReading = {
  rules: ['unheard-event', 'orphan-listener', 'unheard-channel', 'unused-channel'],
  read(r) {
    const uses = usesOf(r);
    events(r, uses);
    channels(r, uses);
  },
};
