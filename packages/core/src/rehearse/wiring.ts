import { mutedBindings } from '../graph/resolver.js';
import { BindingState, type InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { RehearsalModel } from './rehearsal-model.js';

/** The bindings of a run by what they listen to. Bindings of what takes no part are left out. */
export class Wiring {
  /** For each event node where its expanded bindings begin in `numbers`; in run order. */
  private readonly first: Int32Array;
  private readonly numbers: Int32Array;
  private readonly hearers = new Map<string, number[]>();
  /** Bindings of an event or a channel none of whose owners is spawned: the same at every raise. */
  private readonly settled: (readonly BindingState[] | undefined)[] = [];
  private readonly settledChannels = new Map<string, readonly BindingState[]>();

  /** Cost: expanded bindings of what takes part. */
  constructor(
    private readonly model: RehearsalModel,
    private readonly population: Population,
    scenes: readonly number[],
  ) {
    const { x } = model;
    const nodes: number[] = [];
    const bindings: number[] = [];
    for (const scene of scenes) {
      for (let owner = scene; owner < x.end[scene]; owner++) {
        const asset = x.assetOf(owner);
        if (asset.bindings.length === 0) continue;
        const muted = mutedBindings(x, owner);
        const paths = model.pathsOf(asset.at);
        asset.bindings.forEach(({ id, enabled, from }, b) => {
          if (enabled === false || muted?.has(id)) return;
          const number = x.numberOf(owner, b);
          if ('channel' in from) {
            const list = this.hearers.get(from.channel);
            if (list) list.push(number);
            else this.hearers.set(from.channel, [number]);
            return;
          }
          const sender = paths.get(from.at).resolve(owner);
          const event = sender < 0 ? undefined : x.assetOf(sender).eventAt.get(from.event);
          if (event === undefined) return;
          nodes.push(x.nodeBase[sender] + event);
          bindings.push(number);
        });
      }
    }
    this.first = new Int32Array(x.nodeBase[x.count] + 1);
    for (const node of nodes) this.first[node + 1]++;
    for (let n = 0; n + 1 < this.first.length; n++) this.first[n + 1] += this.first[n];
    this.numbers = new Int32Array(bindings.length);
    const next = this.first.slice();
    nodes.forEach((node, i) => (this.numbers[next[node]++] = bindings[i]));
  }

  /** Every binding on an event of an instance, in run order, whether or not it holds. */
  on(live: InstanceState, event: number): readonly BindingState[] {
    const node = this.model.x.nodeBase[live.base] + event;
    if (this.first[node] === this.first[node + 1]) return NONE;
    const settled = this.settled[node];
    if (settled) return settled;
    const { list, spawned } = this.gather(
      this.numbers.subarray(this.first[node], this.first[node + 1]),
      live,
    );
    if (!spawned) this.settled[node] = list;
    return list;
  }
  /** Every binding that hears a channel, in run order, whether or not it holds. */
  hearing(channel: string): readonly BindingState[] {
    const numbers = this.hearers.get(channel);
    if (!numbers) return NONE;
    const settled = this.settledChannels.get(channel);
    if (settled) return settled;
    const { list, spawned } = this.gather(numbers, null);
    if (!spawned) this.settledChannels.set(channel, list);
    return list;
  }
  /** The bindings of an owner that are on, each with its state. */
  *ownedBy(owner: InstanceState): Iterable<BindingState> {
    const { x } = this.model;
    const muted = mutedBindings(x, owner.base);
    const { bindings } = x.assetOf(owner.base);
    for (let b = 0; b < bindings.length; b++) {
      if (bindings[b].enabled === false || muted?.has(bindings[b].id)) continue;
      yield this.stateOf(owner, x.numberOf(owner.base, b));
    }
  }

  /** Owners that are spawned stand for their copies, each of which comes with all its bindings before the next one. */
  private gather(
    numbers: ArrayLike<number>,
    sender: InstanceState | null,
  ): { list: readonly BindingState[]; spawned: boolean } {
    const { model, population } = this;
    const { x } = model;
    const list: BindingState[] = [];
    let spawned = false;
    for (let i = 0; i < numbers.length;) {
      const owner = x.ownerOf(numbers[i]);
      if (!x.isSpawned(owner)) {
        list.push(this.stateOf(population.at(owner), numbers[i++]));
        continue;
      }
      spawned = true;
      const standIn = model.standInOver(owner);
      let end = i;
      while (end < numbers.length && x.ownerOf(numbers[end]) < x.end[standIn]) end++;
      for (const copy of population.copiesOf(standIn)) {
        for (let k = i; k < end; k++) {
          const state = this.stateOf(population.inside(copy, x.ownerOf(numbers[k])), numbers[k]);
          if (state.compiled.sameCopy && sender?.copy !== copy) continue;
          list.push(state);
        }
      }
      i = end;
    }
    return { list, spawned };
  }
  private stateOf(owner: InstanceState, number: number): BindingState {
    const at = number - this.model.x.bindingBase[owner.base];
    return (owner.bindings[at] ??= new BindingState(owner, this.model.compiledBinding(number)));
  }
}
const NONE: readonly BindingState[] = [];
