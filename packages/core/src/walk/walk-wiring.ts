import { compileSteps, type CompiledWiring } from '../compile/compile.js';
import { expand } from '../expand/expand.js';
import type { ProjectIndex } from '../project/index-project.js';
import { scenesLoadedWith } from '../project/load-sets.js';
import { asPart, type WorkStep } from '../util/steps.js';

/** What is compiled for a walk is of this moment alone, and stands beside nothing that it could be taken for. */
const HASH = 'walk';

/**
 * The wiring of the scenes that are loaded together in a walk: those of a load set and the persistent ones, or all without
 * one. Null if the load set is not there. Cost: the expansion, then linear in the instances and expanded bindings of these
 * scenes. @throws ProjectTooLarge
 */
export function* walkWiring(
  index: ProjectIndex,
  loadSet: string | undefined,
): Generator<WorkStep, CompiledWiring | null> {
  const scenes = loadSet === undefined ? undefined : scenesLoadedWith(index.project, loadSet);
  if (scenes === null) return null;
  yield { doing: 'expanding', done: 0, of: 4 };
  const x = expand(index);
  const compiling = compileSteps(x, { hash: HASH, ...(scenes ? { scenes } : {}) });
  return yield* asPart(compiling, { done: 1, share: 3, of: 4 });
}
