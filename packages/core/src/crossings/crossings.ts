import type { BindingRef } from '../audit/finding.js';
import {
  BIND,
  edgeKind,
  expandedBinding,
  HEAR,
  PUBLISH,
  type Graph,
  channelAt,
  isChannel,
} from '../graph/graph.js';

export type CrossingGroup = 'scene' | 'asset' | 'tag' | 'channel';
export const CROSSING_GROUPS: readonly CrossingGroup[] = ['scene', 'asset', 'tag', 'channel'];

/** What is said from one group to another. */
export interface CrossingCell {
  /** Numbers in {@link Crossings.groups}. */
  from: number;
  to: number;
  /** Deliveries over all copies. */
  deliveries: number;
  /** Of them through a channel, by bindings made in code, and from one scene to another. */
  throughChannel: number;
  inCode: number;
  acrossScenes: number;
  /** The authored bindings behind them, each once, at most {@link MOST_BINDINGS}. */
  bindings: readonly BindingRef[];
  /** Of how many. */
  of: number;
}
export interface Crossings {
  by: CrossingGroup;
  /** Names of the groups that say or hear anything, in order of the document; a channel as `#name`. */
  groups: readonly string[];
  cells: readonly CrossingCell[];
}
export const MOST_BINDINGS = 300;
export const NO_TAG = '(no tag)';

interface Gathered {
  deliveries: number;
  throughChannel: number;
  inCode: number;
  acrossScenes: number;
  bindings: Set<string>;
}

/**
 * Who talks to whom: the deliveries of the graph gathered by groups of senders and receivers. By scene, asset and tag a
 * delivery through a channel counts from whoever tells to whoever hears it; by channel the channels stand among the
 * assets. A thing with several tags counts for each. Linear in edges, and in pairs of groups for each channel node.
 */
export function crossingsOf(g: Graph, by: CrossingGroup): Crossings {
  return new Gatherer(g, by).run();
}

/** Groups between which something is delivered, and an instance of either in its scene. */
interface Ends {
  from: readonly number[];
  to: readonly number[];
  sender: number;
  receiver: number;
}

class Gatherer {
  private readonly numbers = new Map<string, number>();
  private readonly cells = new Map<string, Gathered>();
  private readonly scenes: Int32Array;
  private readonly grouped: (readonly number[] | undefined)[] = [];

  constructor(
    private readonly g: Graph,
    private readonly by: CrossingGroup,
  ) {
    const { x } = g;
    this.scenes = new Int32Array(x.count);
    for (let i = 0; i < x.count; i++) this.scenes[i] = x.parent[i] < 0 ? i : this.scenes[x.parent[i]];
    // In order of the document, whatever is met first.
    const { assets, project } = x.index;
    if (by === 'scene') for (const a of assets) if (a.decl.kind === 'scene') this.number(a.decl.id);
    if (by === 'channel') for (const c of project.channels ?? []) this.number(`#${c.name}`);
    if (by === 'asset' || by === 'channel') for (const a of assets) this.number(a.decl.id);
    if (by === 'tag') for (const a of assets) for (const t of a.decl.tags ?? []) this.number(t);
  }

  run(): Crossings {
    const { g } = this;
    for (let node = 0; node < g.nodes; node++) {
      if (isChannel(g, node)) continue;
      for (let e = g.first[node]; e < g.end[node]; e++) {
        const kind = edgeKind(g, e);
        const sender = g.instanceOf[node];
        if (kind === BIND)
          this.add(
            {
              from: this.groupsOf(sender),
              to: this.groupsOf(g.instanceOf[g.head[e]]),
              sender: sender,
              receiver: g.instanceOf[g.head[e]],
            },
            [g.ref[e]],
            1,
            false,
          );
        else if (kind === PUBLISH && this.by === 'channel') {
          this.add(
            {
              from: this.groupsOf(sender),
              to: [this.channelOf(g.head[e])],
              sender: sender,
              receiver: sender,
            },
            [g.ref[e]],
            1,
            true,
          );
        }
      }
    }
    if (this.by === 'channel') this.hearings();
    else this.throughChannels();
    return this.result();
  }

  private hearings(): void {
    const { g } = this;
    for (let node = 0; node < g.nodes; node++) {
      if (!isChannel(g, node)) continue;
      for (let e = g.first[node]; e < g.end[node]; e++) {
        if (edgeKind(g, e) !== HEAR) continue;
        const receiver = g.instanceOf[g.head[e]];
        this.add(
          { from: [this.channelOf(node)], to: this.groupsOf(receiver), sender: receiver, receiver: receiver },
          [g.ref[e]],
          1,
          true,
        );
      }
    }
  }
  /** Whoever tells a channel node says it to whoever hears that node: pairs of groups, not of things. */
  private throughChannels(): void {
    const { g } = this;
    const publishers = new Map<number, { sender: number; ref: number }[]>();
    for (let node = 0; node < g.nodes; node++) {
      if (isChannel(g, node)) continue;
      for (let e = g.first[node]; e < g.end[node]; e++) {
        if (edgeKind(g, e) !== PUBLISH) continue;
        const list = publishers.get(g.head[e]);
        const sent = { sender: g.instanceOf[node], ref: g.ref[e] };
        if (list) list.push(sent);
        else publishers.set(g.head[e], [sent]);
      }
    }
    for (const [node, sent] of publishers) {
      const senders = this.bundle(sent.map(({ sender, ref }) => ({ instance: sender, ref })));
      const heard: { instance: number; ref: number }[] = [];
      for (let e = g.first[node]; e < g.end[node]; e++) {
        if (edgeKind(g, e) === HEAR) heard.push({ instance: g.instanceOf[g.head[e]], ref: g.ref[e] });
      }
      for (const s of senders) {
        for (const r of this.bundle(heard)) {
          this.add(
            { from: [s.group], to: [r.group], sender: s.scene, receiver: r.scene },
            [...s.refs, ...r.refs],
            s.count * r.count,
            true,
          );
        }
      }
    }
  }
  /** Things that stand for each other in the matrix: of one group and one scene. */
  private bundle(
    items: readonly { instance: number; ref: number }[],
  ): { group: number; scene: number; count: number; refs: number[] }[] {
    const bundles = new Map<string, { group: number; scene: number; count: number; refs: number[] }>();
    for (const { instance, ref } of items) {
      const scene = this.scenes[instance];
      for (const group of this.groupsOf(instance)) {
        const key = `${group}/${scene}`;
        let b = bundles.get(key);
        if (!b) bundles.set(key, (b = { group, scene, count: 0, refs: [] }));
        b.count++;
        b.refs.push(ref);
      }
    }
    return [...bundles.values()];
  }

  private add(
    { from, to, sender, receiver }: Ends,
    refs: readonly number[],
    count: number,
    channel: boolean,
  ): void {
    for (const f of from) {
      for (const t of to) {
        const key = `${f}/${t}`;
        let cell = this.cells.get(key);
        if (!cell) {
          cell = { deliveries: 0, throughChannel: 0, inCode: 0, acrossScenes: 0, bindings: new Set() };
          this.cells.set(key, cell);
        }
        cell.deliveries += count;
        if (channel) cell.throughChannel += count;
        if (this.scenes[sender] !== this.scenes[receiver]) cell.acrossScenes += count;
        let code = false;
        for (const ref of refs) {
          const { owner, binding } = expandedBinding(this.g.x, ref);
          code ||= binding.origin === 'code';
          cell.bindings.add(`${this.g.x.assetOf(owner).decl.id}\n${binding.id}`);
        }
        if (code) cell.inCode += count;
      }
    }
  }
  private result(): Crossings {
    const used = new Set<number>();
    for (const key of this.cells.keys()) for (const n of key.split('/')) used.add(Number(n));
    const kept = [...this.numbers].filter(([, n]) => used.has(n)).sort((a, b) => a[1] - b[1]);
    const at = new Map(kept.map(([, n], i) => [n, i]));
    const cells = [...this.cells].map(([key, { bindings, ...cell }]): CrossingCell => {
      const [from, to] = key.split('/').map((n) => at.get(Number(n))!);
      const list = [...bindings].slice(0, MOST_BINDINGS).map((b) => {
        const [asset, binding] = b.split('\n');
        return { asset, binding };
      });
      return { from, to, ...cell, bindings: list, of: bindings.size };
    });
    return { by: this.by, groups: kept.map(([name]) => name), cells };
  }

  private groupsOf(instance: number): readonly number[] {
    const { x } = this.g;
    const key = this.by === 'scene' ? this.scenes[instance] : x.asset[instance];
    return (this.grouped[key] ??= this.makeGroups(instance));
  }
  private makeGroups(instance: number): readonly number[] {
    const { x } = this.g;
    if (this.by === 'scene') return [this.number(x.assetOf(this.scenes[instance]).decl.id)];
    const { id, tags = [] } = x.assetOf(instance).decl;
    if (this.by !== 'tag') return [this.number(id)];
    return tags.length === 0 ? [this.number(NO_TAG)] : [...new Set(tags)].map((t) => this.number(t));
  }
  private channelOf(node: number): number {
    const { g } = this;
    return this.number(`#${g.x.index.project.channels![channelAt(g, node)].name}`);
  }
  private number(name: string): number {
    let n = this.numbers.get(name);
    if (n === undefined) this.numbers.set(name, (n = this.numbers.size));
    return n;
  }
}
