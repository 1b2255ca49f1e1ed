import { initialValue } from '../../expand/values.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Value } from '../../project/types.js';
import { ValueMap } from '../../project/value.js';
import type { AuditContext } from '../context.js';
import { placesEvidence } from '../places.js';
import { defineRule } from '../rule.js';

export const sharedKey = defineRule<'shared'>({
  meta: {
    name: 'shared-key',
    severity: 'warning',
    group: 'correctness',
    ignoresBindings: true,
    what: 'Two things that can be loaded together have the same value where each should have its own.',
    why: 'Which of them answers is chance.',
    cure: 'Give each its own value.',
  },
  messages: { shared: '{count} {asset} have {property} {value}' },
  check(ctx, report) {
    const together = loadedTogether(ctx);
    for (const asset of ctx.index.assets) {
      for (const { name, unique } of asset.properties) {
        if (unique !== true) continue;
        const defaulted = ctx.defaultedKeys.find((d) => d.asset === asset.at && d.property === name);
        const leftOut = defaulted && new Set(defaulted.instances);
        for (const { value, instances } of byValue(ctx, asset, name, leftOut)) {
          if (instances.length < 2) continue;
          const sharing = sharers(ctx, instances, together);
          if (sharing.length === 0) continue;
          report({
            subject: { asset: asset.decl.id, property: name, key: value },
            occurrences: sharing,
            message: 'shared',
            data: {
              count: sharing.length,
              asset: asset.decl.id,
              property: name,
              value: JSON.stringify(value),
            },
            evidence: () => placesEvidence(ctx.x, sharing, `has ${name} ${JSON.stringify(value)}`),
          });
        }
      }
    }
  },
});

function byValue(
  ctx: AuditContext,
  asset: AssetIndex,
  property: string,
  leftOut: ReadonlySet<number> | undefined,
): Iterable<{ value: Value; instances: number[] }> {
  const groups = new ValueMap<{ value: Value; instances: number[] }>();
  for (const i of ctx.instancesOf(asset.at)) {
    if (ctx.x.isSpawned(i) || leftOut?.has(i)) continue;
    const value = initialValue(ctx.x, i, property)!;
    const group = groups.get(value);
    if (group) group.instances.push(i);
    else groups.set(value, { value, instances: [i] });
  }
  return groups.values();
}

/** Those that meet another of them: in the same scene, or in one that can be loaded beside theirs. */
function sharers(
  ctx: AuditContext,
  instances: readonly number[],
  together: (a: AssetIndex, b: AssetIndex) => boolean,
): number[] {
  const byScene = new Map<number, number[]>();
  for (const i of instances) {
    const scene = ctx.x.asset[ctx.x.sceneOf(i)];
    byScene.set(scene, [...(byScene.get(scene) ?? []), i]);
  }
  const scenes = [...byScene.keys()];
  const meets = (scene: number): boolean =>
    byScene.get(scene)!.length > 1 ||
    scenes.some((other) => other !== scene && together(ctx.index.assets[scene], ctx.index.assets[other]));
  return scenes.filter(meets).flatMap((scene) => byScene.get(scene)!);
}

function loadedTogether(ctx: AuditContext): (a: AssetIndex, b: AssetIndex) => boolean {
  const sets = (ctx.index.project.loadSets ?? []).map((s) => new Set(s.scenes));
  return (a, b) =>
    a.decl.persistent === true ||
    b.decl.persistent === true ||
    sets.some((s) => s.has(a.decl.id) && s.has(b.decl.id));
}
