import { compileWiring, type CompiledWiring } from '../compile/compile.js';
import type { Expansion } from '../expand/expansion.js';

/** What is compiled for a walk is of this moment alone, and stands beside nothing that it could be taken for. */
const HASH = 'walk';

/**
 * The wiring of the scenes that are loaded together in a walk: those of a load set and the persistent ones, or all without
 * one. Null if the load set is not there. Cost: linear in their instances and expanded bindings.
 */
export function walkWiring(x: Expansion, loadSet: string | undefined): CompiledWiring | null {
  const { project, assets } = x.index;
  if (loadSet === undefined) return compileWiring(x, { hash: HASH });
  const set = project.loadSets?.find((s) => s.name === loadSet);
  if (!set) return null;
  const always = assets.filter(({ decl }) => decl.kind === 'scene' && decl.persistent === true);
  return compileWiring(x, { hash: HASH, scenes: [...set.scenes, ...always.map((a) => a.decl.id)] });
}
