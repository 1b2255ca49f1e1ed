import { LIMITS } from '../limits.js';
import { IntList } from '../util/int-list.js';
import type { InstanceState } from './instance-state.js';

const { atOnce: MAX_AT_ONCE, deliveries: MAX_DELIVERIES } = LIMITS.rehearsal;

/**
 * Notices a run that does not end, and reads its cycle off the causes of what was too many. 8 bytes for each record and for each
 * node, and an entry for each performance of a copy.
 */
export class RunawayWatch {
  /** For each record the number of its cause. Record 0 causes itself. */
  private readonly causes = new IntList(1024);
  /** For each record the node of the performance that it records; −1 for none. */
  private readonly nodes = new IntList(1024);
  /** Who performed, by record: of copies alone, which share their nodes. */
  private readonly copies = new Map<number, InstanceState>();
  /** For each node the instant that it was performed at last, and how often then. */
  private readonly instantOf: Int32Array;
  private readonly atOnce: Int32Array;
  private instant = 1;

  /** `placed`: the instance that a node belongs to, where it is no copy's. */
  constructor(
    nodes: number,
    private readonly placed: (node: number) => InstanceState,
  ) {
    this.instantOf = new Int32Array(nodes);
    this.atOnce = new Int32Array(nodes);
    this.record(0);
  }
  newInstant(): void {
    this.instant++;
  }
  /** Each record, in order. */
  record(cause: number): void {
    this.causes.push(cause);
    this.nodes.push(-1);
  }
  performed(node: number, live: InstanceState, record: number): void {
    this.nodes.set(record, node);
    if (live.copy) this.copies.set(record, live);
    if (this.instantOf[node] === this.instant) this.atOnce[node]++;
    else {
      this.instantOf[node] = this.instant;
      this.atOnce[node] = 1;
    }
  }
  /** Whether one delivery more would be too many: to an action node (−1 for none), after so many in all. */
  tooMany(node: number, deliveries: number): 'loop' | 'total' | null {
    if (node >= 0 && this.atOnce[node] >= MAX_AT_ONCE && this.instantOf[node] === this.instant) return 'loop';
    return deliveries >= MAX_DELIVERIES ? 'total' : null;
  }
  /**
   * The performances from the nearest one of the same action (of a copy: of its stand-in) among the causes up to the
   * last cause, in order of time; none if there is no such. Cost: the length of the way back.
   */
  cycle(node: number, cause: number): { live: InstanceState; node: number }[] {
    const back: { live: InstanceState; node: number }[] = [];
    for (let n = cause; n > 0; n = this.causes.get(n)) {
      const performed = this.nodes.get(n);
      if (performed < 0) continue;
      back.push({ live: this.copies.get(n) ?? this.placed(performed), node: performed });
      if (performed === node) return back.reverse();
    }
    return [];
  }
}
