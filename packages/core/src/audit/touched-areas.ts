import type { Expansion } from '../expand/expansion.js';
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
    for (const n of areaEvents(x, instance)) events.add(n);
  };
  const takeWith = (instance: number, isOtherEntry: boolean): void => {
    let [from, end] = [instance, x.end[instance]];
    if (isOtherEntry) [from, end] = [x.sceneOf(instance), x.end[x.sceneOf(instance)]];
    for (let i = from; i < end; i++) {
      if (x.isFree(i) || x.placementOf(i)?.entry !== true) continue;
      from = x.sceneOf(instance);
      end = x.end[from];
      break;
    }
    for (let i = from; i < end; i++) if (!x.isFree(i)) take(i);
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

/** The events of an instance that tell of its area. */
export function areaEvents(x: Expansion, instance: number): number[] {
  return x
    .assetOf(instance)
    .events.flatMap(({ cause }, e) =>
      cause.type === 'area-enter' || cause.type === 'area-leave' ? [x.nodeBase[instance] + e] : [],
    );
}

/** The instances of the scenes in which players start at some of these instances, or started before an edit. */
export function entriesAround(x: Expansion, before: Project, instances: readonly number[]): number[] {
  const isEntry = (i: number): boolean => {
    const parent = x.parent[i];
    const { placements } = x.assetOf(parent);
    const was = before.assets[x.asset[parent]].placements ?? [];
    return [...placements, ...was].some((p) => p.entry === true);
  };
  const scenes = new Set(instances.filter(isEntry).map((i) => x.sceneOf(i)));
  const all: number[] = [];
  for (const scene of scenes) for (let i = scene; i < x.end[scene]; i++) if (!x.isFree(i)) all.push(i);
  return all;
}
