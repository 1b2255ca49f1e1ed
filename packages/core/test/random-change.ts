import { ASSET_PARTS, type Binding, type Change, type Project } from '../src/index.js';
import type { Random } from './random.js';
import { randomProject } from './random-project.js';

/** A change that can be applied to the project, of any kind. */
export function randomChange(r: Random, project: Project): Change {
  return r.chance(0.25) ? randomDeclarationChange(r, project) : randomItemChange(r, project);
}

/** A change of what an asset or the project declares, taken from another random project; or of the assets there are. */
function randomDeclarationChange(r: Random, project: Project): Change {
  const other = randomProject(r.int(1e6));
  const from = r.pick(other.assets);
  const what = r.int(5);
  if (what === 0 && project.assets.length > 1) return { op: 'drop', asset: r.pick(project.assets).id };
  if (what === 1) {
    return { op: 'add', index: r.int(project.assets.length + 1), item: { ...from, id: `N${r.int(1e9)}` } };
  }
  if (what === 2) {
    const part = r.pick(['channels', 'loadSets', 'peers', 'policy', 'waivers', 'note'] as const);
    return { op: 'set', part, ...(other[part] === undefined ? {} : { value: other[part] }) } as Change;
  }
  const part = r.pick(ASSET_PARTS);
  const value = from[part] === undefined ? {} : { value: from[part] };
  return { op: 'set', asset: r.pick(project.assets).id, part, ...value } as Change;
}

function randomItemChange(r: Random, project: Project): Change {
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

/** A change of one binding, its ends taken from bindings that are there; null if no asset has any. */
export function randomBindingChange(r: Random, project: Project): Change | null {
  const wired = project.assets.filter((a) => a.bindings !== undefined && a.bindings.length > 0);
  if (wired.length === 0) return null;
  const { id: asset, bindings = [] } = r.pick(wired);
  const head = { list: 'bindings' as const, asset };
  const one = r.pick(bindings);
  const op = r.pick(['insert', 'remove', 'replace', 'replace', 'move'] as const);
  if (op === 'remove') return { op, ...head, id: one.id };
  if (op === 'move') return { op, ...head, id: one.id, index: r.int(bindings.length + 1) };
  const item = mixed(r, bindings, op === 'insert' ? `n${r.int(1e9)}` : one.id);
  return op === 'insert'
    ? { op, ...head, index: r.int(bindings.length + 1), item }
    : { op, ...head, id: one.id, item };
}

function mixed(r: Random, bindings: readonly Binding[], id: string): Binding {
  const from = r.pick(bindings);
  const to = r.pick(bindings);
  const both = 'channel' in from.from && 'channel' in to.to ? from : to;
  return {
    ...from,
    id,
    to: both.to,
    ...(r.chance(0.3) ? { enabled: false } : {}),
    ...(r.chance(0.3) ? { delay: r.int(3) / 2 } : {}),
    ...(r.chance(0.2) ? { limit: 1 } : {}),
  };
}

/** A change that leaves the graph as it is: something moves, gets another area or note; pictures, waivers, limits, rehearsals. */
export function randomQuietChange(r: Random, project: Project): Change {
  const asset = r.pick(project.assets);
  const other = randomProject(r.int(1e6));
  const head = { list: 'placements' as const, asset: asset.id };
  const placements = asset.placements ?? [];
  const what = r.int(8);
  if (what < 4 && placements.length > 0) {
    const one = r.pick(placements);
    const item = r.pick([
      { ...one, at: [r.int(40), r.int(40)] as [number, number] },
      { ...one, area: { circle: 1 + r.int(30) } },
      { ...one, note: `n${r.int(9)}` },
    ]);
    return { op: 'replace', ...head, id: one.id, item };
  }
  if (what === 4) {
    const part = r.pick(['policy', 'waivers', 'note', 'rehearsals'] as const);
    return { op: 'set', part, ...(other[part] === undefined ? {} : { value: other[part] }) } as Change;
  }
  if (what === 5) return { op: 'set', part: 'name', value: `Harbour ${r.int(9)}` };
  if (what === 6 && asset.events !== undefined) {
    const value = asset.events.map((e) => ({ ...e, note: `n${r.int(9)}` }));
    return { op: 'set', asset: asset.id, part: 'events', value };
  }
  return { op: 'set', asset: asset.id, part: 'area', value: { circle: 1 + r.int(30) } };
}
