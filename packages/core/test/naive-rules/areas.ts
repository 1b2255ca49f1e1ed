import type { NaiveInstance } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

function position(r: NaiveReading, i: NaiveInstance): [number, number] {
  if (!i.parent) return [0, 0];
  const [x, y] = position(r, i.parent);
  const [dx, dy] = i.parent.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1))?.at ?? [
    0, 0,
  ];
  return [x + dx, y + dy];
}

function areas(r: NaiveReading): void {
  const { instances, project } = r.n;
  const tags = project.assets.flatMap((a) => (a.tags ?? []).map((t) => `#${t}`));
  const names = new Set([...project.assets.map((a) => a.id), ...tags]);
  for (const asset of project.assets) {
    for (const e of asset.events ?? []) {
      const list = 'activators' in e.cause ? e.cause.activators : undefined;
      if (!list || list.some((x) => names.has(x))) continue;
      const at = instances.filter((i) => i.asset === asset).map((i) => i.address);
      r.report('no-activation', 'filter', { asset: asset.id, event: e.name }, at);
    }
  }
  const isEntry = (i: NaiveInstance): boolean =>
    !i.spawned &&
    i.parent?.asset.placements?.find((p) => p.id === i.address.split(/[/:]/).at(-1))?.entry === true;
  for (const { i, e, node } of r.bound) {
    if (e.cause.type !== 'area-enter' && e.cause.type !== 'area-leave') continue;
    const { area } = i.asset;
    if (!area) r.report('no-activation', 'area', r.placementRef(i), [i.address]);
    if (e.cause.type !== 'area-enter') continue;
    const [ax, ay] = position(r, i);
    const covered = instances.some((j) => {
      const [x, y] = position(r, j);
      return (
        isEntry(j) &&
        r.sceneOf(j) === r.sceneOf(i) &&
        area &&
        'circle' in area &&
        Math.hypot(x - ax, y - ay) <= area.circle
      );
    });
    if (covered && !i.spawned && !i.asleep) r.report('covers-entry', '', r.placementRef(i), [i.address]);
    const leaves = (i.asset.events ?? []).filter((l) => l.cause.type === 'area-leave');
    const paired = leaves.length === 0 || leaves.some((l) => r.isBound(`${i.address} ${l.name}`));
    const switches = r
      .deliveriesOf(node)
      .some(
        ({ last, before }) =>
          last.by!.binding.limit === undefined &&
          before?.by!.binding.limit === undefined &&
          (r.action(last.head)!.a.effects ?? []).some((x) => 'set' in x || 'wake' in x),
      );
    if (e.limit === undefined && !paired && switches)
      r.report('unpaired-area', '', r.placementRef(i), [i.address]);
  }
}

export const ofAreas: SecondReading = {
  rules: ['no-activation', 'covers-entry', 'unpaired-area'],
  read: areas,
};
