import type { AssetIndex } from '../project/index-project.js';
import type { Binding, EventDecl } from '../project/types.js';
import { compareNodes, isEvent } from '../graph/graph.js';
import { membersOf } from '../graph/components.js';
import type { JudgedEnds } from './binding-ends.js';
import type { AnalysisInputs } from './inputs.js';
import type { BindingUnit, EventUnit, UnitKind, Units } from './units.js';

/** Kinds of units that are found asset by asset. */
export type InAssets = 'binding' | 'event' | 'action' | 'instance';

/**
 * Units by number: a binding is numbered among authored ones, an event or action by its node, a cycle by one of its nodes, a
 * tie by its pair of assets, the project is 0.
 */
export class UnitWalk {
  constructor(private readonly inputs: AnalysisInputs) {}

  /** The numbers of all units of a kind, but for those that stand in assets. */
  all(kind: Exclude<UnitKind, InAssets>): ArrayLike<number> {
    const { index, facts } = this.inputs;
    switch (kind) {
      case 'project':
        return [0];
      case 'asset':
      case 'copies':
        return [...index.assets.keys()];
      case 'channel':
        return [...(index.project.channels ?? []).keys()];
      case 'cycle':
        return [...facts.cyclic];
      case 'tie':
        return [...facts.ties.pairs()];
      case 'audience':
        return [...facts.audiences.numbers()];
      case 'gap':
        return [...facts.spawnGaps.nodes];
    }
  }

  /** A unit by its number; null if there is none any more. */
  unit<U extends UnitKind>(kind: U, number: number): Units[U] | null {
    return MAKE[kind](this.inputs, number);
  }
}

const MAKE: { readonly [U in UnitKind]: (inputs: AnalysisInputs, number: number) => Units[U] | null } = {
  project: () => null,
  asset: ({ index }, number) => index.assets[number],
  copies: ({ index }, number) => index.assets[number],
  channel: ({ index }, number) => ({ number, channel: index.project.channels![number] }),
  binding: bindingUnit,
  event: (inputs, node) => (inputs.facts.hasBinding[node] === 1 ? eventUnit(inputs, node) : null),
  gap: (inputs, node) => (inputs.facts.spawnGaps.nodes.has(node) ? eventUnit(inputs, node) : null),
  action: ({ g, x }, node) => {
    if (g.action[node] !== 1) return null;
    const instance = g.instanceOf[node];
    const asset = x.assetOf(instance);
    const number = node - x.nodeBase[instance] - asset.events.length;
    return { node, instance, asset, number, action: asset.actions[number] };
  },
  instance: ({ x }, number) => (x.isFree(number) ? null : number),
  cycle: ({ facts, g }, number) => {
    const { components, cyclic } = facts;
    if (!cyclic.has(number)) return null;
    return Int32Array.from(membersOf(components, number)).sort((a, b) => compareNodes(g, a, b));
  },
  tie: ({ facts }, number) => facts.ties.get(number) ?? null,
  audience: ({ facts }, number) => facts.audiences.get(number) ?? null,
};

function eventUnit({ g, x }: AnalysisInputs, node: number): EventUnit | null {
  if (!isEvent(g, node)) return null;
  const instance = g.instanceOf[node];
  const asset = x.assetOf(instance);
  const number = node - x.nodeBase[instance];
  return { node, instance, asset, number, event: asset.events[number] };
}
function bindingUnit(inputs: AnalysisInputs, number: number): BindingUnit | null {
  const { slots } = inputs.x;
  const at = slots.assetOf(number);
  const position = slots.position(at, number - slots.base[at]);
  const owner = inputs.index.assets[at];
  if (position < 0 || position >= owner.bindings.length || !inputs.isJudged(at, position)) return null;
  return new JudgedBinding(inputs, number, owner, position);
}

class JudgedBinding implements BindingUnit {
  readonly binding: Binding;
  private resolved: JudgedEnds | null = null;

  constructor(
    private readonly inputs: AnalysisInputs,
    readonly number: number,
    readonly owner: AssetIndex,
    readonly position: number,
  ) {
    this.binding = owner.bindings[position];
  }
  get subject(): BindingUnit['subject'] {
    return { asset: this.owner.decl.id, binding: this.binding.id };
  }
  get ends(): JudgedEnds {
    return (this.resolved ??= this.inputs.endsOf(this.owner, this.position));
  }
  get records(): BindingUnit['records'] {
    return this.inputs.g.records.get(this.number);
  }
}

/** For each asset the numbers of its events that a test concerns. */
export function concernedEvents(
  assets: readonly AssetIndex[],
  concerns: ((event: EventDecl, asset: AssetIndex) => boolean) | undefined,
): Set<number>[] {
  return assets.map(
    (asset) => new Set([...asset.events.keys()].filter((e) => !concerns || concerns(asset.events[e], asset))),
  );
}
