import { declareFor } from '../declare/declare.js';
import { needsText } from '../declare/note.js';
import type { Wish } from '../declare/needs.js';
import { literalType } from '../project/arg-types.js';
import { defaultOfType } from '../project/type-values.js';
import type { ChangeSet } from '../edit/change.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Effect, EventDecl, Property, Type } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { bindingOf, type ProposeFixes } from './proposal.js';

/** What the binding names and is not there is declared and placed, as if its line were typed. */
export const fixByDeclaring: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { owner, binding } = found;
  const first = declareFor(index, owner, [binding]);
  // Whoever takes this fix means the name as it is.
  const wishes = new Map(first.needs.map((n): [string, Wish] => [n.key, { make: true }]));
  const { needs, making } = declareFor(index, owner, [binding], wishes);
  return making.length === 0 ? [] : [{ label: `Create ${needsText(needs)}`, changes: making }];
};

/** The prefab that is placed and is not there. */
export const fixByNewAsset: ProposeFixes = (index, { subject }) => {
  if (!('placement' in subject) || subject.placement === undefined) return [];
  const owner = index.assets[index.assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  const placement = owner?.placements[owner.placementAt.get(subject.placement) ?? -1];
  if (!owner || !placement || index.assetAt.has(placement.asset)) return [];
  return [newAsset(index, placement.asset, owner.decl.kind === 'widget' ? 'widget' : 'prefab')];
};

/** The event, property or prefab that an effect names. */
export const fixEffect: ProposeFixes = (index, { subject, evidence }) => {
  if (!('action' in subject) || evidence.kind !== 'names') return [];
  const asset = index.assets[index.assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  const at = asset?.actionAt.get(subject.action);
  if (!asset || at === undefined) return [];
  const { wanted } = evidence;
  const { effects = [], params = [] } = asset.actions[at];
  const naming = effects.find((e) => namedBy(e).includes(wanted));
  if (!naming) return [];
  if ('raise' in naming && naming.raise === wanted) {
    const event: EventDecl = { name: wanted, cause: { type: 'raised' } };
    return [declare(asset, 'events', [...asset.events, event], `Declare the event ${wanted}`)];
  }
  if ('spawn' in naming && naming.spawn === wanted) {
    return index.assetAt.has(wanted) ? [] : [newAsset(index, wanted, 'prefab')];
  }
  const type = typeOf(naming, (param) => params.find((p) => p.name === param)?.type);
  const property: Property = { name: wanted, type, default: defaultOfType(index, type) };
  return [declare(asset, 'properties', [...asset.properties, property], `Declare the property ${wanted}`)];
};

/** What an effect names that its asset or project must have. */
function namedBy(effect: Effect): string[] {
  const names = effect.when && 'property' in effect.when ? [effect.when.property] : [];
  for (const part of ['set', 'toggle', 'add', 'raise', 'spawn'] as const) {
    if (Object.hasOwn(effect, part)) names.push((effect as Record<typeof part, string>)[part]);
  }
  return names;
}
function typeOf(effect: Effect, paramType: (name: string) => Type | undefined): Type {
  if ('toggle' in effect) return 'bool';
  const value = 'set' in effect ? effect.to : 'add' in effect ? effect.by : effect.when?.is;
  if (value === undefined) return 'bool';
  if (isLiteral(value)) return literalType(value);
  return ('param' in value && paramType(value.param)) || 'float';
}
function declare(
  asset: AssetIndex,
  part: 'events' | 'properties',
  value: EventDecl[] | Property[],
  label: string,
): ChangeSet {
  return {
    label: `${label} of ${asset.decl.id}`,
    changes: [{ op: 'set', asset: asset.decl.id, part, value } as ChangeSet['changes'][number]],
  };
}
function newAsset(index: ProjectIndex, id: string, kind: 'prefab' | 'widget'): ChangeSet {
  return {
    label: `Create the ${kind} ${id}`,
    changes: [{ op: 'add', index: index.assets.length, item: { id, kind } }],
  };
}
