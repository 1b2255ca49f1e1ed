import type { AssetIndex } from '../project/index-project.js';
import type { Binding, Field } from '../project/types.js';

export type CatalogueKind = 'event' | 'action' | 'channel' | 'enum' | 'table' | 'loadSet' | 'peer' | 'tag';
export const CATALOGUE_KINDS: readonly CatalogueKind[] = [
  'event',
  'action',
  'channel',
  'enum',
  'table',
  'loadSet',
  'peer',
  'tag',
];

/** What stands out about an entry. */
export type CatalogueMark =
  /** Nobody listens to it. */
  | 'unheard'
  /** Nothing brings it about: no cause, no effect, no publisher, no binding that does it. */
  | 'never raised'
  /** A channel on which somebody tells or hears without a key. */
  | 'unkeyed'
  /** Some of its bindings are made in code. */
  | 'in code'
  | 'no note'
  /** The policy asks for other names. */
  | 'odd name'
  /** An enum or key table that nothing is declared with. */
  | 'unused';
export const CATALOGUE_MARKS: readonly CatalogueMark[] = [
  'unheard',
  'never raised',
  'unkeyed',
  'in code',
  'no note',
  'odd name',
  'unused',
];

/** One thing that has a name and is used by others. */
export interface CatalogueEntry {
  kind: CatalogueKind;
  /** Of an event or action; empty for what belongs to the project. */
  asset: string;
  name: string;
  /** How it comes about, in words; the role of a peer. */
  about: string;
  /** The values of an enum, the keys of a table, the scenes of a load set, the assets with a tag. */
  items: readonly string[];
  fields: readonly Field[];
  note: string;
  /** Bindings and effects that bring it about; for an enum or a table what is declared with it; for a tag what has it. */
  brings: number;
  /** Bindings that follow from it. */
  hears: number;
  marks: readonly CatalogueMark[];
}

/** A binding that uses an entry, or an effect that does. */
export interface CatalogueUse {
  owner: AssetIndex;
  binding?: Binding;
  /** An action of the owner, or a declaration, in words. */
  text?: string;
  side: 'brings' | 'hears';
}
