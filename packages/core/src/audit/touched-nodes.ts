import type { EffectRef } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { sameJson } from '../util/same-json.js';
import type { AnalysisInputs } from './inputs.js';

/** So many instances whose nodes change are followed; beyond it all is worked out anew. */
const MOST_INSTANCES = 2000;

/**
 * The bindings at the events and actions of assets that declare others now: all of them are taken out, and put back once the
 * nodes are others. Null where that cannot be followed: the assets spawn other things, or have too many instances. Cost: a pass
 * over the numbers of bindings.
 */
export function bindingsOfNodes(
  inputs: AnalysisInputs,
  assets: ReadonlySet<number>,
  after: Project,
): Set<number> | null {
  const { index } = inputs;
  let instances = 0;
  const found = new Set<number>();
  for (const at of assets) {
    const now = (after.assets[at].actions ?? []).flatMap((a, action) =>
      (a.effects ?? []).map((effect) => ({ action, effect })),
    );
    if (!sameJson(spawning(index.assets[at].effects), spawning(now))) return null;
    instances += inputs.instancesOf(at).length;
    if (instances > MOST_INSTANCES) return null;
    for (const number of inputs.bindingsAt(at)) found.add(number);
  }
  if (assets.size > 0) {
    for (const number of inputs.bindingsThat('lead through a stand-in')) found.add(number);
  }
  return found;
}

function spawning(effects: readonly EffectRef[]): unknown {
  return effects.flatMap(({ effect }) => ('spawn' in effect ? [effect] : []));
}
