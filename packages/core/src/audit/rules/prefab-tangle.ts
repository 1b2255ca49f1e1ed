import { BIND } from '../../graph/graph.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { AuditContext } from '../context.js';
import { defineRule } from '../rule.js';

export const prefabTangle = defineRule<'tangle'>({
  meta: {
    name: 'prefab-tangle',
    severity: 'info',
    group: 'shape',
    what: 'Many bindings tie two assets to each other in both directions.',
    why: 'Neither can be changed or used without the other.',
    cure: 'Let one of them only raise events, or put a hub or a channel between them.',
  },
  messages: {
    tangle: '{count} bindings tie {a} and {b} to each other in both directions; the limit is {limit}',
  },
  check(ctx, report) {
    const { limits } = ctx;
    const assets = ctx.index.assets.length;
    const ways = ctx.perAsset('prefab-tangle', (missing) => waysByOwner(ctx, missing));
    const tangled: Tangle[] = [];
    const counts = countWays(ways);
    for (const [pair, forth] of counts) {
      const from = Math.floor(pair / assets);
      const to = pair % assets;
      const back = to * assets + from;
      const backwards = counts.get(back) ?? 0;
      if (from > to || backwards === 0 || forth + backwards <= limits.maxTangle) continue;
      const numbers = ways.flatMap((own, owner) =>
        [...new Set([...(own.get(pair) ?? []), ...(own.get(back) ?? [])])].map((at) => ({ owner, at })),
      );
      if (numbers.length > limits.maxTangle) tangled.push({ from, to, numbers });
    }
    const occurrences = ownersOf(ctx, tangled);
    tangled.forEach(({ from, to, numbers }, i) => {
      const [a, b] = [from, to].map((at) => ctx.index.assets[at].decl.id).sort();
      report({
        subject: { assets: [a, b] },
        occurrences: occurrences[i],
        message: 'tangle',
        data: { a, b, count: numbers.length, limit: limits.maxTangle },
        evidence: () => ({
          kind: 'bindings',
          bindings: numbers.slice(0, 100).map(({ owner, at }) => {
            const { decl, bindings } = ctx.index.assets[owner];
            return { asset: decl.id, binding: bindings[at].id };
          }),
        }),
      });
    });
  },
});

interface Tangle {
  from: number;
  to: number;
  /** The authored bindings of both directions. */
  numbers: { owner: number; at: number }[];
}
/** For each pair of assets (from × assets + to) the bindings of one owner that lead from one to the other. */
type Ways = Map<number, Set<number>>;

function countWays(ways: readonly Ways[]): Map<number, number> {
  const counts = new Map<number, number>();
  for (const own of ways) {
    for (const [pair, numbers] of own) counts.set(pair, (counts.get(pair) ?? 0) + numbers.size);
  }
  return counts;
}

/** Direct edges between two different assets, neither a scene, by owner and pair. One pass over the edges. */
function waysByOwner(ctx: AuditContext, owners: readonly AssetIndex[]): Ways[] {
  const { x } = ctx;
  const assets = ctx.index.assets.length;
  const found = ctx.index.assets.map((): Ways => new Map());
  const wanted = new Uint8Array(x.bindingBase[x.count]);
  for (const { at } of owners) {
    for (const i of ctx.instancesOf(at)) wanted.fill(1, x.bindingBase[i], x.bindingBase[i + 1]);
  }
  eachCrossing(ctx, wanted, (from, to, number) => {
    const owner = x.ownerOf(number);
    const ways = found[x.asset[owner]];
    const pair = from * assets + to;
    let numbers = ways.get(pair);
    if (!numbers) ways.set(pair, (numbers = new Set()));
    numbers.add(number - x.bindingBase[owner]);
  });
  return owners.map(({ at }) => found[at]);
}

/** For each tangle the instances whose copies of its bindings lead from one asset to the other. */
function ownersOf(ctx: AuditContext, tangled: readonly Tangle[]): Set<number>[] {
  const { x } = ctx;
  const assets = ctx.index.assets.length;
  const owners = tangled.map(() => new Set<number>());
  if (tangled.length === 0) return owners;
  const byPair = new Map<number, Set<number>>();
  const wanted = new Uint8Array(x.bindingBase[x.count]);
  tangled.forEach(({ from, to, numbers }, i) => {
    byPair.set(from * assets + to, owners[i]);
    byPair.set(to * assets + from, owners[i]);
    for (const { owner, at } of numbers) {
      for (const instance of ctx.instancesOf(owner)) wanted[x.bindingBase[instance] + at] = 1;
    }
  });
  eachCrossing(ctx, wanted, (from, to, number) => byPair.get(from * assets + to)?.add(x.ownerOf(number)));
  return owners;
}

/** Calls `take` for the direct edges between two assets, neither a scene, of the expanded bindings that are wanted. */
function eachCrossing(
  { g, x, index }: AuditContext,
  wanted: Uint8Array,
  take: (from: number, to: number, expandedBinding: number) => void,
): void {
  const { first, head, meta, ref, instanceOf } = g;
  let tail = 0;
  const isScene = (asset: number): boolean => index.assets[asset].decl.kind === 'scene';
  for (let e = 0; e < head.length; e++) {
    if (ref[e] < 0 || wanted[ref[e]] === 0 || meta[e] >> 2 !== BIND) continue;
    while (first[tail + 1] <= e) tail++;
    const from = x.asset[instanceOf[tail]];
    const to = x.asset[instanceOf[head[e]]];
    if (to !== from && !isScene(from) && !isScene(to)) take(from, to, ref[e]);
  }
}
