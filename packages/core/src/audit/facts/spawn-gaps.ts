import type { Expansion } from '../../expand/expansion.js';
import { isEvent, type Graph } from '../../graph/graph.js';

/**
 * Events of stand-ins, and of what is inside them, that are not bound although the same event of a placed copy is. Cost: the
 * placed copies of what is spawned; of an edit, the depth of what changes times its stand-ins.
 */
export class SpawnGaps {
  readonly nodes = new Set<number>();
  private readonly standIns = new Map<number, number[]>();
  /** For each asset that is spawned: by node, counted from its stand-in's first, the placed copies in which it is bound. */
  private readonly boundCopies = new Map<number, Int32Array>();
  private readonly x: Expansion;

  constructor(
    private readonly g: Graph,
    private readonly hasBinding: () => Uint8Array,
  ) {
    const { x } = g;
    this.x = x;
    for (let i = 0; i < x.count; i++) {
      if (x.isFree(i) || !x.isStandIn(i)) continue;
      const all = this.standIns.get(x.asset[i]);
      if (all) all.push(i);
      else this.standIns.set(x.asset[i], [i]);
    }
    if (this.standIns.size === 0) return;
    for (const [asset, [s]] of this.standIns) {
      this.boundCopies.set(asset, new Int32Array(x.nodeBase[x.end[s]] - x.nodeBase[s]));
    }
    for (let i = 0; i < x.count; i++) {
      if (x.isSpawned(i) || x.isFree(i)) continue;
      for (let n = x.nodeBase[i]; n < x.nodeBase[i + 1]; n++) if (hasBinding()[n] === 1) this.count(n, 1);
    }
    for (const all of this.standIns.values()) {
      for (const s of all) for (let n = x.nodeBase[s]; n < x.nodeBase[x.end[s]]; n++) this.judge(n);
    }
  }

  /** After some nodes got their first binding or lost the last: the gaps that opened or closed. */
  follow(nodes: Iterable<number>): Set<number> {
    const changed = new Set<number>();
    if (this.standIns.size === 0) return changed;
    for (const n of nodes) {
      if (this.x.isSpawned(this.g.instanceOf[n])) {
        if (this.judge(n)) changed.add(n);
        continue;
      }
      this.count(n, this.hasBinding()[n] === 1 ? 1 : -1, changed);
    }
    return changed;
  }

  /** Counts a node of a placed copy for whatever around it is spawned elsewhere. */
  private count(node: number, times: 1 | -1, changed: Set<number> | null = null): void {
    const { g, x } = this;
    const instance = g.instanceOf[node];
    const offset = node - x.nodeBase[instance];
    const slots: number[] = [];
    for (let around = instance; around >= 0; around = x.parent[around]) {
      const standIns = this.standIns.get(x.asset[around]);
      const place = standIns ? this.inside(standIns[0], slots) : -1;
      if (place >= 0) {
        const at = x.nodeBase[place] + offset - x.nodeBase[standIns![0]];
        const counts = this.boundCopies.get(x.asset[around])!;
        counts[at] += times;
        if (changed) {
          for (const s of standIns!) if (this.judge(x.nodeBase[s] + at)) changed.add(x.nodeBase[s] + at);
        }
      }
      slots.push(x.slot[around]);
    }
  }
  /** The instance inside a stand-in by slots, the innermost first; −1 where a placement stopped. */
  private inside(standIn: number, slots: readonly number[]): number {
    const { x } = this;
    let at = standIn;
    for (let i = slots.length - 1; i >= 0 && at >= 0; i--) at = x.children[x.childBase[at] + slots[i]];
    return at;
  }
  /** Whether that changes what is known of a node of a stand-in. */
  private judge(node: number): boolean {
    const { g, x, nodes } = this;
    let standIn = g.instanceOf[node];
    while (!x.isStandIn(standIn)) standIn = x.parent[standIn];
    const counts = this.boundCopies.get(x.asset[standIn])!;
    const isGap = counts[node - x.nodeBase[standIn]] > 0 && this.hasBinding()[node] === 0 && isEvent(g, node);
    if (isGap === nodes.has(node)) return false;
    if (isGap) nodes.add(node);
    else nodes.delete(node);
    return true;
  }
}
