import { type Bound, type Instance, instanceIn, placedIn, type Scene } from './instance.js';
import type { Selector } from './selection.js';

/** What is bound to what, over all scenes that are loaded. */
export class Wiring {
  /** What hears a channel, where no copy has a part in it. */
  private readonly settled = new Map<string, readonly Bound[]>();

  constructor(
    private readonly scenes: () => readonly Scene[],
    private readonly selector: Selector,
  ) {}

  /** Other scenes are loaded than before. */
  forget(): void {
    this.settled.clear();
    for (const scene of this.scenes()) scene.settled.clear();
  }
  /** Every binding on an event of an instance, in running order, whether or not it holds. */
  on(instance: Instance, event: number): readonly Bound[] {
    const { scene, at } = instance;
    const node = scene.firstEvent[at] + event;
    const settled = scene.settled.get(node);
    if (settled) return settled;
    const list: Bound[] = [];
    let spawned = false;
    for (const other of this.scenes()) {
      const rows =
        other === scene
          ? scene.rows.subarray(scene.rowsOn[node], scene.rowsOn[node + 1])
          : this.rowsFrom(other, scene, at, event);
      if (rows.length > 0 && this.gather(other, rows, instance, list)) spawned = true;
    }
    if (!spawned) scene.settled.set(node, list);
    return list;
  }
  private rowsFrom(other: Scene, scene: Scene, at: number, event: number): number[] {
    if (other.foreign.size === 0) return [];
    const address = scene.addressOf(at);
    const place = other.file.others.indexOf(address);
    return (other.foreign.get(place) ?? []).filter((row) => other.file.bindings.event[row] === event);
  }
  hearersOf(channel: string): readonly Bound[] {
    const settled = this.settled.get(channel);
    if (settled) return settled;
    const list: Bound[] = [];
    let spawned = false;
    for (const scene of this.scenes()) {
      const rows = scene.hearers.get(channel);
      if (rows && this.gather(scene, rows, null, list)) spawned = true;
    }
    if (!spawned) this.settled.set(channel, list);
    return list;
  }
  /** Owners that are spawned stand for their copies, each of which comes with all its bindings before the next one. */
  private gather(scene: Scene, rows: ArrayLike<number>, sender: Instance | null, list: Bound[]): boolean {
    const { owner } = scene.file.bindings;
    let spawned = false;
    for (let i = 0; i < rows.length;) {
      if (scene.spawned[owner[rows[i]]] === 0) {
        list.push(placedIn(scene, owner[rows[i]]).bound(rows[i++]));
        continue;
      }
      spawned = true;
      const template = scene.templateOver(owner[rows[i]]);
      let end = i;
      while (end < rows.length && owner[rows[end]] < scene.end[template]) end++;
      for (const copy of scene.copies.get(template) ?? []) {
        for (let k = i; k < end; k++) {
          const bound = instanceIn(copy, owner[rows[k]]).bound(rows[k]);
          if (!bound.fromInside || sender?.copy === copy) list.push(bound);
        }
      }
      i = end;
    }
    return spawned;
  }
  /** What a binding listens to: null for its channel. */
  sendersOf(bound: Bound): (Instance | null)[] {
    if ('channel' in bound.decl.from) return [null];
    const { owner, row } = bound;
    const end = this.selector.end(owner.scene, owner.scene.file.bindings.sender[row]);
    return end ? this.selector.allAt(end, bound.fromInside ? owner : null) : [];
  }
}
