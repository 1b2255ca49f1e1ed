import { BEGINS_ASLEEP, type Expansion } from '../expand/expansion.js';
import type { InstancePeers as PeersOf } from '../expand/peers.js';
import { overridesOf } from '../expand/values.js';
import type { Value } from '../project/types.js';
import type { RehearsalModel } from './rehearsal-model.js';
import { Copy, InstanceState, type BindingState } from './instance-state.js';
import { own } from '../util/own.js';

/** All instances of one run: placed ones, each made when first asked for, and the copies that were spawned. */
export class Population {
  private readonly placed: (InstanceState | undefined)[] = [];
  private readonly copies = new Map<number, Copy[]>();
  private readonly born = new Map<number, number>();
  readonly x: Expansion;

  constructor(private readonly model: RehearsalModel) {
    this.x = model.x;
  }

  /** The placed instance of that number. */
  at(base: number): InstanceState {
    return (this.placed[base] ??= this.make(base, null));
  }
  /** A placed instance if anything happened to it yet. */
  known(base: number): InstanceState | undefined {
    return this.placed[base];
  }
  inside(copy: Copy, base: number): InstanceState {
    let live = copy.inside.get(base);
    if (!live) copy.inside.set(base, (live = this.make(base, copy)));
    return live;
  }
  /** The instance of that number beside another one: in the same copy, or placed. */
  beside(live: InstanceState, base: number): InstanceState {
    return live.copy && this.x.isSpawned(base) ? this.inside(live.copy, base) : this.at(base);
  }
  /** Copies of a stand-in that still count, in order of birth: those that live, or that have bindings which cling. */
  copiesOf(standIn: number): readonly Copy[] {
    return this.copies.get(standIn) ?? NONE;
  }
  /** The newest copy that lives; if none does the newest; null before the first. */
  newest(standIn: number): Copy | null {
    const copies = this.copiesOf(standIn);
    for (let i = copies.length - 1; i >= 0; i--) if (!this.rootOf(copies[i]).gone) return copies[i];
    return this.numbered(standIn, this.born.get(standIn) ?? 0);
  }
  /** The copy of that number, gone ones too; null if it is not born. */
  numbered(standIn: number, number: number): Copy | null {
    return this.all.get(standIn)?.[number - 1] ?? null;
  }
  private readonly all = new Map<number, Copy[]>();

  rootOf(copy: Copy): InstanceState {
    return this.inside(copy, copy.standIn);
  }
  /** A new copy of a stand-in, made by an instance with its peers. */
  spawn(standIn: number, by: InstanceState, overrides: Readonly<Record<string, Value>>, clock: number): Copy {
    const number = (this.born.get(standIn) ?? 0) + 1;
    const { authority, operator } = this.peersOf(by);
    const copy = new Copy(standIn, number, clock, overrides, authority, operator);
    this.born.set(standIn, number);
    for (const lists of [this.copies, this.all]) {
      const list = lists.get(standIn);
      if (list) list.push(copy);
      else lists.set(standIn, [copy]);
    }
    return copy;
  }
  /** Takes a copy whose root is gone out of {@link copiesOf}, unless bindings of it cling. */
  forget(copy: Copy): void {
    const { x, model } = this;
    for (let i = copy.standIn; i < x.end[copy.standIn]; i++) if (model.clings[x.asset[i]]) return;
    const list = this.copies.get(copy.standIn)!;
    list.splice(list.indexOf(copy), 1);
  }

  private make(base: number, copy: Copy | null): InstanceState {
    const { x } = this;
    const { events, actions } = x.assetOf(base);
    return new InstanceState(
      base,
      copy,
      (x.flags[base] & BEGINS_ASLEEP) !== 0,
      events.length + actions.length,
    );
  }

  isAsleep(live: InstanceState): boolean {
    if (live.asleep) return true;
    const { copy } = live;
    const { container } = this.model;
    for (let at = container[live.base]; at >= 0; at = container[at]) {
      const around = copy ? copy.inside.get(at) : this.placed[at];
      if (around ? around.asleep : (this.x.flags[at] & BEGINS_ASLEEP) !== 0) return true;
    }
    return false;
  }
  /** The numbers of what an instance contains, itself included: a range, in which spawned ones do not count for a placed one. */
  *contained(live: InstanceState): Iterable<number> {
    const { x } = this;
    const spawned = x.isSpawned(live.base);
    for (let i = live.base; i < x.end[live.base]; i++) if (x.isSpawned(i) === spawned) yield i;
  }

  /** The value before any effect; undefined if the property is not declared. */
  initial(live: InstanceState, property: string): Value | undefined {
    const at = this.x.assetOf(live.base).propertyAt.get(property);
    return at === undefined ? undefined : this.initialAt(live, at);
  }
  private initialAt(live: InstanceState, at: number): Value {
    const { copy, base } = live;
    const { name, default: value } = this.x.assetOf(base).properties[at];
    const overrides = copy && base === copy.standIn ? copy.overrides : overridesOf(this.x, base);
    return own(overrides, name) ?? value;
  }
  current(live: InstanceState, property: string): Value | undefined {
    const at = this.x.assetOf(live.base).propertyAt.get(property);
    return at === undefined ? undefined : this.currentAt(live, at);
  }
  /** The same by the property's number. */
  currentAt(live: InstanceState, at: number): Value {
    return (this.valuesOf(live)[at] ??= this.initialAt(live, at));
  }
  putAt(live: InstanceState, at: number, value: Value): void {
    this.valuesOf(live)[at] = value;
  }
  private valuesOf(live: InstanceState): (Value | undefined)[] {
    return (live.values ??= new Array<Value | undefined>(this.x.assetOf(live.base).properties.length));
  }

  /** Its peers, as numbers of names: a copy's are those of what spawned it. */
  peersOf(live: InstanceState): PeersOf {
    if (live.authority === -2) {
      const { peerRoles } = this.model;
      const { copy, base } = live;
      live.authority = peerRoles.authority[base];
      live.operator = peerRoles.operator[base];
      if (copy) {
        const placement = base === copy.standIn ? undefined : this.x.placementOf(base);
        const around = base === copy.standIn ? copy : this.peersOf(this.inside(copy, this.x.parent[base]));
        if (placement?.authority === undefined) live.authority = around.authority;
        if (placement?.operator === undefined) live.operator = around.operator;
      }
    }
    return live;
  }

  /** Through which binding something comes. */
  through(state: BindingState): { owner: string; binding: string } {
    return { owner: this.address(state.owner), binding: state.compiled.binding.id };
  }
  /** `scene:holder/~Asset#2/inside` for what is in a copy. Kept once it is made. */
  address(live: InstanceState): string {
    return (live.address ??= this.makeAddress(live));
  }
  private makeAddress({ base, copy }: InstanceState): string {
    const { x } = this;
    if (!copy) return x.address(base);
    const names: string[] = [];
    for (let at = base; at !== copy.standIn; at = x.parent[at]) names.push(x.segment(at));
    names.push(`${x.segment(copy.standIn)}#${copy.number}`);
    const holder = x.address(x.parent[copy.standIn]);
    return `${holder.endsWith(':.') ? holder.slice(0, -1) : `${holder}/`}${names.reverse().join('/')}`;
  }

  /** Expansion order: copies of one stand-in in order of birth, each followed by all that it contains. */
  compare(a: InstanceState, b: InstanceState): number {
    if (a.copy && b.copy && a.copy !== b.copy && a.copy.standIn === b.copy.standIn) {
      return a.copy.number - b.copy.number;
    }
    return a.base - b.base;
  }
}
const NONE: readonly Copy[] = [];
