import { label, list, object, oneOf, optional, prose, text, type Shape } from './shape.js';
import type * as T from './types.js';
import { fields, fromGame } from './asset-shapes.js';
import { name } from './name.js';

export const enumDecl: Shape<T.EnumDecl> = object<T.EnumDecl>({
  name: label,
  values: list(text),
  ...fromGame,
});
export const keyTable: Shape<T.KeyTable> = object<T.KeyTable>({ name, keys: list(text), ...fromGame });
export const channel: Shape<T.Channel> = object<T.Channel>({
  name,
  payload: optional(fields),
  note: optional(prose),
  ...fromGame,
});
export const loadSet: Shape<T.LoadSet> = object<T.LoadSet>({ name: label, scenes: list(text) });
export const peer: Shape<T.Peer> = object<T.Peer>({ name: label, role: oneOf('server', 'client') });
