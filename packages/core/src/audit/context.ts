import type { Expansion } from '../expand/expansion.js';
import { chainLengths, type Chains } from '../graph/chains.js';
import { stronglyConnected, type Components } from '../graph/components.js';
import { fanOuts } from '../graph/fan-out.js';
import { BIND, HEAR, isEvent, PUBLISH, type Graph } from '../graph/graph.js';
import type { ProjectIndex } from '../project/index-project.js';
import { cycleGroups, type CycleGroup } from '../graph/cycles.js';
import { endFaults, type EndFault } from './dangling-ends.js';
import { thresholds, type Thresholds } from './policy.js';
import { spawnGaps } from './spawn-gaps.js';

/** What rules look at. Whatever several rules need is worked out once, when first asked for. */
export class AuditContext {
  readonly x: Expansion;
  readonly index: ProjectIndex;
  readonly limits: Thresholds;

  constructor(
    readonly g: Graph,
    /** ISO date. */
    readonly today: string,
  ) {
    this.x = g.x;
    this.index = g.x.index;
    this.limits = thresholds(this.index.project.policy);
  }

  private memo = new Map<string, unknown>();
  private once<T>(name: string, make: () => T): T {
    if (!this.memo.has(name)) this.memo.set(name, make());
    return this.memo.get(name) as T;
  }

  get components(): Components {
    return this.once('components', () => stronglyConnected(this.g));
  }
  get chains(): Chains {
    return this.once('chains', () => chainLengths(this.g, this.components));
  }
  get fanOut(): Int32Array {
    return this.once('fanOut', () => fanOuts(this.g));
  }
  get cycleGroups(): CycleGroup[] {
    return this.once('cycleGroups', () => cycleGroups(this.g, this.components));
  }
  get endFaults(): EndFault[] {
    return this.once('endFaults', () => endFaults(this));
  }
  get spawnGaps(): Int32Array {
    return this.once('spawnGaps', () => spawnGaps(this));
  }
  /** For each asset its number of instances. */
  get copies(): Int32Array {
    return this.once('copies', () => {
      const copies = new Int32Array(this.index.assets.length);
      for (const asset of this.x.asset) copies[asset]++;
      return copies;
    });
  }
  /** For each event 1 if a bind or publish edge leaves it; for each action 1 if a bind or hear edge enters it. */
  get bound(): Uint8Array {
    return this.once('bound', () => {
      const { g } = this;
      const bound = new Uint8Array(g.nodes);
      for (let n = 0; n < g.nodes; n++) {
        for (let e = g.first[n]; e < g.first[n + 1]; e++) {
          const kind = g.meta[e] >> 2;
          if (kind === BIND || kind === PUBLISH) bound[n] = 1;
          if (kind === BIND || kind === HEAR) bound[g.head[e]] = 1;
        }
      }
      return bound;
    });
  }
  /** Bound or driven, also by a binding whose other end is missing: that is one fault and has its own finding. */
  countsAsBound(node: number): boolean {
    return this.bound[node] === 1 || this.g.countsAsBound[node] === 1;
  }

  /** Calls `take` for every event that something outside the wiring raises, of instances that are not spawned. */
  eachOutsideEvent(take: (node: number, instance: number, event: number) => void): void {
    const { x } = this;
    for (let i = 0; i < x.count; i++) {
      if (x.isSpawned(i)) continue;
      const { events } = x.assetOf(i);
      for (let e = 0; e < events.length; e++) {
        if (events[e].cause.type !== 'raised') take(x.nodeBase[i] + e, i, e);
      }
    }
  }
  isEvent(node: number): boolean {
    return isEvent(this.g, node);
  }
}
