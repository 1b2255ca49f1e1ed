import { OquelError } from '../util/oquel-error.js';
import { asset as assetShape, placement } from '../project/asset-shapes.js';
import { binding } from '../project/binding-shapes.js';
import { project as projectShape } from '../project/document.js';
import { toPointer, type Problem } from '../project/problem.js';
import { Reading, type Shape } from '../project/shape.js';
import { FORMAT, type Asset } from '../project/types.js';
import type { ItemChange, ListName, PartChange } from './change.js';

/** Thrown when an edit cannot be applied to the project as it stands; the project is unchanged. */
export class EditRefused extends OquelError {
  override readonly name = 'EditRefused';
  readonly code = 'edit-refused';
  constructor(
    /** Position of the change in its set. */
    readonly change: number,
    readonly reason: 'no-asset' | 'no-item' | 'id-taken' | 'broken-item',
    message: string,
    /** Where an item is broken, with pointers into the change. */
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
  }
}

const SHAPES: Record<ListName, Shape<unknown>> = { bindings: binding, placements: placement };
const ONE: Record<ListName, string> = { bindings: 'binding', placements: 'placement' };

/** Checks the item of a change by the format. @throws EditRefused */
export function checkItem(change: ItemChange & { item: unknown }, n: number): void {
  check(SHAPES[change.list], change.item, ['item'], ONE[change.list], n);
}
/** @throws EditRefused */
export function checkAsset(item: Asset, n: number): void {
  check(assetShape, item, ['item'], `${item.kind} ${item.id}`, n);
}
/** Checks a part as it would stand in an otherwise empty document. @throws EditRefused */
export function checkPart(change: PartChange, n: number): void {
  const { part, value } = change;
  if (value === undefined) {
    if (part === 'name') throw new EditRefused(n, 'broken-item', 'a project must have a name');
    return;
  }
  const [shape, bare] =
    change.asset === undefined
      ? [projectShape, { format: FORMAT, name: 'x', assets: [] }]
      : [assetShape, { id: 'x', kind: 'scene' }];
  check(shape, { ...bare, [part]: value }, [], part, n);
}

function check(shape: Shape<unknown>, value: unknown, under: string[], what: string, n: number): void {
  const reading = new Reading();
  shape.check(value, reading);
  if (reading.problems.length === 0) return;
  const base = toPointer(['changes', n, ...under]);
  const problems = reading.problems.map((p) => ({ ...p, pointer: base + p.pointer }));
  const [{ expected, found, pointer }] = problems;
  const message = `the ${what} is not valid: expected ${expected}, found ${found} at ${pointer}`;
  throw new EditRefused(n, 'broken-item', message, problems);
}

export function idTaken(
  { asset, list, item }: ItemChange & { item: { id: string } },
  n: number,
): EditRefused {
  return new EditRefused(n, 'id-taken', `${asset} already has a ${ONE[list]} "${item.id}"`);
}
export function noItem({ asset, list, id }: ItemChange & { id: string }, n: number): EditRefused {
  return new EditRefused(n, 'no-item', `${asset} has no ${ONE[list]} "${id}"`);
}
