import {
  byTag,
  label,
  list,
  object,
  oneOf,
  optional,
  refine,
  text,
  wholeAtLeast,
  yes,
  withDefinitions,
  type JsonSchema,
  type Shape,
  Reading,
} from '../project/shape.js';
import { BrokenDocument } from '../project/problem.js';
import { ASSET_PARTS, PROJECT_PARTS, type Change, type ChangeSet, type ListName } from './change.js';

/** A place in a list; past its end means the end. */
const place = wholeAtLeast(0);
const lists = oneOf<ListName>('bindings', 'placements');
const anyItem: Shape<unknown> = {
  schema: { type: 'object' },
  check: (v, r) => {
    if (typeof v !== 'object' || v === null || Array.isArray(v)) r.fail('an object', v);
  },
};
/** What a part may be is checked when it is set. */
const anyValue: Shape<unknown> = { schema: {}, check: () => undefined };
const change: Shape<Change> = byTag<Change>('op', {
  insert: object<object>({ op: text, list: lists, asset: text, index: place, item: anyItem }),
  remove: object<object>({ op: text, list: lists, asset: text, id: text, dropList: optional(yes) }),
  replace: object<object>({ op: text, list: lists, asset: text, id: text, item: anyItem }),
  move: object<object>({ op: text, list: lists, asset: text, id: text, index: place }),
  set: refine(
    object<{ op: string; part: string; asset?: string; value?: unknown; before?: string }>({
      op: text,
      asset: optional(text),
      part: text,
      value: optional(anyValue),
      before: optional(text),
    }),
    ({ part, asset }, reading) => {
      const parts: readonly string[] = asset === undefined ? PROJECT_PARTS : ASSET_PARTS;
      if (parts.includes(part)) return;
      reading.path.push('part');
      reading.failText(`one of ${parts.join(', ')}`, JSON.stringify(part));
      reading.path.pop();
    },
  ),
  add: object<object>({ op: text, index: place, item: anyItem }),
  drop: object<object>({ op: text, asset: text }),
});
const changeSet = object<ChangeSet>({ label, changes: list(change, undefined, 1) });

/** The JSON Schema of one change; what it puts in is checked when it is applied, by the project's own. */
export function changeJsonSchema(): JsonSchema {
  return withDefinitions(change.schema);
}

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
