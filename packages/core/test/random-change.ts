import type { Change, Project } from '../src/index.js';
import type { Random } from './random.js';

/** A change that can be applied to the project: of a binding or a placement, of any kind. */
export function randomChange(r: Random, project: Project): Change {
  const asset = r.pick(project.assets);
  const list = r.pick(['bindings', 'placements'] as const);
  const items: { id: string }[] = asset[list] ?? [];
  const op = items.length === 0 ? 'insert' : r.pick(['insert', 'remove', 'replace', 'move'] as const);
  const fresh = (id: string): unknown =>
    list === 'bindings'
      ? { id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'doA' } }
      : { id, asset: r.pick(project.assets).id };
  const head = { list, asset: asset.id };
  const id = items.length > 0 ? r.pick(items).id : '';
  if (op === 'insert') return { op, ...head, index: r.int(6), item: fresh(`n${r.int(1e9)}`) } as Change;
  if (op === 'replace')
    return { op, ...head, id, item: fresh(r.chance(0.5) ? id : `n${r.int(1e9)}`) } as Change;
  return op === 'move' ? { op, ...head, id, index: r.int(6) } : { op, ...head, id };
}
