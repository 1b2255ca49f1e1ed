import { LIMITS } from '../limits.js';
import type { ProjectIndex } from '../project/index-project.js';
import { ASLEEP_AT_START, BEGINS_ASLEEP, FREE, type Expansion } from './expansion.js';

/** Placements of an asset that come and go; those that stay keep their order. */
export interface PlacementEdit {
  asset: number;
  /** For each slot before the one after it; −1 for one that goes. */
  moved: Int32Array;
  /** Slots before, and slots after. */
  gone: readonly number[];
  fresh: readonly number[];
}

/** An instance to be: its asset, and where it stands. */
interface Coming {
  asset: number;
  /** Its place in the list, −1 for the first; and its slot there. */
  parent: number;
  slot: number;
  /** How many stand in it, itself included. */
  size: number;
}

/**
 * Gives what is placed numbers that are free at its place in the order, and takes those back that what is gone has had.
 * Cost: the copies of the assets whose placements change, what comes and goes in them, and the free numbers there.
 */
export class InstanceEdits {
  private used: number;

  constructor(private readonly x: Expansion) {
    this.used = x.children.length;
  }

  /** What an edit takes away, ascending. Null where that cannot be followed: something spawned goes with it. */
  leaving(edits: readonly PlacementEdit[]): Set<number> | null {
    const { x } = this;
    const found: number[] = [];
    for (const { asset, gone } of edits) {
      for (const parent of gone.length === 0 ? [] : x.instancesOf(asset)) {
        for (const slot of gone) {
          const root = x.children[x.childBase[parent] + slot];
          for (let i = root; i >= 0 && i < x.end[root]; i++) {
            if (x.isSpawned(i)) return null;
            if (!x.isFree(i)) found.push(i);
          }
        }
      }
    }
    return new Set(found.sort((a, b) => a - b));
  }

  /**
   * Makes what comes, once the expansion has its next index, and gives its numbers, ascending; {@link Expansion.renumbered}
   * is reported. What leaves counts as free at once, but keeps what is known of it, and its numbers, until {@link retire}. Null where that cannot be followed: the numbers do not
   * suffice, or something that comes spawns or contains itself. The expansion is of no more use then.
   */
  make(before: ProjectIndex, edits: readonly PlacementEdit[], leaving: ReadonlySet<number>): Made | null {
    const { instances } = this.x.size;
    const made: Made = { instances: [], runs: [] };
    for (const i of leaving) this.x.flags[i] |= FREE;
    for (const edit of edits) {
      for (const parent of this.x.instancesOf(edit.asset)) {
        if (!leaving.has(parent) && !this.place(parent, before, edit, leaving, made)) return null;
      }
    }
    if (instances + made.instances.length - leaving.size > LIMITS.expansion.instances) return null;
    made.instances.sort((a, b) => a - b);
    this.x.relisted(made.instances, leaving);
    return this.x.size.nodes > LIMITS.expansion.nodes ? null : made;
  }
  /** Gives the numbers of what has left free. */
  retire(leaving: Iterable<number>): void {
    const { x } = this;
    for (const i of leaving) {
      x.flags[i] = FREE;
      x.slot[i] = -1;
      x.end[i] = i + 1;
    }
  }

  private place(
    parent: number,
    before: ProjectIndex,
    { asset, moved, fresh }: PlacementEdit,
    leaving: ReadonlySet<number>,
    made: Made,
  ): boolean {
    const { x } = this;
    const after = x.index.assets[asset];
    const standIns = x.standIns.of(asset).length;
    const old = x.childBase[parent];
    const base = this.childSlots(after.placements.length + standIns);
    moved.forEach((to, from) => {
      if (to >= 0) this.setChild(base, to, x.children[old + from]);
    });
    const oldLength = before.assets[asset].placements.length;
    for (let s = 0; s < standIns; s++) {
      this.setChild(base, after.placements.length + s, x.children[old + oldLength + s]);
    }
    x.childBase[parent] = base;
    for (const slot of fresh) {
      const placed = after.placed[slot];
      if (placed < 0) continue;
      const coming = this.expand(parent, placed, slot);
      const at = coming && this.freeRun(parent, slot, coming, leaving);
      if (!coming || at === null) return false;
      this.write(parent, at.from, coming);
      for (let k = 0; k < coming.length; k++) made.instances.push(at.from + k);
      made.runs.push(at);
    }
    return true;
  }
  private childSlots(count: number): number {
    const { x } = this;
    if (this.used + count > x.children.length) {
      const more = new Int32Array(this.used + count + (this.used >> 3) + 1024);
      more.set(x.children);
      x.children = more;
    }
    x.children.fill(-1, this.used, this.used + count);
    this.used += count;
    return this.used - count;
  }
  private setChild(base: number, slot: number, child: number): void {
    const { x } = this;
    x.children[base + slot] = child;
    if (child >= 0) x.slot[child] = slot;
  }

  /** What a placement yields, in expansion order; null where it would contain itself, spawn, or stand too deep. */
  private expand(parent: number, asset: number, slot: number): Coming[] | null {
    const { x } = this;
    const around = new Set<number>();
    for (let at = parent; at >= 0; at = x.parent[at]) around.add(x.asset[at]);
    const all: Coming[] = [];
    const open: { at: number; next: number }[] = [];
    const enter = (of: number, within: number, at: number): boolean => {
      if (around.has(of) || x.standIns.of(of).length > 0) return false;
      around.add(of);
      open.push({ at: all.length, next: 0 });
      all.push({ asset: of, parent: within, slot: at, size: 1 });
      return around.size <= LIMITS.expansion.levels && all.length < LIMITS.expansion.instances;
    };
    if (!enter(asset, -1, slot)) return null;
    while (open.length > 0) {
      const top = open[open.length - 1];
      const { placed } = x.index.assets[all[top.at].asset];
      if (top.next >= placed.length) {
        all[top.at].size = all.length - top.at;
        around.delete(all[top.at].asset);
        open.pop();
        continue;
      }
      const of = placed[top.next++];
      if (of >= 0 && !enter(of, top.at, top.next - 1)) return null;
    }
    return all;
  }

  /** Free numbers between the neighbours of a slot, enough for what comes; all that are free there, one after the other. */
  private freeRun(
    parent: number,
    slot: number,
    coming: readonly Coming[],
    leaving: ReadonlySet<number>,
  ): Run | null {
    const { x } = this;
    const base = x.childBase[parent];
    const { placements } = x.assetOf(parent);
    const slots = placements.length + x.standIns.of(x.asset[parent]).length;
    let [low, high] = [parent + 1, x.end[parent]];
    for (let s = slot - 1; s >= 0; s--) {
      if (x.children[base + s] < 0) continue;
      low = x.end[x.children[base + s]];
      break;
    }
    for (let s = slot + 1; s < slots; s++) {
      if (x.children[base + s] < 0) continue;
      high = x.children[base + s];
      break;
    }
    const nodes = coming.reduce((sum, c) => sum + this.nodesOf(c.asset), 0);
    const bindings = coming.reduce((sum, c) => sum + x.slots.count(c.asset), 0);
    for (let from = low; from < high; from++) {
      let end = from;
      while (end < high && x.isFree(end) && !leaving.has(end)) end++;
      const fits =
        end - from >= coming.length &&
        x.nodeBase[end] - x.nodeBase[from] >= nodes &&
        x.bindingBase[end] - x.bindingBase[from] >= bindings;
      if (fits) return { from, end };
      from = Math.max(from, end);
    }
    return null;
  }
  private nodesOf(asset: number): number {
    const { events, actions } = this.x.index.assets[asset];
    return events.length + actions.length;
  }

  private write(parent: number, from: number, coming: readonly Coming[]): void {
    const { x } = this;
    let node = x.nodeBase[from];
    let binding = x.bindingBase[from];
    coming.forEach(({ asset, parent: within, slot, size }, k) => {
      const i = from + k;
      const around = within < 0 ? parent : from + within;
      const { placements } = x.index.assets[asset];
      const asleep = x.assetOf(around).placements[slot].asleep === true ? BEGINS_ASLEEP | ASLEEP_AT_START : 0;
      x.asset[i] = asset;
      x.parent[i] = around;
      x.slot[i] = slot;
      x.end[i] = i + size;
      x.childBase[i] = this.childSlots(placements.length);
      x.holder[i] = i;
      x.flags[i] = (x.flags[around] & ASLEEP_AT_START) | asleep;
      x.nodeBase[i] = node;
      x.bindingBase[i] = binding;
      x.children[x.childBase[around] + slot] = i;
      node += this.nodesOf(asset);
      binding += x.slots.count(asset);
    });
    // What is left belongs to the last free number there, or lies behind what came.
    for (let i = from + coming.length; x.isFree(i) && x.nodeBase[i] < node; i++) x.nodeBase[i] = node;
    for (let i = from + coming.length; x.isFree(i) && x.bindingBase[i] < binding; i++)
      x.bindingBase[i] = binding;
  }
}

/** Free numbers of which some were given out. */
export interface Run {
  from: number;
  end: number;
}
export interface Made {
  instances: number[];
  runs: Run[];
}
