import type { AssetIndex, ProjectIndex } from '../../project/index-project.js';
import type { Effect } from '../../project/types.js';
import { isLiteral } from '../../project/value.js';
import { namesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

interface Missing {
  kind: string;
  name: string;
  known: Iterable<string>;
}

export const danglingEffect = defineRule<'missing'>({
  meta: {
    name: 'dangling-effect',
    severity: 'error',
    group: 'targets',
    what: 'An effect names a property, event, asset or parameter that does not exist.',
    why: 'The effect does nothing, without any error.',
    fix: 'Correct the name, or remove the effect.',
  },
  messages: { missing: '{action} of {asset} names the {kind} "{name}", which does not exist' },
  parts: [
    {
      unit: 'asset',
      check(inputs, asset, report) {
        for (const { action, effect } of asset.effects) {
          const { name } = asset.actions[action];
          for (const missing of missingNames(inputs.index, asset, action, effect)) {
            report({
              subject: { asset: asset.decl.id, action: name },
              occurrences: inputs.instancesOf(asset.at),
              message: 'missing',
              data: () => ({ action: name, asset: asset.decl.id, kind: missing.kind, name: missing.name }),
              evidence: () => namesEvidence(missing.name, missing.known),
            });
          }
        }
      },
    },
  ],
});

function missingNames(index: ProjectIndex, asset: AssetIndex, action: number, effect: Effect): Missing[] {
  const missing: Missing[] = [];
  const property = (name: string): void => {
    if (!asset.propertyAt.has(name)) missing.push({ kind: 'property', name, known: asset.propertyAt.keys() });
  };
  const param = (value: unknown): void => {
    if (isLiteral(value)) return;
    const { param: name } = value as { param: string };
    const known = (asset.actions[action].params ?? []).map((p) => p.name);
    if (!known.includes(name)) missing.push({ kind: 'parameter', name, known });
  };
  if (effect.when) {
    if ('property' in effect.when) property(effect.when.property);
    else param(effect.when);
  }
  if ('set' in effect) {
    property(effect.set);
    param(effect.to);
  } else if ('add' in effect) {
    property(effect.add);
    param(effect.by);
  } else if ('toggle' in effect) property(effect.toggle);
  else if ('raise' in effect) {
    if (!asset.eventAt.has(effect.raise)) {
      missing.push({ kind: 'event', name: effect.raise, known: asset.eventAt.keys() });
    }
  } else if ('spawn' in effect) {
    const at = index.assetAt.get(effect.spawn);
    if (at === undefined || index.assets[at].decl.kind === 'scene') {
      missing.push({ kind: 'prefab or widget', name: effect.spawn, known: index.assetAt.keys() });
    }
  }
  return missing;
}
