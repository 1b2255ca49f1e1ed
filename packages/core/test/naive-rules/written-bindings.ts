import { isLiteral, type Arg, type Asset, type Binding, type Field, type Type } from '../../src/index.js';
import { isSound, possible, type Asking } from '../naive-conditions.js';
import { key, literal, literalFits, literalsIn } from './literals.js';
import { walk } from './paths.js';
import type { NaiveReading, SecondReading } from './reading.js';

function binding(r: NaiveReading, owner: Asset, b: Binding): void {
  const all = r.n.instances.filter((i) => i.asset.id === owner.id);
  const unmuted = all.filter((i) => !i.muted.includes(b.id));
  if (b.enabled === false || (all.length > 0 && unmuted.length === 0)) return;
  const at = unmuted.map((i) => i.address);
  const subject = { asset: owner.id, binding: b.id };
  const paths = [b.from, b.to].flatMap((e) => ('at' in e ? [e.at] : []));
  if (owner.kind !== 'scene' && paths.some((p) => p.includes(':'))) r.report('reaches-out', '', subject, at);
  asked(r, owner, b, at);
  const given = b.args ?? {};
  for (const p of paramsOf(r, owner, b) ?? []) {
    const arg = given[p.name];
    if (arg !== undefined && isLiteral(arg)) key(r, arg, p.type, at, { ...subject, param: p.name });
  }
  const ends = endsOf(r, owner, b);
  if (!ends) return;
  if (!possible(questions(r, b, ends))) r.report('never-true', '', subject, at);
  for (const p of ends.params) {
    if (!Object.hasOwn(given, p.name)) {
      if (!p.optional) r.report('payload-mismatch', '', { ...subject, param: p.name }, at);
    } else if (!fits(r, given[p.name], p.type, ends.payload, ends.reader)) {
      r.report('payload-mismatch', '', { ...subject, param: p.name }, at);
    }
  }
  for (const param of Object.keys(given)) {
    if (!ends.params.some((p) => p.name === param))
      r.report('payload-mismatch', '', { ...subject, param }, at);
  }
}

/** What a condition names must be there, where its source is; and its values must be of that type. */
function asked(
  r: NaiveReading,
  owner: Asset,
  { id, from, if: conditions = [] }: Binding,
  at: string[],
): void {
  const sender = 'at' in from ? walk(r, owner, from.at) : owner;
  const channel = r.n.project.channels?.find((c) => 'channel' in from && c.name === from.channel);
  const event = sender?.events?.find((e) => 'event' in from && e.name === from.event);
  const source = 'channel' in from ? channel : event;
  for (const c of conditions) {
    const name = 'payload' in c ? c.payload : c.property;
    const known: { name: string; type: Type }[] | undefined =
      'payload' in c ? source && (source.payload ?? []) : sender ? (sender.properties ?? []) : undefined;
    const found = known?.find((f) => f.name === name);
    const subject = { asset: owner.id, binding: id, name };
    if (known && !found) r.report('dangling-name', 'condition', subject, at);
    for (const v of found ? literalsIn(c.is, found.type) : [])
      literal(r, v, found!.type, at, subject, { asset: owner.id, binding: id });
  }
}

/** What a binding asks that can be asked at all. */
function questions(
  r: NaiveReading,
  { if: conditions = [] }: Binding,
  ends: { payload: Field[]; reader: Asset },
): Asking[] {
  return conditions.flatMap((c): Asking[] => {
    const name = 'payload' in c ? c.payload : c.property;
    const field = 'payload' in c ? ends.payload.find((f) => f.name === name) : undefined;
    const property = 'payload' in c ? undefined : ends.reader.properties?.find((p) => p.name === name);
    const type = (field ?? property)?.type;
    if (type === undefined || !isSound(c.is, type)) return [];
    return [{ of: `${Object.keys(c)[0]} ${name}`, type, optional: field?.optional === true, is: c.is }];
  });
}

function channelFields(r: NaiveReading, name: string): Field[] | null {
  const found = (r.n.project.channels ?? []).find((c) => c.name === name);
  return found ? (found.payload ?? []) : null;
}
function receiverOf(r: NaiveReading, owner: Asset, to: Binding['to']): Asset | null {
  if ('at' in to) return walk(r, owner, to.at);
  return 'every' in to ? (r.n.asset(to.every) ?? null) : null;
}
/** The parameters, or the fields of the channel, that a binding gives values to; null if they are not there. */
function paramsOf(r: NaiveReading, owner: Asset, { to }: Pick<Binding, 'to'>): Field[] | null {
  if ('channel' in to) return channelFields(r, to.channel);
  const action = receiverOf(r, owner, to)?.actions?.find((a) => a.name === to.action);
  return action ? (action.params ?? []) : null;
}

/** What flows over a binding both of whose ends are there; null if one is not. */
function endsOf(
  r: NaiveReading,
  owner: Asset,
  { from, to }: Binding,
): { payload: Field[]; params: Field[]; reader: Asset } | null {
  const sender = 'at' in from ? walk(r, owner, from.at) : owner;
  if (!sender) return null;
  const event = 'event' in from ? sender.events?.find((e) => e.name === from.event) : undefined;
  const payload = 'channel' in from ? channelFields(r, from.channel) : event ? (event.payload ?? []) : null;
  const receiver = receiverOf(r, owner, to);
  const params = paramsOf(r, owner, { to });
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

function fits(r: NaiveReading, arg: Arg, wanted: Type, payload: Field[], reader: Asset): boolean {
  if (typeof arg !== 'object' || Array.isArray(arg)) return literalFits(r, arg, wanted);
  if ('sender' in arg) return wanted === 'instance';
  const found =
    'payload' in arg
      ? payload.find((f) => f.name === arg.payload)?.type
      : reader.properties?.find((p) => p.name === arg.property)?.type;
  if (found === undefined) return false;
  if (arg.as === 'string') return wanted === 'string';
  return found === wanted || (found === 'int' && wanted === 'float');
}

function match(r: NaiveReading, owner: Asset, b: Binding): void {
  const { to } = b;
  if (b.enabled === false || !('every' in to) || typeof to.match !== 'object') return;
  const { property, equals } = to.match;
  if (typeof equals === 'object' && !Array.isArray(equals)) return;
  const type = r.n.asset(to.every)?.properties?.find((p) => p.name === property)?.type;
  if (!type) return;
  const all = r.n.instances.filter((i) => i.asset.id === owner.id);
  const unmuted = all.filter((i) => !i.muted.includes(b.id));
  if (all.length > 0 && unmuted.length === 0) return;
  const subject = { asset: owner.id, binding: b.id };
  literal(
    r,
    equals,
    type,
    unmuted.map((i) => i.address),
    subject,
  );
}

export const ofWrittenBindings: SecondReading = {
  rules: ['payload-mismatch', 'reaches-out'],
  read(r) {
    for (const asset of r.n.project.assets) {
      for (const b of asset.bindings ?? []) {
        binding(r, asset, b);
        match(r, asset, b);
      }
    }
  },
};
