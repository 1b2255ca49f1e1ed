import { BIND } from '../../graph/graph.js';
import type { Binding } from '../../project/types.js';
import type { AuditContext } from '../context.js';
import type { BindingRef } from '../finding.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

export const prefabTangle = defineRule<'tangle'>({
  meta: {
    name: 'prefab-tangle',
    severity: 'info',
    group: 'shape',
    what: 'Two assets are bound to each other in both directions by many bindings.',
    why: 'Neither can be changed or used without the other.',
    cure: 'Let one of them only raise events, or put a hub or a channel between.',
  },
  messages: { tangle: '{a} and {b} are tied by {count} bindings in both directions; the limit is {limit}' },
  check(ctx, report) {
    const { limits } = ctx;
    const assets = ctx.index.assets.length;
    const counts = countWays(ctx);
    for (const pair of counts.keys()) {
      const forth = counts.get(pair);
      const [from, to] = [Math.floor(pair / assets), pair % assets];
      const back = from < to ? counts.get(to * assets + from) : 0;
      if (forth === 0 || back === 0 || forth + back <= limits.maxTangle) continue;
      const bindings = bindingsBetween(ctx, from, to);
      if (bindings.size <= limits.maxTangle) continue;
      const [a, b] = [from, to].map((at) => ctx.index.assets[at].decl.id).sort();
      report({
        subject: { assets: [a, b] },
        occurrences: ownersBetween(ctx, from, to),
        message: 'tangle',
        data: { a, b, count: bindings.size, limit: limits.maxTangle },
        evidence: () => ({ kind: 'bindings', bindings: [...bindings.values()].slice(0, 100) }),
      });
    }
  },
});

/**
 * For each pair of assets (from × assets + to) at least the number of authored bindings from one to the other: one that
 * goes between several pairs may be counted more than once.
 */
function countWays(ctx: AuditContext): PairCounts {
  const { g, x } = ctx;
  const assets = ctx.index.assets.length;
  const authored = authoredNumbers(ctx);
  const last = new Int32Array(authored.count).fill(-1);
  const counts = new PairCounts(assets);
  eachBindEdge(ctx, (from, to, e) => {
    const owner = x.ownerOf(g.ref[e]);
    const number = authored.base[x.asset[owner]] + g.ref[e] - x.bindingBase[owner];
    const pair = from * assets + to;
    if (last[number] === pair) return;
    last[number] = pair;
    counts.add(pair);
  });
  return counts;
}
/** Counts by pair of assets: a table while that is small, beyond it a map. */
class PairCounts {
  private readonly table: Int32Array | null;
  private readonly map = new Map<number, number>();
  private readonly seen: number[] = [];
  constructor(assets: number) {
    this.table = assets <= 2000 ? new Int32Array(assets * assets) : null;
  }
  get(pair: number): number {
    return this.table ? this.table[pair] : (this.map.get(pair) ?? 0);
  }
  add(pair: number): void {
    const before = this.get(pair);
    if (before === 0) this.seen.push(pair);
    if (this.table) this.table[pair] = before + 1;
    else this.map.set(pair, before + 1);
  }
  /** Pairs with a count, in the order in which they were first met. */
  keys(): readonly number[] {
    return this.seen;
  }
}
/** Numbers for authored bindings: those of an asset begin at its base. */
function authoredNumbers(ctx: AuditContext): { base: Int32Array; count: number } {
  const base = new Int32Array(ctx.index.assets.length);
  let count = 0;
  for (const asset of ctx.index.assets) {
    base[asset.at] = count;
    count += asset.bindings.length;
  }
  return { base, count };
}
function bindingsBetween(ctx: AuditContext, a: number, b: number): Map<Binding, BindingRef> {
  const { g, x } = ctx;
  const bindings = new Map<Binding, BindingRef>();
  eachBindEdge(ctx, (from, to, e) => {
    if (!((from === a && to === b) || (from === b && to === a))) return;
    const owner = x.ownerOf(g.ref[e]);
    const binding = x.assetOf(owner).bindings[g.ref[e] - x.bindingBase[owner]];
    if (!bindings.has(binding)) bindings.set(binding, bindingRef(x, g.ref[e]));
  });
  return bindings;
}
function ownersBetween(ctx: AuditContext, a: number, b: number): Set<number> {
  const owners = new Set<number>();
  const { g, x } = ctx;
  eachBindEdge(ctx, (from, to, e) => {
    if ((from === a && to === b) || (from === b && to === a)) owners.add(x.ownerOf(g.ref[e]));
  });
  return owners;
}

/** Direct edges between two different assets, neither a scene. */
function eachBindEdge(ctx: AuditContext, take: (from: number, to: number, edge: number) => void): void {
  const { g, x } = ctx;
  const scene = ctx.index.assets.map((a) => a.decl.kind === 'scene');
  for (let n = 0; n < g.channelBase; n++) {
    const from = x.asset[g.instanceOf[n]];
    if (scene[from]) continue;
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      if (g.meta[e] >> 2 !== BIND) continue;
      const to = x.asset[g.instanceOf[g.head[e]]];
      if (to !== from && !scene[to]) take(from, to, e);
    }
  }
}
