import { canonicalJson } from '../../src/index.js';
import { effectText } from '../naive-rehearsal/raising.js';
import type { NaiveEdge } from '../naive.js';
import type { NaiveReading, SecondReading } from './reading.js';

const CLASSES = ['instant', 'delayed', 'conditional', 'limited'];

/** What each node leads to, by one edge or more. */
function leadsTo(edges: readonly NaiveEdge[]): Map<string, Set<string>> {
  const heads = new Map<string, string[]>();
  for (const e of edges) heads.set(e.tail, [...(heads.get(e.tail) ?? []), e.head]);
  return new Map(
    [...heads.keys()].map((node) => {
      const seen = new Set<string>();
      const next = [node];
      for (let at = next.pop(); at !== undefined; at = next.pop()) {
        for (const head of heads.get(at) ?? []) {
          if (seen.has(head)) continue;
          seen.add(head);
          next.push(head);
        }
      }
      return [node, seen];
    }),
  );
}

function outside(r: NaiveReading): { asset: string; event: string; at: string; node: string }[] {
  return [...r.events()]
    .filter(({ i, e }) => e.cause.type !== 'raised' && !i.spawned)
    .map(({ i, e, node }) => ({ asset: i.asset.id, event: e.name, at: i.address, node }));
}

/** The longest way over components, each of which counts all its actions, and how much an event reaches at all. */
function chains(r: NaiveReading): void {
  const { maxChain = 6, maxReach = 200 } = r.n.project.policy ?? {};
  const leads = leadsTo(r.edges);
  const mutual = (a: string, b: string): boolean =>
    a === b || (leads.get(a)?.has(b) === true && leads.get(b)?.has(a) === true);
  const lengths = new Map<string, number>();
  const lengthFrom = (node: string): number => {
    const known = lengths.get(node);
    if (known !== undefined) return known;
    const inside = [...new Set([node, ...(leads.get(node) ?? [])])].filter((n) => mutual(n, node));
    const onward = inside
      .flatMap((n) => (r.out.get(n) ?? []).map((e) => e.head))
      .filter((h) => !mutual(h, node));
    const own = inside.filter((n) => r.action(n)).length;
    const length = own + Math.max(0, ...onward.map(lengthFrom));
    for (const n of inside) lengths.set(n, length);
    return length;
  };
  for (const { asset, event, at, node } of outside(r)) {
    if (lengthFrom(node) > maxChain) r.report('long-chain', '', { asset, event }, [at]);
    const reached = [...(leads.get(node) ?? [])].filter((n) => r.action(n)).length;
    if (reached > maxReach) r.report('large-reach', '', { asset, event }, [at]);
  }
}

function cycles(r: NaiveReading): void {
  CLASSES.forEach((cls, level) => {
    const edges = r.edges.filter((e) => CLASSES.indexOf(e.class) <= level);
    const leads = leadsTo(edges);
    const closes = (e: NaiveEdge): boolean => e.head === e.tail || leads.get(e.head)?.has(e.tail) === true;
    const done = new Set<string>();
    for (const e of edges) {
      if (e.class !== cls || !closes(e) || done.has(e.tail)) continue;
      const isInside = (node: string): boolean =>
        node === e.tail || (leads.get(e.tail)!.has(node) && leads.get(node)?.has(e.tail) === true);
      const inside = new Set([e.tail, ...leads.get(e.tail)!].filter(isInside));
      for (const node of inside) done.add(node);
      const own = edges.filter((o) => o.class === cls && inside.has(o.tail) && inside.has(o.head));
      const texts = (list: object[]): unknown[] =>
        [...new Set(list.map((x) => canonicalJson(x)))].sort().map((t) => JSON.parse(t) as unknown);
      const bindings = texts(own.flatMap((o) => (o.by ? [r.bindingRef(o)] : [])));
      const effects = texts(
        own.flatMap((o) => {
          if (!o.effect) return [];
          const { i, a } = r.action(o.tail)!;
          return [{ asset: i.asset.id, action: a.name, effect: effectText(o.effect) }];
        }),
      );
      const at = [...inside].filter((n) => !n.startsWith('#')).map((n) => n.split(' ')[0]);
      r.report('relay-cycle', cls, { bindings, effects }, at);
    }
  });
}

export const ofChains: SecondReading = {
  rules: ['long-chain', 'large-reach', 'relay-cycle'],
  read(r) {
    chains(r);
    cycles(r);
  },
};
