import type { ProjectIndex } from '../project/index-project.js';
import { LIMITS } from '../limits.js';
import { IntList } from '../util/int-list.js';
import { ASLEEP_AT_START, BEGINS_ASLEEP, Expansion, FREE, SPAWNED, type Stopped } from './expansion.js';
import { checkSize } from './size.js';
import { BindingSlots, type Room } from './binding-slots.js';
import { FREE_BINDINGS, FREE_NODES, freeNumbers, type FreeNumbers } from './free-numbers.js';
import { StandIns } from './stand-ins.js';
import { ProjectTooLarge } from './too-large.js';

/**
 * Expands every scene, in array order. Explicit stack; linear in the number of instances.
 * An asset that contains itself stops at the placement that repeats it. With room for edits, assets may get some more
 * bindings and placements before all are numbered anew.
 * @throws ProjectTooLarge beyond the bound on instances, before they are made, and where loops of assets multiply.
 */
export function expand(index: ProjectIndex, room: Room = 'none'): Expansion {
  const standIns = new StandIns(index);
  checkSize(index, standIns);
  const free = room === 'none' ? null : freeNumbers(index);
  return new Expander(index, standIns, new BindingSlots(index, room), free).run();
}

class Expander {
  private readonly asset = new IntList(1024);
  private readonly parent = new IntList(1024);
  private readonly slot = new IntList(1024);
  private readonly end = new IntList(1024);
  private readonly childBase = new IntList(1024);
  private readonly children = new IntList(1024);
  private readonly holder = new IntList(1024);
  private readonly flags = new IntList(1024);
  private readonly bindingBase = new IntList(1024);
  private readonly nodeBase = new IntList(1024);
  private readonly stopped: Stopped[] = [];
  private instances = 0;
  private bindings = 0;
  private nodes = 0;
  /** The next numbers of bindings and nodes. */
  private number = 0;
  private node = 0;
  /** Assets on the way from the scene, and, apart from it, from the stand-in: containing begins anew there. */
  private readonly onPath: [Uint8Array, Uint8Array];

  constructor(
    private readonly index: ProjectIndex,
    private readonly standIns: StandIns,
    private readonly slots: BindingSlots,
    private readonly free: FreeNumbers | null,
  ) {
    this.onPath = [new Uint8Array(index.assets.length), new Uint8Array(index.assets.length)];
  }

  run(): Expansion {
    for (const asset of this.index.assets) if (asset.decl.kind === 'scene') this.expandScene(asset.at);
    this.bindingBase.push(this.number);
    this.nodeBase.push(this.node);
    return new Expansion(
      this.index,
      this.standIns,
      this.asset.length,
      this.asset.toArray(),
      this.parent.toArray(),
      this.slot.toArray(),
      this.end.toArray(),
      this.childBase.toArray(),
      this.children.toArray(),
      this.holder.toArray(),
      Uint8Array.from(this.flags.view()),
      this.slots,
      this.bindingBase.toArray(),
      this.nodeBase.toArray(),
      this.stopped,
    );
  }

  private expandScene(scene: number): void {
    const open = [this.add(scene, -1, -1, 0)];
    const next = [0];
    while (open.length > 0) {
      const at = open[open.length - 1];
      const asset = this.index.assets[this.asset.get(at)];
      const slot = next[next.length - 1]++;
      const spawned = (this.flags.get(at) & SPAWNED) !== 0;
      const own = asset.placed.length;
      const slots = own + (spawned ? 0 : this.standIns.of(asset.at).length);
      if (slot === own && !spawned) this.leaveRoom(at);
      if (slot >= slots) {
        this.end.set(at, this.asset.length);
        this.onPath[spawned ? 1 : 0][asset.at] = 0;
        open.pop();
        next.pop();
        continue;
      }
      const child = slot < own ? this.place(at, slot, spawned) : this.spawn(at, slot, own);
      if (child >= 0) {
        open.push(child);
        next.push(0);
      }
    }
  }

  private place(at: number, slot: number, spawned: boolean): number {
    const owner = this.index.assets[this.asset.get(at)];
    const placed = owner.placed[slot];
    if (placed < 0) return -1;
    if (this.onPath[spawned ? 1 : 0][placed] === 1) {
      if (this.stopped.length >= LIMITS.expansion.loops) throw this.tooLarge('loops', at);
      this.stopped.push({ parent: at, placement: slot });
      return -1;
    }
    const inherited = this.flags.get(at) & (SPAWNED | ASLEEP_AT_START);
    const asleep = owner.placements[slot].asleep === true ? BEGINS_ASLEEP | ASLEEP_AT_START : 0;
    return this.add(placed, at, slot, inherited | asleep);
  }

  private spawn(at: number, slot: number, own: number): number {
    const standIn = this.standIns.of(this.asset.get(at))[slot - own];
    return this.add(standIn.asset, at, slot, SPAWNED);
  }

  private add(asset: number, parent: number, slot: number, flags: number): number {
    const at = this.asset.length;
    if (this.instances++ >= LIMITS.expansion.instances) throw this.tooLarge('instances', parent);
    const decl = this.index.assets[asset];
    const spawned = (flags & SPAWNED) !== 0;
    this.asset.push(asset);
    this.parent.push(parent);
    this.slot.push(slot);
    this.end.push(at + 1);
    this.childBase.push(this.children.length);
    this.holder.push(spawned ? this.holder.get(parent) : at);
    this.flags.push(flags);
    this.bindingBase.push(this.number);
    this.nodeBase.push(this.node);
    this.number += this.slots.count(asset);
    this.node +=
      decl.events.length + decl.actions.length + (this.free && !spawned ? this.free.nodes[asset] : 0);
    this.bindings += decl.bindings.length;
    this.nodes += decl.events.length + decl.actions.length;
    if (this.bindings > LIMITS.expansion.bindings) throw this.tooLarge('bindings', at);
    if (this.nodes > LIMITS.expansion.nodes) throw this.tooLarge('events and actions', at);
    const slots = decl.placed.length + (spawned ? 0 : this.standIns.of(asset).length);
    for (let i = 0; i < slots; i++) this.children.push(-1);
    if (parent >= 0) this.children.set(this.childBase.get(parent) + slot, at);
    this.onPath[spawned ? 1 : 0][asset] = 1;
    return at;
  }

  /** Leaves numbers free behind what is placed here, for what edits place. The last free instance has all free bindings and nodes. */
  private leaveRoom(at: number): void {
    const count = this.free?.instances[this.asset.get(at)] ?? 0;
    for (let i = 0; i < count; i++) {
      const own = this.asset.length;
      this.asset.push(this.asset.get(at));
      this.parent.push(at);
      this.slot.push(-1);
      this.end.push(own + 1);
      this.childBase.push(this.children.length);
      this.holder.push(own);
      this.flags.push(FREE);
      this.bindingBase.push(this.number);
      this.nodeBase.push(this.node);
    }
    this.number += count * FREE_BINDINGS;
    this.node += count * FREE_NODES;
  }

  /** Only reached where assets contain each other in circles, which the count beforehand cannot see through. */
  private tooLarge(
    what: 'instances' | 'bindings' | 'events and actions' | 'loops',
    parent: number,
  ): ProjectTooLarge {
    const chain: string[] = [];
    for (let at = parent; at >= 0 && chain.length < 12; at = this.parent.get(at)) {
      chain.push(this.index.assets[this.asset.get(at)].decl.id);
    }
    const limit = LIMITS.expansion[what === 'events and actions' ? 'nodes' : what];
    return new ProjectTooLarge(what, limit + 1, limit, chain.reverse());
  }
}
