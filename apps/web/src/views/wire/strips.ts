import {
  assetAtPath,
  causeText,
  type AssetIndex,
  type Binding,
  type EventDecl,
  type Field,
  type ProjectIndex,
} from '@oquel/core';

/** One event of the chosen sender, with its bindings of this scope in running order. */
export interface Strip {
  /** The event's name; for a channel the channel's. */
  event: string;
  /** Absent for a channel, and for an event that the sender does not have though bindings name it. */
  decl?: EventDecl;
  payload: readonly Field[];
  about: string;
  bindings: readonly Binding[];
  missing: boolean;
}
export interface Sender {
  at: string;
  /** `#channel` heard in this scope. */
  channel: string | null;
  asset: AssetIndex | null;
  /** Whose properties arguments may read: the sender's, or the owner's when a channel is heard. */
  reader: AssetIndex | null;
  strips: readonly Strip[];
}

/** The sender at a path of the owner (or `#channel`), with all that it can say. */
export function senderAt(index: ProjectIndex, owner: AssetIndex, at: string): Sender {
  if (at.startsWith('#')) return channelSender(index, owner, at.slice(1));
  const asset = assetAtPath(index, owner, at);
  const mine = owner.bindings.filter((b) => 'at' in b.from && b.from.at === at);
  const of = (event: string): Binding[] => mine.filter((b) => 'event' in b.from && b.from.event === event);
  const strips: Strip[] = (asset?.events ?? []).map((decl) => ({
    event: decl.name,
    decl,
    payload: decl.payload ?? [],
    about: eventAbout(decl),
    bindings: of(decl.name),
    missing: false,
  }));
  const known = new Set(strips.map((s) => s.event));
  for (const b of mine) {
    if (!('event' in b.from) || known.has(b.from.event)) continue;
    known.add(b.from.event);
    const { event } = b.from;
    const about = asset ? `${asset.decl.id} has no such event` : 'the sender is not there';
    strips.push({ event, payload: [], about, bindings: of(event), missing: true });
  }
  return { at, channel: null, asset, reader: asset, strips };
}

function channelSender(index: ProjectIndex, owner: AssetIndex, name: string): Sender {
  const at = index.channelAt.get(name);
  const channel = at === undefined ? undefined : index.project.channels![at];
  const strip: Strip = {
    event: name,
    payload: channel?.payload ?? [],
    about: channel ? carries(channel.payload) || 'carries nothing' : 'no such channel is declared',
    bindings: owner.bindings.filter((b) => 'channel' in b.from && b.from.channel === name),
    missing: channel === undefined,
  };
  return { at: `#${name}`, channel: name, asset: null, reader: owner, strips: [strip] };
}

/** Paths and events of bindings whose sender is not in the scope: they must stay within reach. */
export function missingSenders(index: ProjectIndex, owner: AssetIndex, known: ReadonlySet<string>): string[] {
  const missing = new Set<string>();
  for (const { from } of owner.bindings) {
    if ('at' in from) {
      if (!known.has(from.at)) missing.add(from.at);
    } else if (!index.channelAt.has(from.channel)) missing.add(`#${from.channel}`);
  }
  return [...missing];
}

function eventAbout(e: EventDecl): string {
  const parts = [
    causeText(e.cause),
    carries(e.payload),
    e.limit === undefined ? '' : limitText(e.limit),
    e.note ?? '',
  ];
  return parts.filter((p) => p !== '').join(' · ');
}
function carries(payload: readonly Field[] | undefined): string {
  if (!payload || payload.length === 0) return '';
  return `carries ${payload.map((f) => `${f.name}: ${f.type}`).join(', ')}`;
}
function limitText(limit: number): string {
  return limit === 1 ? 'once only' : `at most ${limit} times`;
}
