import { ASLEEP_AT_START, BEGINS_ASLEEP, type Expansion } from '../expand/expansion.js';
import type { GraphEditor } from '../graph/edit-graph.js';
import { dropEffects, refreshEffects } from '../graph/effect-edits.js';
import type { GraphDelta, ThingsEdit } from '../graph/graph-delta.js';
import { isChannel } from '../graph/graph.js';
import type { Project } from '../project/types.js';
import type { AnalysisInputs } from './inputs.js';
import { nothing, type EditScope } from './edit-scope.js';
import { areaEvents, entriesAround, touchedAreas } from './touched-areas.js';
import type { TouchedUnits } from './judge.js';
import { bindingsOfNodes } from './touched-nodes.js';
import { assetsAround, thingsEdit } from './touched-things.js';
import { touchedUnits } from './touched-units.js';
import { reindexProject } from '../project/index-project.js';
import type { Touch, Touched, TouchedPlace } from './touched.js';
import { valueReaders, type ValueReaders } from './value-readers.js';

/**
 * Follows what an edit says otherwise of placements and declarations while the same things stand and the same names are there.
 * Before the graph is edited it says which bindings are to be resolved again; afterwards it puts right what sleeps, and says
 * which units are to be judged. Cost: the instances of what changed, what leads to them, and passes over numbers of bindings.
 */
export class EditFollower {
  private readonly scope = nothing();
  private readonly redeclared: ReadonlySet<number>;
  /** Bindings that are taken out while nodes change. */
  private withdrawn: ReadonlySet<number> = new Set();
  /** Instances whose effects lead to nodes that change. */
  private leading: ReadonlySet<number> = new Set();

  constructor(
    private readonly inputs: AnalysisInputs,
    private readonly touched: Touched,
    private readonly before: Project,
    private readonly after: Project,
  ) {
    const declared = [...this.places('nodes'), ...this.places('properties')];
    this.redeclared = new Set(declared.map((place) => place.asset));
  }

  /**
   * What the graph is to undergo: null where that cannot be followed. Where nodes change, they are taken out with all their edges
   * first, which the facts follow, too; {@link TouchedUnits} of that are given to `taken`.
   */
  edit(editor: GraphEditor, taken: (units: TouchedUnits) => void): GraphDelta | null {
    const things = this.things();
    const withdrawn = bindingsOfNodes(this.inputs, this.redeclared, this.after);
    if (!things || !withdrawn) return null;
    const again = new Set(this.again());
    for (const [number, owners] of this.readers().partly) {
      things.partly.set(number, new Set([...(things.partly.get(number) ?? []), ...owners]));
    }
    const revalued = this.valued();
    if (this.redeclared.size > 0) {
      this.withdrawn = withdrawn;
      const units = this.takeOut(editor);
      if (!units) return null;
      taken(units);
    }
    for (const number of withdrawn) again.delete(number);
    return editor.edit(reindexProject(this.inputs.index, this.after), {
      again,
      restored: withdrawn,
      revalued,
      redeclared: this.redeclared,
      things,
    });
  }
  private takeOut(editor: GraphEditor): TouchedUnits | null {
    const { inputs, withdrawn, redeclared } = this;
    const delta = editor.edit(inputs.index, { withdrawn, emptied: redeclared });
    if (!delta) return null;
    this.leading = dropEffects(editor.runs, delta.emptied, delta);
    const changes = inputs.facts.follow(delta, editor);
    const units = touchedUnits(inputs, editor, delta, changes, nothing());
    editor.retire(delta);
    return units;
  }

  /** The bindings that are to be resolved again. */
  private again(): ReadonlySet<number> {
    const { again } = this.scope;
    for (const number of this.readers().again) again.add(number);
    for (const place of this.places('mutes')) this.muted(place);
    return again;
  }

  private read: ValueReaders | null = null;
  private readers(): ValueReaders {
    return (this.read ??= valueReaders(this.inputs, this.valued()));
  }

  /** What comes and goes with its placements; null where that cannot be followed. */
  private things(): ThingsEdit | null {
    const assets = new Set(this.places('things').map((place) => place.asset));
    if (assets.size === 0) return { edits: [], partly: new Map() };
    return thingsEdit(this.inputs, [...assets], this.before, this.after);
  }

  /** Puts right what sleeps, and gathers the units, once the graph has gone over to the next state. */
  settle(editor: GraphEditor, delta: GraphDelta): EditScope {
    const { inputs, scope } = this;
    const revalued = this.valued();
    for (const i of revalued) {
      scope.assets.add(inputs.x.asset[i]);
      scope.copies.add(inputs.x.asset[i]);
    }
    inputs.ownKeys.follow(new Set([...revalued, ...delta.coming, ...delta.leaving]));
    for (const touch of ['values', 'mutes', 'roles'] as const) {
      for (const { asset } of this.places(touch)) scope.assets.add(asset);
    }
    // Types are in use wherever they are named.
    scope.hasOtherTypes = TYPED.some((touch) => this.touched.has(touch));
    if (this.touched.has('sleep')) this.sleep(editor, delta);
    for (const place of this.places('roles')) {
      for (const i of this.inside(place)) this.takeDeliveries(i);
    }
    this.declarations();
    this.comeAndGo(editor, delta);
    this.refill(editor, delta);
    if (this.touched.has('plan')) {
      for (const n of touchedAreas(inputs, this.before, this.after)) scope.areas.add(n);
    }
    return scope;
  }

  private places(touch: Touch): readonly TouchedPlace[] {
    return this.touched.get(touch) ?? [];
  }
  private inside({ asset, slot }: TouchedPlace): number[] {
    const { x } = this.inputs;
    const all: number[] = [];
    for (const i of this.inputs.instancesOfPlacement(asset, slot)) {
      for (let at = i; at < x.end[i]; at++) if (!x.isFree(at)) all.push(at);
    }
    return all;
  }
  /** The instances whose values may differ. */
  private valued(): Set<number> {
    const instances = new Set<number>();
    for (const place of this.places('values')) {
      const { asset, slot } = place;
      const [was, is] = [this.before, this.after].map((p) => p.assets[asset].placements![slot].inside);
      const all = was === is ? this.inputs.instancesOfPlacement(asset, slot) : this.inside(place);
      for (const i of all) instances.add(i);
    }
    for (const { asset } of this.places('properties')) {
      for (const i of this.inputs.instancesOf(asset)) instances.add(i);
    }
    return instances;
  }
  private muted({ asset, slot }: TouchedPlace): void {
    const { index, x } = this.inputs;
    const placed = index.assets[asset].placed[slot];
    if (placed < 0) return;
    const [was, is] = [this.before, this.after].map((p) => p.assets[asset].placements![slot].muted ?? []);
    for (const id of new Set([...was, ...is])) {
      if (was.includes(id) === is.includes(id)) continue;
      const position = index.assets[placed].bindingAt.get(id);
      if (position !== undefined) {
        this.scope.again.add(x.slots.base[placed] + x.slots.slot(placed, position));
      }
    }
  }

  /** What begins asleep is noted at each instance, and what wakes it has edges to the starts inside of it. */
  private sleep(editor: GraphEditor, delta: GraphDelta): void {
    const { inputs, scope } = this;
    const { x } = inputs;
    const waking = new Set<number>();
    for (const place of this.places('sleep')) {
      for (const i of this.inside(place)) {
        this.flag(i);
        waking.add(i);
        scope.instances.add(i);
        x.assetOf(i).events.forEach((_, e) => scope.areas.add(x.nodeBase[i] + e));
      }
      for (const i of inputs.instancesOfPlacement(place.asset, place.slot)) {
        for (let around = x.parent[i]; around >= 0; around = x.parent[around]) waking.add(around);
      }
    }
    const wakes = (i: number): boolean => x.assetOf(i).effects.some(({ effect }) => 'wake' in effect);
    refreshEffects(editor.runs, [...waking].filter(wakes), delta);
  }
  /** What comes and goes, with all that is said of it, and what places it. */
  private comeAndGo(editor: GraphEditor, delta: GraphDelta): void {
    const { inputs, scope } = this;
    const { x } = inputs;
    const { coming, leaving } = delta;
    const places = this.places('things').map((place) => place.asset);
    for (const asset of assetsAround(inputs.index, places)) scope.assets.add(asset);
    for (const asset of places) {
      for (const i of x.instancesOf(asset)) scope.instances.add(i);
    }
    // They say which names there are.
    if (places.length > 0) for (const n of inputs.leadingNowhere(scope.assets)) scope.bindings.add(n);
    if (coming.length + leaving.size === 0) return;
    const around = new Set<number>();
    for (const i of [...coming, ...leaving]) {
      scope.assets.add(x.asset[i]);
      scope.copies.add(x.asset[i]);
      scope.instances.add(i);
      this.takeNodes(i, 0, scope.events);
      this.takeNodes(i, 1, scope.actions);
      for (let at = x.parent[i]; at >= 0; at = x.parent[at]) around.add(at);
    }
    for (const i of entriesAround(x, this.before, [...coming, ...leaving])) {
      for (const n of areaEvents(x, i)) scope.areas.add(n);
    }
    const others = dropEffects(editor.runs, leaving, delta);
    refreshEffects(
      editor.runs,
      [...coming, ...around, ...others].filter((i) => !leaving.has(i)),
      delta,
    );
  }
  /** Instances whose nodes are others. */
  private refill(editor: GraphEditor, delta: GraphDelta): void {
    const { scope, inputs } = this;
    const { x } = inputs;
    for (const asset of this.redeclared) scope.assets.add(asset);
    this.reproperty();
    for (const number of this.withdrawn) scope.bindings.add(number);
    // What can be destroyed takes what is made inside of it along.
    if (this.redeclared.size > 0)
      for (const n of inputs.bindingsThat('release nothing')) scope.bindings.add(n);
    for (const i of delta.filled) {
      scope.instances.add(i);
      for (let n = x.nodeBase[i]; n < x.nodeBase[i + 1]; n++) {
        scope.events.add(n);
        scope.actions.add(n);
      }
    }
    const leading = new Set([...delta.filled, ...this.leading]);
    for (const i of delta.filled) {
      for (let at = x.parent[i]; at >= 0; at = x.parent[at]) leading.add(at);
      if (!x.isSpawned(i)) continue;
      const holder = x.holder[i];
      for (let at = holder; at < x.end[holder]; at++) if (spawns(x, at)) leading.add(at);
    }
    refreshEffects(
      editor.runs,
      [...leading].filter((i) => !x.isFree(i)),
      delta,
    );
  }
  /** Who names properties: whatever places an asset or spawns it, its own bindings, and the types that are in use. */
  private reproperty(): void {
    const { scope, inputs } = this;
    const { index, x } = inputs;
    const changed = new Set(this.places('properties').map((place) => place.asset));
    if (changed.size === 0) return;
    for (const asset of assetsAround(index, [...changed])) scope.assets.add(asset);
    for (const { at, effects } of index.assets) {
      const isSpawner = effects.some(
        ({ effect }) => 'spawn' in effect && changed.has(index.assetAt.get(effect.spawn) ?? -1),
      );
      if (isSpawner) scope.assets.add(at);
    }
    const { base } = x.slots;
    for (const at of changed) for (let n = base[at]; n < base[at + 1]; n++) scope.bindings.add(n);
  }
  /** Instances that begin asleep now and did not before, or the other way round. */
  readonly sleepers = new Set<number>();
  private flag(instance: number): void {
    const { x } = this.inputs;
    const { flags } = x;
    if (x.isStandIn(instance)) return;
    const isAsleep = x.placementOf(instance)?.asleep === true;
    const isInside = (flags[x.parent[instance]] & ASLEEP_AT_START) !== 0;
    if (isAsleep !== ((flags[instance] & BEGINS_ASLEEP) !== 0)) this.sleepers.add(instance);
    flags[instance] &= ~(BEGINS_ASLEEP | ASLEEP_AT_START);
    if (isAsleep) flags[instance] |= BEGINS_ASLEEP | ASLEEP_AT_START;
    else if (isInside) flags[instance] |= ASLEEP_AT_START;
  }

  /** What judges an asset's declarations; no edge depends on these parts of them. */
  private declarations(): void {
    const { inputs, scope } = this;
    for (const [touch, units] of DECLARED) {
      for (const asset of new Set(this.places(touch).map((place) => place.asset))) {
        scope.assets.add(asset);
        const instances = inputs.instancesOf(asset);
        if (units.includes('expecting instances'))
          for (const i of instances) scope.expecting.instances.push(i);
        if (units.includes('expecting actions'))
          for (const i of instances) this.eachNode(i, 1, (n) => scope.expecting.actions.push(n));
        if (units.includes('events')) for (const i of instances) this.takeNodes(i, 0, scope.events);
        if (units.includes('deliveries')) for (const i of instances) this.takeDeliveries(i);
        if (!units.includes('bindings')) continue;
        const { base } = inputs.x.slots;
        for (let n = base[asset]; n < base[asset + 1]; n++) scope.bindings.add(n);
        for (const n of inputs.bindingsAt(asset)) scope.bindings.add(n);
      }
    }
  }
  private takeNodes(instance: number, action: 0 | 1, nodes: Set<number>): void {
    this.eachNode(instance, action, (n) => nodes.add(n));
  }
  private eachNode(instance: number, action: 0 | 1, take: (node: number) => void): void {
    const { g, x } = this.inputs;
    for (let n = x.nodeBase[instance]; n < x.nodeBase[instance + 1]; n++) if (g.action[n] === action) take(n);
  }
  /** The events of an instance, and those that deliver to it. */
  private takeDeliveries(instance: number): void {
    const { g, x, incoming } = this.inputs;
    this.takeNodes(instance, 0, this.scope.events);
    for (let n = x.nodeBase[instance]; n < x.nodeBase[instance + 1]; n++) {
      if (g.action[n] !== 1) continue;
      for (const tail of incoming.tails(n)) {
        if (isChannel(g, tail)) for (const event of incoming.tails(tail)) this.scope.events.add(event);
        else this.scope.events.add(tail);
      }
    }
  }
}

function spawns(x: Expansion, instance: number): boolean {
  return x.assetOf(instance).effects.some(({ effect }) => 'spawn' in effect);
}

const TYPED: readonly Touch[] = ['properties', 'nodes', 'payload', 'params'];

/** For each part of a declaration the units, besides the asset itself, that it is judged with. */
const DECLARED: readonly (readonly [
  Touch,
  readonly ('expecting instances' | 'expecting actions' | 'events' | 'deliveries' | 'bindings')[],
])[] = [
  ['expected listeners', ['expecting instances']],
  ['expected senders', ['expecting actions']],
  ['delivery', ['events']],
  ['payload', ['events', 'bindings']],
  ['params', ['bindings']],
  ['presence', ['deliveries']],
];
