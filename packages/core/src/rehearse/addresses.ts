import { parsePath } from '../project/path.js';
import type { RehearsalModel } from './rehearsal-model.js';
import type { Copy, InstanceState } from './instance-state.js';
import type { Population } from './population.js';

/** What an address of a step names now. */
export type Named =
  | { live: InstanceState; fault: null }
  | { live: null; fault: 'dangling' }
  /** Its scene takes no part, or it is a copy that is not born yet, of an instance of that number. */
  | { live: null; fault: 'unloaded' | 'unborn'; base: number };

/** The instance of the expansion that is named, or that stands in for it; −1 for none. */
export function baseOf(named: Named): number {
  if (named.live) return named.live.base;
  return named.fault === 'dangling' ? -1 : named.base;
}

/**
 * Finds what a step speaks of. `~X` is the newest copy that lives, or else the newest; `~X#2` that one.
 * Cost: segments of the address.
 */
export function nameLive(
  model: RehearsalModel,
  population: Population,
  takesPart: (instance: number) => boolean,
  address: string,
): Named {
  const { x } = model;
  const { scene, segments } = parsePath(address);
  let at = scene === null ? -1 : (model.scenes.get(x.index.assetAt.get(scene) ?? -1) ?? -1);
  if (at < 0) return DANGLING;
  let number: number | null = null;
  for (const segment of segments) {
    if (segment.startsWith('~')) {
      const [, name, counted] = /^~(.*?)(?:#(\d+))?$/s.exec(segment)!;
      const asset = x.index.assetAt.get(name);
      at = asset === undefined ? -1 : x.standInOf(at, asset);
      number = counted === undefined ? null : Number(counted);
    } else {
      const slot = x.assetOf(at).placementAt.get(segment);
      at = slot === undefined ? -1 : x.children[x.childBase[at] + slot];
    }
    if (at < 0) return DANGLING;
  }
  if (!takesPart(at)) return { live: null, fault: 'unloaded', base: at };
  if (!x.isSpawned(at)) return { live: population.at(at), fault: null };
  const standIn = model.standInOver(at);
  const copy: Copy | null =
    number === null ? population.newest(standIn) : population.numbered(standIn, number);
  if (!copy) return { live: null, fault: 'unborn', base: at };
  return { live: population.inside(copy, at), fault: null };
}
const DANGLING: Named = { live: null, fault: 'dangling' };
