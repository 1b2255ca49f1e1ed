import type { AuditContext } from '../context.js';
import { placesEvidence } from '../places.js';
import { defineRule } from '../rule.js';

export const defaultKey = defineRule<'default'>({
  meta: {
    name: 'default-key',
    severity: 'warning',
    group: 'correctness',
    what: 'Several copies keep the default key while others have one of their own.',
    why: 'What is meant for one of them reaches all that were forgotten.',
    cure: 'Give each its own key.',
  },
  messages: { default: '{count} {asset} keep the default {property} while others have their own' },
  check(ctx, report) {
    for (const { asset, property, instances } of defaultedKeys(ctx)) {
      const { id } = ctx.index.assets[asset].decl;
      report({
        subject: { asset: id, property },
        occurrences: instances,
        message: 'default',
        data: { count: instances.length, asset: id, property },
        evidence: () => placesEvidence(ctx.x, instances, `keeps the default ${property}`),
      });
    }
  },
});

/** Instances that do not override a key property which another of their asset overrides; two or more. */
export function defaultedKeys(ctx: AuditContext): { asset: number; property: string; instances: number[] }[] {
  const found: { asset: number; property: string; instances: number[] }[] = [];
  for (const asset of ctx.index.assets) {
    for (const { name, isKey } of asset.properties) {
      if (isKey !== true) continue;
      const placed = [...ctx.instancesOf(asset.at)].filter((i) => !ctx.x.isSpawned(i));
      const kept = placed.filter((i) => !Object.hasOwn(ctx.overridesOf(i), name));
      if (kept.length >= 2 && kept.length < placed.length) {
        found.push({ asset: asset.at, property: name, instances: kept });
      }
    }
  }
  return found;
}
