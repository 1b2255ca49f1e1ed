/**
 * The nodes of channels: one for each key that a binding publishes or hears at, and one for none. A node is there as long
 * as bindings name it. Each has a number of its own here, and one among the graph's nodes.
 */
export class ChannelNodes {
  /** By own number; a channel of −1 for a node that is gone. */
  readonly channel: number[] = [];
  readonly key: number[] = [];
  readonly node: number[] = [];
  /** How many nodes are gone. */
  goneCount = 0;
  private readonly named: number[] = [];
  private readonly byKey: Map<number, number>[];
  /** For each channel the graph's nodes, as they came. */
  private readonly nodes: number[][];

  constructor(
    channels: number,
    /** Gives the graph's next node number, for a channel node of that own number. */
    public allocate: (own: number) => number,
  ) {
    this.byKey = Array.from({ length: channels }, () => new Map<number, number>());
    this.nodes = Array.from({ length: channels }, () => []);
  }

  /** The graph's nodes of a channel. */
  of(channel: number): readonly number[] {
    return this.nodes[channel];
  }
  /** The graph's node of a channel at a key; undefined if nothing names it. */
  find(channel: number, key: number): number | undefined {
    const own = this.byKey[channel].get(key);
    return own === undefined ? undefined : this.node[own];
  }
  /** The same; made if it is not there. It counts how often it is named. */
  name(channel: number, key: number): number {
    let own = this.byKey[channel].get(key);
    if (own === undefined) {
      own = this.node.length;
      this.byKey[channel].set(key, own);
      this.channel.push(channel);
      this.key.push(key);
      this.named.push(0);
      this.node.push(this.allocate(own));
      this.nodes[channel].push(this.node[own]);
    }
    this.named[own]++;
    return this.node[own];
  }
  /** Takes back one naming; the graph's node if that was the last one, which is gone then. */
  unname(channel: number, key: number): number | null {
    const own = this.byKey[channel].get(key)!;
    if (--this.named[own] > 0) return null;
    this.byKey[channel].delete(key);
    this.goneCount++;
    this.channel[own] = -1;
    const node = this.node[own];
    this.nodes[channel].splice(this.nodes[channel].indexOf(node), 1);
    return node;
  }
}

/** How often keys are used, by channel. */
export class KeyCounts {
  private readonly channels: Map<number, number>[];
  private readonly totals: Int32Array;

  constructor(channels: number) {
    this.channels = Array.from({ length: channels }, () => new Map<number, number>());
    this.totals = new Int32Array(channels);
  }
  /** Adds a use, or takes one back. */
  add(channel: number, key: number, times: 1 | -1): void {
    const counts = this.channels[channel];
    const now = (counts.get(key) ?? 0) + times;
    if (now === 0) counts.delete(key);
    else counts.set(key, now);
    this.totals[channel] += times;
  }
  /** Whether a channel is used at all. */
  any(channel: number): boolean {
    return this.totals[channel] > 0;
  }
  has(channel: number, key: number): boolean {
    return this.channels[channel].has(key);
  }
}
