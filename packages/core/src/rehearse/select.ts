import type { Selection } from '../expand/select.js';
import { sameValue } from '../project/value.js';
import type { RehearsalModel } from './rehearsal-model.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';

/**
 * What an `every` selects in a run, in expansion order: what takes part and is not gone, by initial values, then the
 * first if only that is asked for. Copies stand at their stand-in's place.
 */
export function selectLive(
  model: RehearsalModel,
  population: Population,
  takesPart: (instance: number) => boolean,
  owner: InstanceState,
  selection: Selection,
): InstanceState[] {
  const { x } = model;
  const found: InstanceState[] = [];
  const { match } = selection;
  const take = (live: InstanceState): boolean => {
    if (live.gone) return false;
    found.push(live);
    return selection.pick === 'first';
  };
  const placed = { ...selection, spawned: false, pick: 'all' as const };
  if (!selection.spawned || owner.copy) {
    model.selector.each(owner.base, placed, (base) => {
      if (!takesPart(base)) return false;
      return take(population.beside(owner, base));
    });
    if (!selection.spawned || selection.within === 'asset') return found;
    found.length = 0;
  }
  const wanted = match ? model.values.value(match.value) : null;
  const fits = (live: InstanceState): boolean => {
    if (!match) return true;
    const value = population.initial(live, match.property);
    return value !== undefined && sameValue(value, wanted!);
  };
  const bases = basesOf(model, owner, selection).filter(takesPart);
  for (let i = 0; i < bases.length;) {
    const base = bases[i];
    if (!x.isSpawned(base)) {
      const live = population.at(base);
      if (fits(live) && take(live)) return found;
      i++;
      continue;
    }
    const standIn = model.standInOver(base);
    let end = i;
    while (end < bases.length && bases[end] < x.end[standIn]) end++;
    for (const copy of population.copiesOf(standIn)) {
      for (let k = i; k < end; k++) {
        const live = population.inside(copy, bases[k]);
        if (fits(live) && take(live)) return found;
      }
    }
    i = end;
  }
  return found;
}

function basesOf(model: RehearsalModel, owner: InstanceState, { asset, within }: Selection): number[] {
  const all = [...model.x.instancesOf(asset)];
  if (within === 'project') return all;
  return all.filter((i) => i > owner.base && i < model.x.end[owner.base]);
}
