import type { AssetIndex } from '../project/index-project.js';
import type { Arg, Binding, BindingTo, KeyExpr, Type } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { FieldSource, NameContext } from './context.js';
import { each, eachEntry, patched } from './patch.js';

/** For each channel the type of the keys that are used on it; absent where they have none, or several. */
export type ChannelKeyTypes = ReadonlyMap<string, Type>;

/** Shows every name in a binding of an owner. Cost: the binding, and the segments of its paths. */
export function bindingNames(
  names: NameContext,
  owner: AssetIndex,
  binding: Binding,
  keyTypes: ChannelKeyTypes,
): Binding {
  const { from, to } = binding;
  const sender = 'channel' in from ? null : names.path(owner, from.at);
  const reader = sender ? sender.asset : owner;
  const payload: FieldSource =
    'channel' in from
      ? { kind: 'channelField', asset: '', of: from.channel }
      : reader && { kind: 'eventField', asset: reader.decl.id, of: from.event };
  let receiver: AssetIndex | null = null;
  let next: BindingTo;
  let typeOf: (name: string) => Type | undefined;
  let filled: FieldSource;
  if ('channel' in to) {
    next = patched(to, {
      channel: names.visit('channel', '', '', to.channel),
      ...(to.key !== undefined && { key: keyNames(names, to.key, reader, keyTypes.get(to.channel)) }),
    });
    filled = { kind: 'channelField', asset: '', of: to.channel };
    typeOf = (name) => names.typeOfChannelField(to.channel, name);
  } else {
    if ('at' in to) {
      const found = names.path(owner, to.at);
      receiver = found.asset;
      next = patched(to, { at: found.at, action: names.inside(receiver, 'action', to.action) });
    } else {
      receiver = names.assetOf(to.every);
      const { match } = to;
      next = patched(to, {
        every: names.asset(to.every),
        action: names.inside(receiver, 'action', to.action),
        ...(match !== undefined &&
          match !== 'all' && {
            match: patched(match, {
              property: names.inside(receiver, 'property', match.property),
              equals: keyNames(names, match.equals, reader, names.typeOfProperty(receiver, match.property)),
            }),
          }),
      });
    }
    const action = to.action;
    filled = receiver && { kind: 'param', asset: receiver.decl.id, of: action };
    typeOf = (name) => names.typeOfParam(receiver, action, name);
  }
  const args = eachEntry<Arg, Record<string, Arg>>(binding.args, (name, arg) => [
    names.field(filled, name),
    names.arg(arg, typeOf(name), reader, payload),
  ]);
  return patched(binding, {
    id: names.inside(owner, 'binding', binding.id),
    from:
      'channel' in from
        ? patched(from, {
            channel: names.visit('channel', '', '', from.channel),
            ...(from.key !== undefined && {
              key: keyNames(names, from.key, receiver, keyTypes.get(from.channel)),
            }),
          })
        : patched(from, { at: sender!.at, event: names.inside(reader, 'event', from.event) }),
    to: next,
    ...(args && { args }),
    ...(binding.if && {
      if: each(binding.if, (c) =>
        'payload' in c
          ? patched(c, {
              payload: names.field(payload, c.payload),
              is: names.asked(names.typeOfField(payload, c.payload), c.is),
            })
          : patched(c, {
              property: names.inside(reader, 'property', c.property),
              is: names.asked(names.typeOfProperty(reader, c.property), c.is),
            }),
      ),
    }),
  });
}

function keyNames(
  names: NameContext,
  key: KeyExpr,
  reader: AssetIndex | null,
  type: Type | undefined,
): KeyExpr {
  if (isLiteral(key)) return names.value(type, key);
  return patched(key, { property: names.inside(reader, 'property', key.property) });
}

/**
 * The types of the keys on channels. A channel does not declare one: it is the type of the properties that its bindings
 * use as keys, if they agree. Linear in the bindings.
 */
export function channelKeyTypes(names: NameContext): ChannelKeyTypes {
  const types = new Map<string, Type | null>();
  const add = (channel: string, key: KeyExpr | undefined, reader: () => AssetIndex | null): void => {
    if (key === undefined || isLiteral(key)) return;
    const type = names.typeOfProperty(reader(), key.property);
    if (type === undefined) return;
    types.set(channel, types.has(channel) && types.get(channel) !== type ? null : type);
  };
  for (const owner of names.index.assets) {
    for (const { from, to } of owner.bindings) {
      const at = (path: string): AssetIndex | null => names.path(owner, path).asset;
      if ('channel' in from) {
        add(from.channel, from.key, () =>
          'at' in to ? at(to.at) : 'every' in to ? names.assetOf(to.every) : null,
        );
      }
      if ('channel' in to) add(to.channel, to.key, () => ('channel' in from ? owner : at(from.at)));
    }
  }
  return new Map([...types].filter((entry): entry is [string, Type] => entry[1] !== null));
}
