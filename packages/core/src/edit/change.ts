import type { Asset, Binding, Placement, Project } from '../project/types.js';

/** A list of the document whose items have ids. Positions count from 0. */
export interface ListItems {
  bindings: Binding;
  placements: Placement;
}
export type ListName = keyof ListItems;

type ChangeOf<L extends ListName> =
  | { op: 'insert'; list: L; asset: string; index: number; item: ListItems[L] }
  /** With `dropList` the list goes too if that empties it: the undoing of an insertion that made the list. */
  | { op: 'remove'; list: L; asset: string; id: string; dropList?: true }
  | { op: 'replace'; list: L; asset: string; id: string; item: ListItems[L] }
  | { op: 'move'; list: L; asset: string; id: string; index: number };
/** A step that concerns one binding or placement. `replace` may give the item another id. */
export type ItemChange = ChangeOf<'bindings'> | ChangeOf<'placements'>;

/** What an asset declares of itself, besides its id, kind, placements and bindings. */
export const ASSET_PARTS = [
  'tags',
  'note',
  'mark',
  'persistent',
  'runsInPause',
  'existsOn',
  'size',
  'backdrop',
  'area',
  'origin',
  'source',
  'properties',
  'events',
  'actions',
] as const;
export type AssetPart = (typeof ASSET_PARTS)[number];
/** What a project declares besides its assets. */
export const PROJECT_PARTS = [
  'name',
  'note',
  'enums',
  'tables',
  'channels',
  'loadSets',
  'peers',
  'policy',
  'waivers',
  'rehearsals',
] as const;
export type ProjectPart = (typeof PROJECT_PARTS)[number];

/**
 * Puts another value in the place of a whole part; without a value the part goes. `before` is the part in front of which
 * a new one is put, so that undoing gives back the order of the document; without it the part comes last.
 */
export type AssetPartChange = {
  [P in AssetPart]: { op: 'set'; asset: string; part: P; value?: Asset[P]; before?: string };
}[AssetPart];
export type ProjectPartChange = {
  [P in ProjectPart]: { op: 'set'; asset?: undefined; part: P; value?: Project[P]; before?: string };
}[ProjectPart];
export type PartChange = AssetPartChange | ProjectPartChange;

/** A scene, prefab or widget comes or goes, with all that it holds. */
export type AssetChange = { op: 'add'; index: number; item: Asset } | { op: 'drop'; asset: string };

/** One step of an edit. */
export type Change = ItemChange | PartChange | AssetChange;

/** An edit: its steps are applied in order, all or none. The label is a sentence for the history. */
export interface ChangeSet {
  label: string;
  changes: Change[];
}
