import { EDGE_CLASSES, type Graph } from '../graph/graph.js';
import { linksOf, stronglyConnected } from '../graph/components.js';
import { cycleGroups, cyclicParts, type CycleGroup } from '../graph/cycles.js';
import type { Finding } from '../audit/finding.js';
import { cycleSubject } from '../audit/rules/relay-cycle.js';
import type { ChangeSet } from '../edit/change.js';
import { canonicalJson } from '../project/canonical.js';
import { bindingWords } from '../wireline/binding-words.js';
import type { Binding } from '../project/types.js';

interface CycleEdge {
  tail: number;
  head: number;
  own: boolean;
  /** The authored binding; null for an edge of an effect. */
  binding: Binding | null;
  asset: string;
}

/** Bindings looked at as the first of a set; cycles rarely have more. */
const FIRST_CHOICES = 24;

/**
 * Smallest sets of bindings found whose limiting or removal breaks all cycles of the finding: single bindings first,
 * then sets grown greedily from each, thinned until none is too much. A heuristic; every set returned breaks them all.
 */
export function fixCycle(g: Graph, finding: Finding): ChangeSet[] {
  const group = groupOf(g, finding);
  if (!group) return [];
  const edges = edgesOf(g, group);
  const candidates = [...new Set(edges.flatMap((e) => (e.binding ? [e.binding] : [])))];
  const assetOf = new Map(edges.flatMap((e) => (e.binding ? [[e.binding, e.asset] as const] : [])));
  const singles = candidates.filter((b) => breaks(edges, new Set([b])));
  const sets =
    singles.length > 0
      ? singles.map((b) => [b])
      : candidates.slice(0, FIRST_CHOICES).flatMap((b) => thin(edges, grow(edges, b)) ?? []);
  const unique = new Map(
    sets.map((set) => [
      set
        .map((b) => `${assetOf.get(b)}/${b.id}`)
        .sort()
        .join(' '),
      set,
    ]),
  );
  const ranked = [...unique.values()].sort((a, b) => a.length - b.length).slice(0, 4);
  const asset = (b: Binding): string => assetOf.get(b)!;
  return ranked.flatMap((set) => {
    const names = set.map(bindingWords).join('; ');
    const limit: ChangeSet = {
      label: `Limit to once: ${names}`,
      changes: set.map((b) => ({
        op: 'replace',
        list: 'bindings',
        asset: asset(b),
        id: b.id,
        item: { ...b, limit: 1 },
      })),
    };
    const remove: ChangeSet = {
      label: `Remove: ${names}`,
      changes: set.map((b) => ({ op: 'remove', list: 'bindings', asset: asset(b), id: b.id })),
    };
    return finding.class === 'limited' ? [remove] : [limit, remove];
  });
}

function groupOf(g: Graph, finding: Finding): CycleGroup | undefined {
  const subject = canonicalJson(finding.subject);
  return cyclicParts(g)
    .flatMap((part) => cycleGroups(g, part))
    .find(
      (group) =>
        EDGE_CLASSES[group.cls] === finding.class && canonicalJson(cycleSubject(g, group)) === subject,
    );
}

function edgesOf(g: Graph, group: CycleGroup): CycleEdge[] {
  const inside = new Set(group.nodes);
  const edges: CycleEdge[] = [];
  for (const tail of group.nodes) {
    for (let e = g.first[tail]; e < g.end[tail]; e++) {
      const cls = g.meta[e] & 3;
      if (cls < group.cls || !inside.has(g.head[e])) continue;
      const number = g.ref[e];
      const owner = number < 0 ? -1 : g.x.ownerOf(number);
      const asset = owner < 0 ? null : g.x.assetOf(owner);
      edges.push({
        tail,
        head: g.head[e],
        own: cls === group.cls,
        binding: asset ? g.x.bindingOf(number) : null,
        asset: asset?.decl.id ?? '',
      });
    }
  }
  return edges;
}

/** Whether no edge of the own class lies on a cycle once the bindings are gone. */
function breaks(edges: readonly CycleEdge[], gone: ReadonlySet<Binding>): boolean {
  return ownEdgesOnCycles(edges, gone).length === 0;
}

/** Own-class edges whose head still reaches their tail. Linear in the edges. */
function ownEdgesOnCycles(edges: readonly CycleEdge[], gone: ReadonlySet<Binding>): CycleEdge[] {
  const left = edges.filter((e) => e.binding === null || !gone.has(e.binding));
  const number = new Map<number, number>();
  for (const { tail, head } of left)
    for (const n of [tail, head]) if (!number.has(n)) number.set(n, number.size);
  const links = linksOf(
    number.size,
    left.map((e) => [number.get(e.tail)!, number.get(e.head)!] as const),
  );
  const { of } = stronglyConnected(links);
  return left.filter((e) => e.own && of[number.get(e.tail)!] === of[number.get(e.head)!]);
}

/** Adds, until all is broken, the binding that takes most own edges off their cycles; null if bindings do not suffice. */
function grow(edges: readonly CycleEdge[], first: Binding): Binding[] | null {
  const set = new Set([first]);
  for (let left = ownEdgesOnCycles(edges, set); left.length > 0; left = ownEdgesOnCycles(edges, set)) {
    const choices = [...new Set(edges.flatMap((e) => (e.binding && !set.has(e.binding) ? [e.binding] : [])))];
    let best: Binding | null = null;
    let fewest = Infinity;
    for (const b of choices.slice(0, FIRST_CHOICES * 4)) {
      const after = ownEdgesOnCycles(edges, new Set([...set, b])).length;
      if (after >= fewest) continue;
      fewest = after;
      best = b;
    }
    if (!best) return null;
    set.add(best);
  }
  return [...set];
}
function thin(edges: readonly CycleEdge[], set: Binding[] | null): Binding[][] {
  if (!set) return [];
  let kept = set;
  for (const b of set) {
    const without = kept.filter((k) => k !== b);
    if (without.length > 0 && breaks(edges, new Set(without))) kept = without;
  }
  return [kept];
}
