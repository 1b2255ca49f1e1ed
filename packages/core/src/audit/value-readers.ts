import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { BINDING_TRAITS, isProperty } from './binding-traits.js';
import type { AnalysisInputs } from './inputs.js';

/** Owners of whose bindings the ends are looked up one by one; beyond it their assets decide. */
const FEW_COPIES = 16;

/**
 * Authored bindings whose edges depend on values of some instances: on a key that they read there, or on what a selection
 * matches. Cost: the bindings that read values at all.
 */
export function valueReaders(inputs: AnalysisInputs, instances: ReadonlySet<number>): Set<number> {
  const { x, index } = inputs;
  const found = new Set<number>();
  if (instances.size === 0) return found;
  const assets = new Set([...instances].map((i) => x.asset[i]));
  for (const number of inputs.bindingsThat('read values')) {
    const at = x.slots.assetOf(number);
    const position = x.slots.position(at, number - x.slots.base[at]);
    if (reads(inputs, index.assets[at], position, instances, assets)) found.add(number);
  }
  return found;
}

function reads(
  inputs: AnalysisInputs,
  owner: AssetIndex,
  position: number,
  instances: ReadonlySet<number>,
  assets: ReadonlySet<number>,
): boolean {
  const { from, to } = owner.bindings[position];
  const { index } = inputs;
  const selected = 'every' in to ? index.assetAt.get(to.every) : undefined;
  const readsSelected = 'every' in to && (isRead(to) || ('channel' in from && isProperty(from.key)));
  if (readsSelected && selected !== undefined && assets.has(selected)) return true;
  const ends = inputs.endAssets(owner, position);
  const few = inputs.instancesOf(owner.at).length <= FEW_COPIES;
  const readsSender = 'channel' in to ? isProperty(to.key) : 'every' in to && isRead(to);
  const readsReceiver = 'channel' in from && isProperty(from.key) && 'at' in to;
  const sender = 'channel' in from ? owner.at : ends.sender;
  const depends = BINDING_TRAITS['lead through a stand-in'](owner.bindings[position]);
  const maySend = readsSender && (depends || assets.has(sender));
  const mayReceive = readsReceiver && (depends || assets.has(ends.target));
  if (!few || !(maySend || mayReceive)) return maySend || mayReceive;
  return inputs.copiesOf(owner, position).some((c) => {
    const reader = 'channel' in from ? c.owner : c.sender;
    return (maySend && instances.has(reader)) || (mayReceive && instances.has(c.receiver));
  });
}

function isRead(to: Extract<Binding['to'], { every: string }>): boolean {
  return to.match !== undefined && to.match !== 'all';
}
