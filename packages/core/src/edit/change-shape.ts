import {
  byTag,
  finite,
  label,
  list,
  object,
  oneOf,
  optional,
  text,
  yes,
  type Shape,
  Reading,
} from '../project/shape.js';
import { BrokenDocument } from '../project/problem.js';
import type { Change, ChangeSet, ListName } from './change.js';

const lists = oneOf<ListName>('bindings', 'placements');
const anyItem: Shape<unknown> = {
  schema: { type: 'object' },
  check: (v, r) => {
    if (typeof v !== 'object' || v === null || Array.isArray(v)) r.fail('an object', v);
  },
};
const change: Shape<Change> = byTag<Change>('op', {
  insert: object<object>({ op: text, list: lists, asset: text, index: finite, item: anyItem }),
  remove: object<object>({ op: text, list: lists, asset: text, id: text, dropList: optional(yes) }),
  replace: object<object>({ op: text, list: lists, asset: text, id: text, item: anyItem }),
  move: object<object>({ op: text, list: lists, asset: text, id: text, index: finite }),
});
const changeSet = object<ChangeSet>({ label, changes: list(change, undefined, 1) });

/**
 * Checks a change set that comes from outside. Its items are checked when it is applied.
 * @throws BrokenDocument
 */
export function readChangeSet(value: unknown): ChangeSet {
  const reading = new Reading();
  changeSet.check(value, reading);
  if (reading.problems.length > 0) throw new BrokenDocument(reading.problems);
  return value as ChangeSet;
}
