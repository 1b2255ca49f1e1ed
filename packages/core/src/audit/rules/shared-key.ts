import { loadedTogether, type LoadedTogether } from '../loaded-together.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Value } from '../../project/types.js';
import type { AnalysisInputs } from '../inputs.js';
import { defaultedKeys, KEPT, ownOrDefault } from '../defaulted-keys.js';
import { placesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const sharedKey = defineRule<'shared'>({
  meta: {
    name: 'shared-key',
    severity: 'warning',
    group: 'correctness',
    what: 'Two instances that can be loaded together have the same value of a property that should be unique.',
    why: 'Either of them may react.',
    fix: 'Give each its own value.',
  },
  messages: { shared: '{count} copies of {asset} have {property} {value}' },
  parts: [
    {
      unit: 'copies',
      check(inputs, asset, report) {
        const unique = asset.properties.filter((p) => p.unique === true);
        if (unique.length === 0) return;
        const defaulted = new Set(defaultedKeys(inputs.ownKeys, asset).map((d) => d.property));
        const together = loadedTogether(inputs);
        for (const { name } of unique) {
          for (const { value, instances } of sharing(inputs, asset, name, defaulted.has(name))) {
            const meeting = sharers(inputs, instances, together);
            if (meeting.length === 0) continue;
            const text = JSON.stringify(value);
            report({
              subject: { asset: asset.decl.id, property: name, key: value },
              occurrences: meeting,
              message: 'shared',
              data: () => ({ count: meeting.length, asset: asset.decl.id, property: name, value: text }),
              evidence: () => placesEvidence(inputs.x, meeting, `has ${name} ${text}`),
            });
          }
        }
      },
    },
  ],
});

/** Instances with the same value of a property, two or more: not those that keep its default where that is reported. */
function* sharing(
  { x, g }: AnalysisInputs,
  { at }: AssetIndex,
  property: string,
  isDefaultLeftOut: boolean,
): Iterable<{ value: Value; instances: Int32Array }> {
  for (const [n, all] of g.select.byValue.of(at, property)) {
    if (all.length < 2) continue;
    const instances = all.filter(
      (i) => !x.isSpawned(i) && !(isDefaultLeftOut && ownOrDefault(x, i, property) === KEPT),
    );
    if (instances.length >= 2) yield { value: g.values.value(n), instances };
  }
}

/** Those that meet another of them: in the same scene, or in one that can be loaded beside theirs. */
function sharers(inputs: AnalysisInputs, instances: Int32Array, together: LoadedTogether): number[] {
  const byScene = new Map<number, number[]>();
  for (const i of instances) {
    const scene = inputs.x.asset[inputs.x.sceneOf(i)];
    const own = byScene.get(scene);
    if (own) own.push(i);
    else byScene.set(scene, [i]);
  }
  const meeting = together.meeting([...byScene.keys()]);
  return [...byScene]
    .filter(([scene, own]) => own.length > 1 || meeting.has(scene))
    .flatMap(([, own]) => own);
}
