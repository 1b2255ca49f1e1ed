import { explained, label, list, named, object, oneOf, optional, prose, text, type Shape } from './shape.js';
import type * as T from './types.js';
import { fields, fromGame } from './value-shapes.js';
import { name } from './name.js';

export const enumDecl: Shape<T.EnumDecl> = object<T.EnumDecl>({
  name: label,
  values: list(text),
  ...fromGame,
});
export const keyTable: Shape<T.KeyTable> = object<T.KeyTable>({ name, keys: list(text), ...fromGame });
export const channel: Shape<T.Channel> = named(
  'channel',
  'A named meeting point of senders and listeners.',
  explained(
    object<T.Channel>({
      name,
      payload: optional(fields),
      note: optional(prose),
      ...fromGame,
    }),
    {
      payload: 'What is published to it.',
    },
  ),
);
export const loadSet: Shape<T.LoadSet> = object<T.LoadSet>({ name: label, scenes: list(text) });
export const peer: Shape<T.Peer> = named(
  'peer',
  'One peer of a networked game.',
  object<T.Peer>({ name: label, role: oneOf('server', 'client') }),
);
