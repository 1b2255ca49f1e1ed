import { ASLEEP_AT_START, BEGINS_ASLEEP } from '../expand/expansion.js';
import type { GraphDelta, GraphEditor } from '../graph/edit-graph.js';
import { isChannel } from '../graph/graph.js';
import type { Project } from '../project/types.js';
import type { AnalysisInputs } from './inputs.js';
import { touchedAreas } from './touched-areas.js';
import type { Touch, Touched, TouchedPlace } from './touched.js';
import { valueReaders } from './value-readers.js';

/** What an edit touches besides the bindings that it changes. */
export interface EditScope {
  /** Authored bindings that are to be resolved again. */
  again: Set<number>;
  /** Units that are to be judged again, by number. */
  assets: Set<number>;
  bindings: Set<number>;
  events: Set<number>;
  actions: Set<number>;
  instances: Set<number>;
  areas: Set<number>;
}

/**
 * Follows what an edit says otherwise of placements and declarations while the same things stand and the same names are there.
 * Before the graph is edited it says which bindings are to be resolved again; afterwards it puts right what sleeps, and says
 * which units are to be judged. Cost: the instances of what changed, what leads to them, and passes over numbers of bindings.
 */
export class EditFollower {
  private readonly scope: EditScope = {
    again: new Set(),
    assets: new Set(),
    bindings: new Set(),
    events: new Set(),
    actions: new Set(),
    instances: new Set(),
    areas: new Set(),
  };

  constructor(
    private readonly inputs: AnalysisInputs,
    private readonly touched: Touched,
    private readonly before: Project,
    private readonly after: Project,
  ) {}

  /** Assets of instances that may have other values. */
  revalued(): Set<number> {
    return new Set([...this.valued()].map((i) => this.inputs.x.asset[i]));
  }
  /** The bindings that are to be resolved again. */
  again(): ReadonlySet<number> {
    const { again } = this.scope;
    for (const number of valueReaders(this.inputs, this.valued())) again.add(number);
    for (const place of this.places('mutes')) this.muted(place);
    return again;
  }

  /** Puts right what sleeps, and gathers the units, once the graph has gone over to the next state. */
  settle(editor: GraphEditor, delta: GraphDelta): EditScope {
    const { inputs, scope } = this;
    for (const asset of this.revalued()) scope.assets.add(asset);
    for (const touch of ['values', 'mutes', 'roles'] as const) {
      for (const { asset } of this.places(touch)) scope.assets.add(asset);
    }
    if (this.touched.has('sleep')) this.sleep(editor, delta);
    for (const place of this.places('roles')) {
      for (const i of this.inside(place)) this.takeDeliveries(i);
    }
    this.declarations();
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
      for (let at = i; at < x.end[i]; at++) all.push(at);
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
    editor.refreshEffects([...waking].filter(wakes), delta);
  }
  private flag(instance: number): void {
    const { x } = this.inputs;
    const { flags } = x;
    if (x.isStandIn(instance)) return;
    const isAsleep = x.placementOf(instance)?.asleep === true;
    const isInside = (flags[x.parent[instance]] & ASLEEP_AT_START) !== 0;
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
        if (units.includes('instances')) for (const i of instances) scope.instances.add(i);
        if (units.includes('events')) for (const i of instances) this.takeNodes(i, 0, scope.events);
        if (units.includes('actions')) for (const i of instances) this.takeNodes(i, 1, scope.actions);
        if (units.includes('deliveries')) for (const i of instances) this.takeDeliveries(i);
        if (units.includes('bindings')) for (const n of inputs.bindingsAt(asset)) scope.bindings.add(n);
      }
    }
  }
  private takeNodes(instance: number, action: 0 | 1, nodes: Set<number>): void {
    const { g, x } = this.inputs;
    for (let n = x.nodeBase[instance]; n < x.nodeBase[instance + 1]; n++)
      if (g.action[n] === action) nodes.add(n);
  }
  /** The events of an instance, and those that deliver to it. */
  private takeDeliveries(instance: number): void {
    const { g, x, incoming } = this.inputs;
    this.takeNodes(instance, 0, this.scope.events);
    for (let n = x.nodeBase[instance]; n < x.nodeBase[instance + 1]; n++) {
      if (g.action[n] === 0) continue;
      for (const tail of incoming.tails(n)) {
        if (isChannel(g, tail)) for (const event of incoming.tails(tail)) this.scope.events.add(event);
        else this.scope.events.add(tail);
      }
    }
  }
}

/** For each part of a declaration the units, besides the asset itself, that it is judged with. */
const DECLARED: readonly (readonly [
  Touch,
  readonly ('instances' | 'events' | 'actions' | 'deliveries' | 'bindings')[],
])[] = [
  ['expectations', ['instances', 'actions']],
  ['delivery', ['events']],
  ['payload', ['events', 'bindings']],
  ['params', ['bindings']],
  ['presence', ['deliveries']],
];
