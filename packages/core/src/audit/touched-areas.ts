import type { Project } from '../project/types.js';
import type { AnalysisInputs } from './inputs.js';

/**
 * The events of instances whose place or area changed, and where an entry moved, those of its whole scene. The same things
 * stand in both projects. Cost: the placements that differ, and the instances that stand for them.
 */
export function touchedAreas(inputs: AnalysisInputs, before: Project, after: Project): Set<number> {
  const { x } = inputs;
  const events = new Set<number>();
  const take = (instance: number): void => {
    const { events: declared } = x.assetOf(instance);
    declared.forEach(({ cause }, e) => {
      if (cause.type === 'area-enter' || cause.type === 'area-leave') events.add(x.nodeBase[instance] + e);
    });
  };
  const takeWith = (instance: number, isOtherEntry: boolean): void => {
    let [from, end] = [instance, x.end[instance]];
    if (isOtherEntry) [from, end] = [x.sceneOf(instance), x.end[x.sceneOf(instance)]];
    for (let i = from; i < end; i++) {
      if (x.placementOf(i)?.entry !== true) continue;
      from = x.sceneOf(instance);
      end = x.end[from];
      break;
    }
    for (let i = from; i < end; i++) take(i);
  };
  after.assets.forEach((asset, at) => {
    const old = before.assets[at];
    if (asset === old) return;
    if (asset.area !== old.area) for (const i of inputs.instancesOf(at)) take(i);
    asset.placements?.forEach((p, slot) => {
      const was = old.placements![slot];
      if (p === was || (p.at === was.at && p.area === was.area && p.entry === was.entry)) return;
      for (const i of inputs.instancesOfPlacement(at, slot)) takeWith(i, p.entry !== was.entry);
    });
  });
  return events;
}
