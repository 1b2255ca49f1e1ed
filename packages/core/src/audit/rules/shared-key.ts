import { initialValue } from '../../expand/values.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Value } from '../../project/types.js';
import { ValueMap } from '../../project/value.js';
import type { AnalysisInputs } from '../inputs.js';
import { defaultedKeys } from '../defaulted-keys.js';
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
      unit: 'asset',
      check(inputs, asset, report) {
        const unique = asset.properties.filter((p) => p.unique === true);
        if (unique.length === 0) return;
        const defaulted = new Map(
          defaultedKeys(inputs, asset).map((d) => [d.property, new Set(d.instances)]),
        );
        const together = inputs.once('loaded together', () => new Together(inputs));
        for (const { name } of unique) {
          for (const { value, instances } of byValue(inputs, asset, name, defaulted.get(name))) {
            if (instances.length < 2) continue;
            const sharing = sharers(inputs, instances, together);
            if (sharing.length === 0) continue;
            const text = JSON.stringify(value);
            report({
              subject: { asset: asset.decl.id, property: name, key: value },
              occurrences: sharing,
              message: 'shared',
              data: () => ({ count: sharing.length, asset: asset.decl.id, property: name, value: text }),
              evidence: () => placesEvidence(inputs.x, sharing, `has ${name} ${text}`),
            });
          }
        }
      },
    },
  ],
});

function byValue(
  inputs: AnalysisInputs,
  asset: AssetIndex,
  property: string,
  leftOut: ReadonlySet<number> | undefined,
): Iterable<{ value: Value; instances: number[] }> {
  const groups = new ValueMap<{ value: Value; instances: number[] }>();
  for (const i of inputs.instancesOf(asset.at)) {
    if (inputs.x.isSpawned(i) || leftOut?.has(i)) continue;
    const value = initialValue(inputs.x, i, property)!;
    const group = groups.get(value);
    if (group) group.instances.push(i);
    else groups.set(value, { value, instances: [i] });
  }
  return groups.values();
}

/** Those that meet another of them: in the same scene, or in one that can be loaded beside theirs. */
function sharers(inputs: AnalysisInputs, instances: readonly number[], together: Together): number[] {
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

/** Which scenes can be loaded together. */
class Together {
  /** For each scene the load sets that hold it. */
  private readonly setsOf = new Map<string, number[]>();
  constructor(private readonly inputs: AnalysisInputs) {
    (inputs.index.project.loadSets ?? []).forEach(({ scenes }, set) => {
      for (const scene of new Set(scenes)) {
        const sets = this.setsOf.get(scene);
        if (sets) sets.push(set);
        else this.setsOf.set(scene, [set]);
      }
    });
  }
  /** Those of some scenes that can be loaded beside another of them. Cost: the scenes and the load sets that hold them. */
  meeting(scenes: readonly number[]): Set<number> {
    const { assets } = this.inputs.index;
    if (scenes.length > 1 && scenes.some((s) => assets[s].decl.persistent === true)) return new Set(scenes);
    const setsOf = (scene: number): number[] => this.setsOf.get(assets[scene].decl.id) ?? [];
    const held = new Map<number, number>();
    for (const scene of scenes) for (const set of setsOf(scene)) held.set(set, (held.get(set) ?? 0) + 1);
    return new Set(scenes.filter((scene) => setsOf(scene).some((set) => held.get(set)! > 1)));
  }
}
