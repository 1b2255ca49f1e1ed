import type { Expansion } from '../expand/expansion.js';
import { BLOCKED, PathTable, resolveByText } from '../expand/resolve.js';
import { peerRolesOf, type PeerRoles } from '../expand/peers.js';
import { overridesOf } from '../expand/values.js';
import type { Graph } from '../graph/graph.js';
import {
  BindingResolver,
  mutedBindings,
  sceneInstances,
  SingleResolver,
  type Resolver,
} from '../graph/resolver.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Value } from '../project/types.js';
import { judgedEnds, type JudgedEnds } from './binding-ends.js';
import { BINDING_TRAITS, type BindingTrait } from './binding-traits.js';
import { InstanceGroups } from '../expand/instance-groups.js';
import { ownOrDefault } from './defaulted-keys.js';
import { compilePattern } from '../project/name-pattern.js';
import { Incoming } from '../graph/incoming.js';
import { Facts } from './facts/facts.js';
import type { BindingRef } from './finding.js';
import { assetsSpawned } from '../expand/spawned-assets.js';
import { MeetingDeliveries, type DeliveredAction } from './meeting-deliveries.js';
import { thresholds, type Thresholds } from './policy.js';

/** One copy of an authored binding: the expanded owner, and the instances that its paths name (negative without one). */
export interface ResolvedCopy {
  owner: number;
  sender: number;
  receiver: number;
}

/**
 * What rules look at: the graph, what is known of it, and questions about instances and bindings. Whatever several rules need
 * is worked out once, when first asked for. An edit of bindings changes graph and facts in place; all else here depends on
 * declarations and placements, and holds as long as they do.
 */
export class AnalysisInputs {
  readonly x: Expansion;
  limits: Thresholds;
  readonly facts: Facts;

  constructor(
    readonly g: Graph,
    /** ISO date. */
    readonly today: string,
  ) {
    this.x = g.x;
    this.limits = thresholds(this.index.project.policy);
    this.facts = new Facts(g, this.limits.maxReach);
    this.ownKeys = new InstanceGroups(g.x, (i, property) => ownOrDefault(g.x, i, property));
  }
  /** Of the project as it is. */
  get index(): ProjectIndex {
    return this.x.index;
  }

  private byPath: Map<string, number>[] = [];
  /** The asset that a path of an owner names by the text alone; negative if none. Each path is resolved once. */
  assetAtPath(owner: number, path: string): number {
    // Most paths are the name of one placement of the owner.
    if (path === '.') return owner;
    const asset = this.index.assets[owner];
    const slot = asset.placementAt.get(path);
    if (slot !== undefined) {
      const placed = asset.placed[slot];
      return placed < 0 || placed === owner ? BLOCKED : placed;
    }
    const known = (this.byPath[owner] ??= new Map<string, number>());
    let at = known.get(path);
    if (at === undefined) known.set(path, (at = resolveByText(this.index, this.x.standIns, owner, path)));
    return at;
  }
  /** For each authored binding the assets that its ends lead to, and so much more; 0 as long as nobody has asked. */
  private senderAt = NO_NUMBERS;
  private targetAt = NO_NUMBERS;
  endsOf(owner: AssetIndex, position: number): JudgedEnds {
    const ends = judgedEnds(this, owner, owner.bindings[position]);
    const { slots } = this.x;
    if (this.senderAt.length === 0) {
      this.senderAt = new Int32Array(slots.base[slots.base.length - 1]);
      this.targetAt = new Int32Array(this.senderAt.length);
    }
    const number = slots.base[owner.at] + slots.slot(owner.at, position);
    this.senderAt[number] = ends.senderAt + MORE;
    this.targetAt[number] = ends.target + MORE;
    return ends;
  }
  private lookUpEnds(number: number): void {
    this.senderAt[number] = this.targetAt[number] = 0;
    const { slots } = this.x;
    const owner = this.index.assets[slots.assetOf(number)];
    const position = slots.position(owner.at, number - slots.base[owner.at]);
    if (position >= 0 && position < owner.bindings.length) this.endsOf(owner, position);
  }
  /** The assets that both ends of a binding lead to by their text; negative for none. */
  endAssets(owner: AssetIndex, position: number): { sender: number; target: number } {
    const { slots } = this.x;
    const number = slots.base[owner.at] + slots.slot(owner.at, position);
    if (number >= this.senderAt.length || this.senderAt[number] === 0) this.endsOf(owner, position);
    return { sender: this.senderAt[number] - MORE, target: this.targetAt[number] - MORE };
  }
  /** Authored bindings that lead to an asset or come from it. Cost: a pass over the numbers of bindings. */
  *bindingsAt(asset: number): Iterable<number> {
    const { senderAt, targetAt } = this;
    for (let n = 0; n < senderAt.length; n++) {
      if (senderAt[n] === asset + MORE || targetAt[n] === asset + MORE) yield n;
    }
  }

  /** Authored bindings of these assets, and far-reaching ones, with a path that leads nowhere. Cost: those bindings. */
  *leadingNowhere(assets: Iterable<number>): Iterable<number> {
    const { slots } = this.x;
    for (const at of assets) {
      const { bindings } = this.index.assets[at];
      for (let position = 0; position < bindings.length; position++) {
        const number = slots.base[at] + slots.slot(at, position);
        if (this.leadsNowhere(number)) yield number;
      }
    }
    for (const number of this.bindingsThat('lead far')) if (this.leadsNowhere(number)) yield number;
  }
  private leadsNowhere(number: number): boolean {
    if (number >= this.senderAt.length) return false;
    const { [number]: sender } = this.senderAt;
    const { [number]: target } = this.targetAt;
    if (sender >= MORE && target >= MORE) return false;
    const binding = this.bindingAt(number);
    return (
      binding !== undefined &&
      ((sender < MORE && 'at' in binding.from) || (target < MORE && !('channel' in binding.to)))
    );
  }

  /** All instances of an asset, in expansion order. */
  instancesOf(asset: number): Int32Array {
    return this.x.instancesOf(asset);
  }
  /** All instances that one authored placement yields. */
  instancesOfPlacement(asset: number, slot: number): number[] {
    const { x } = this;
    return [...this.instancesOf(asset)].map((i) => x.children[x.childBase[i] + slot]).filter((i) => i >= 0);
  }
  overridesOf(instance: number): Record<string, Value> {
    return overridesOf(this.x, instance) ?? {};
  }

  private muting: number[][] | null = null;
  /** For each asset the assets with a placement that mutes bindings of it; most are muted nowhere. */
  private get mutingAssets(): number[][] {
    if (this.muting) return this.muting;
    const by = this.index.assets.map((): number[] => []);
    for (const asset of this.index.assets) for (const placed of mutes(asset)) by[placed].push(asset.at);
    return (this.muting = by);
  }
  /** Assets with a placement that mutes bindings of this one. */
  mutedBy(asset: number): readonly number[] {
    return this.mutingAssets[asset];
  }
  /** The expanded owners in whose copy an authored binding is not muted. */
  ownersOf(asset: number, position: number): Int32Array {
    if (this.mutedBy(asset).length === 0) return this.instancesOf(asset);
    const { id } = this.index.assets[asset].bindings[position];
    return this.instancesOf(asset).filter((i) => !mutedBindings(this.x, i)?.has(id));
  }
  /** Rules pass over a binding that is disabled, or muted in every copy. */
  isJudged(asset: number, position: number): boolean {
    if (this.index.assets[asset].bindings[position].enabled === false) return false;
    if (this.mutedBy(asset).length === 0) return true;
    const instances = this.instancesOf(asset);
    if (instances.length === 0) return true;
    const { id } = this.index.assets[asset].bindings[position];
    return instances.some((i) => !mutedBindings(this.x, i)?.has(id));
  }

  private inSpawned: ReadonlySet<number> | null = null;
  /** Assets that may stand in something spawned, as long as effects stay and none of these places other things. */
  get spawned(): ReadonlySet<number> {
    return (this.inSpawned ??= assetsSpawned(this.index));
  }
  private scenes: ReadonlyMap<number, number> | null = null;
  /** The copies of an authored binding that resolve. Cost: its copies. */
  resolvedCopies(owner: AssetIndex, position: number): ResolvedCopy[] {
    return this.copiesOf(owner, position, true);
  }
  /** All copies of an authored binding, also of one that is off; only those that resolve, if asked. Cost: its copies. */
  copiesOf(owner: AssetIndex, position: number, onlyResolved = false): ResolvedCopy[] {
    const { x } = this;
    this.scenes ??= sceneInstances(x);
    const resolver = this.resolverOf(owner, position, this.scenes);
    const copies: ResolvedCopy[] = [];
    const owners = onlyResolved ? this.ownersOf(owner.at, position) : this.instancesOf(owner.at);
    for (const instance of owners) {
      const sender = resolver.sender(instance);
      const receiver = resolver.receiver(instance);
      if (onlyResolved && resolver.judge(sender, receiver) !== 0) continue;
      copies.push({ owner: instance, sender, receiver });
    }
    return copies;
  }

  private resolverOf(owner: AssetIndex, position: number, scenes: ReadonlyMap<number, number>): Resolver {
    const { x } = this;
    const binding = owner.bindings[position];
    if (this.instancesOf(owner.at).length > 1) {
      return new BindingResolver(x, new PathTable(x, scenes, owner.at), binding, owner.at);
    }
    const resolver = new SingleResolver(x, scenes);
    resolver.setBinding(binding, owner);
    return resolver;
  }

  /** Whether it is bound or driven, also by a binding whose other end is missing: that is one fault, with one finding. */
  isBoundAnyway(node: number): boolean {
    return this.facts.hasBinding[node] === 1 || this.g.countsAsBound[node] > 0;
  }

  /** Which instances keep the default of a key. */
  readonly ownKeys: InstanceGroups;
  private roles: PeerRoles | null = null;
  /** Which peer keeps and which steers each instance. */
  get peerRoles(): PeerRoles {
    return (this.roles ??= peerRolesOf(this.x));
  }
  private leadingTo: Incoming | null = null;
  /** What leads to each node. Made at its first use; an edit keeps it. */
  get incoming(): Incoming {
    return (this.leadingTo ??= new Incoming(this.g));
  }
  private readonly met = new Map<string, MeetingDeliveries>();
  /** What deliveries do at the same time, as a rule compares them. */
  meetings(rule: string, actionsOf: (edge: number) => readonly DeliveredAction[]): MeetingDeliveries {
    let meetings = this.met.get(rule);
    if (!meetings) this.met.set(rule, (meetings = new MeetingDeliveries(this.g, actionsOf)));
    return meetings;
  }
  /** Looks at channels anew whose listeners changed. */
  forgetListeners(nodes: Iterable<number>): void {
    for (const node of nodes) for (const meetings of this.met.values()) meetings.forget(node);
  }
  private readonly byTrait = new Map<BindingTrait, Set<number>>();
  /** Authored bindings that do so. Made at the first call, then kept up with edits. */
  bindingsThat(trait: BindingTrait): ReadonlySet<number> {
    const known = this.byTrait.get(trait);
    if (known) return known;
    const { slots } = this.x;
    const found = new Set<number>();
    for (const { at, bindings } of this.index.assets) {
      bindings.forEach((b, position) => {
        if (BINDING_TRAITS[trait](b)) found.add(slots.base[at] + slots.slot(at, position));
      });
    }
    this.byTrait.set(trait, found);
    return found;
  }
  /** After some bindings came, went or changed. */
  followBindings(authored: Iterable<number>): void {
    for (const number of authored) {
      const binding = this.bindingAt(number);
      if (number < this.senderAt.length) this.lookUpEnds(number);
      for (const [trait, known] of this.byTrait) {
        if (binding && BINDING_TRAITS[trait](binding)) known.add(number);
        else known.delete(number);
      }
    }
  }
  /** An authored binding by its number; undefined for a number that is free. */
  bindingAt(number: number): Binding | undefined {
    const { slots } = this.x;
    const at = slots.assetOf(number);
    const position = slots.position(at, number - slots.base[at]);
    return position < 0 ? undefined : this.index.assets[at].bindings[position];
  }
  private readonly tests = new Map<string, (name: string) => boolean>();
  /** Whether names match a pattern. */
  nameTest(pattern: string): (name: string) => boolean {
    let test = this.tests.get(pattern);
    if (!test) this.tests.set(pattern, (test = compilePattern(pattern)));
    return test;
  }
  /** An authored binding by its number, as a finding names it. */
  authoredRef(number: number): BindingRef {
    const { slots } = this.x;
    const owner = this.index.assets[slots.assetOf(number)];
    const position = slots.position(owner.at, number - slots.base[owner.at]);
    return { asset: owner.decl.id, binding: owner.bindings[position].id };
  }
  private readonly kept = new Map<string, unknown>();
  /** Works a thing out at its first use that depends on declarations, placements and where they stand. */
  once<T>(name: string, make: () => T): T {
    if (!this.kept.has(name)) this.kept.set(name, make());
    return this.kept.get(name) as T;
  }
  /** Forgets what depends on which things stand. */
  replaced(): void {
    this.byPath = [];
    this.restated();
  }
  /** Forgets what depends on what placements and declarations say. The same things stand, and the same names are there. */
  restated(): void {
    this.kept.clear();
    this.muting = null;
    this.roles = null;
  }
}

const muted = new WeakMap<AssetIndex, ReadonlySet<number>>();
/** The assets of which this one's placements mute bindings. Cost: its placements, once for each state of it. */
function mutes(asset: AssetIndex): ReadonlySet<number> {
  let found = muted.get(asset);
  if (!found) {
    const placed = asset.placed.filter(
      (at, slot) => at >= 0 && (asset.placements[slot].muted ?? []).length > 0,
    );
    muted.set(asset, (found = new Set(placed)));
  }
  return found;
}

const NO_NUMBERS = new Int32Array(0);
/** Makes the numbers of what is missing positive, too. */
const MORE = 3;
