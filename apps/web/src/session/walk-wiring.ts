import { walkWiring, type CompiledWiring, type ProjectIndex } from '@oquel/core';
import { inSlices } from '../workers/in-slices.js';

/** What was compiled of a project as it is; gone with that state of it. */
const compiled = new WeakMap<ProjectIndex, { loadSet: string; wiring: CompiledWiring | null }>();

/**
 * The wiring that a walk runs on, compiled in slices; null if there is no such load set, which is empty for all scenes. Cost: as
 * `walkWiring`, and nothing when it was compiled last of the same state. @throws Cancelled, once it is not wanted;
 * ProjectTooLarge
 */
export async function wiringForWalk(
  index: ProjectIndex,
  loadSet: string,
  isWanted: () => boolean,
): Promise<CompiledWiring | null> {
  const kept = compiled.get(index);
  if (kept?.loadSet === loadSet) return kept.wiring;
  // Here and not in the audit worker: what is compiled is so many small objects that sending them takes longer.
  const wiring = await inSlices(walkWiring(index, loadSet === '' ? undefined : loadSet), isWanted);
  compiled.set(index, { loadSet, wiring });
  return wiring;
}
