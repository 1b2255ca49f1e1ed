import type { AssetIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { BINDING_TRAITS, isProperty } from './binding-traits.js';
import type { AnalysisInputs } from './inputs.js';

/** Owners of whose bindings the ends are looked up one by one; beyond it their assets decide. */
const FEW_COPIES = 16;

/** Authored bindings whose edges depend on some values. */
export interface ValueReaders {
  /** In all copies. */
  again: Set<number>;
  /** In the copies of these owners only. */
  partly: Map<number, Set<number>>;
}

/**
 * The bindings whose edges depend on values of some instances: on a key that they read there, or on what a selection matches.
 * Paths and selections lead down from their owner, so only owners around these instances count, but for bindings that lead
 * elsewhere. Cost: the bindings of those owners' assets, and those that lead elsewhere.
 */
export function valueReaders(inputs: AnalysisInputs, instances: ReadonlySet<number>): ValueReaders {
  const { x, index } = inputs;
  const found: ValueReaders = { again: new Set(), partly: new Map() };
  if (instances.size === 0) return found;
  const reading = inputs.bindingsThat('read values');
  const assets = new Set([...instances].map((i) => x.asset[i]));
  const doesRead = (number: number): boolean => {
    const at = x.slots.assetOf(number);
    const position = x.slots.position(at, number - x.slots.base[at]);
    return reads(inputs, index.assets[at], position, instances, assets);
  };
  for (const trait of ['lead far', 'lead through a stand-in'] as const) {
    for (const number of inputs.bindingsThat(trait)) {
      if (reading.has(number) && doesRead(number)) found.again.add(number);
    }
  }
  for (const [at, owners] of ownersAround(inputs, instances)) {
    const isWhole = owners.size === inputs.instancesOf(at).length;
    for (let number = x.slots.base[at]; number < x.slots.base[at + 1]; number++) {
      if (!reading.has(number) || found.again.has(number) || !doesRead(number)) continue;
      if (isWhole) found.again.add(number);
      else found.partly.set(number, owners);
    }
  }
  return found;
}
/** Some instances and all that they stand in, by asset. */
function ownersAround({ x }: AnalysisInputs, instances: ReadonlySet<number>): Map<number, Set<number>> {
  const byAsset = new Map<number, Set<number>>();
  for (const i of instances) {
    for (let at = i; at >= 0; at = x.parent[at]) {
      let owners = byAsset.get(x.asset[at]);
      if (!owners) byAsset.set(x.asset[at], (owners = new Set()));
      if (owners.has(at)) break;
      owners.add(at);
    }
  }
  return byAsset;
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
