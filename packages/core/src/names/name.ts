/** Everything in a document that has a name. */
export type NameKind =
  | 'asset'
  | 'event'
  | 'action'
  | 'property'
  | 'placement'
  | 'binding'
  /** A parameter of an action. */
  | 'param'
  /** A field that an event or a channel carries. */
  | 'eventField'
  | 'channelField'
  | 'channel'
  | 'enum'
  | 'enumValue'
  | 'table'
  | 'tableKey'
  | 'loadSet'
  | 'peer'
  | 'tag'
  | 'rehearsal';

/**
 * What a name stands for. `asset` is the scene, prefab or widget that declares it, empty for what belongs to the project;
 * `of` is the action, event, channel, enum or table that it is part of, empty for what is part of none.
 */
export interface NameRef {
  kind: NameKind;
  asset: string;
  of: string;
  name: string;
}

/** Is shown every name of a document, once for each place where it stands, and answers what is to stand there. */
export type NameVisitor = (kind: NameKind, asset: string, of: string, name: string) => string;

/** A text that is equal for the same name alone. */
export function nameKey({ kind, asset, of, name }: NameRef): string {
  return `${kind}\n${asset}\n${of}\n${name}`;
}
