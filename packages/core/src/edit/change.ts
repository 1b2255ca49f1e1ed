import type { Binding, Placement } from '../project/types.js';

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
/** One step of an edit. `replace` may give the item another id. */
export type Change = ChangeOf<'bindings'> | ChangeOf<'placements'>;

/** An edit: its steps are applied in order, all or none. The label is a sentence for the history. */
export interface ChangeSet {
  label: string;
  changes: Change[];
}
