import { bindingOfEdge, edgeDelay, PUBLISH, type Graph } from '../../graph/graph.js';
import { IntList } from '../../util/int-list.js';
import type { AuditContext } from '../context.js';
import { bindingRef, ownerText } from '../names.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const startRace = defineRule<'race'>({
  meta: {
    name: 'start-race',
    severity: 'warning',
    group: 'correctness',
    what: 'An event can be raised at the start before its binding is active.',
    why: 'Whether it triggers depends on the order in which things start.',
    cure: 'Make the binding active at load, or delay the event.',
  },
  messages: {
    race: '"{binding}" in {owner} becomes active at its start and may miss events that other starts raise',
  },
  check(ctx, report) {
    const { g, x } = ctx;
    const codes = codeEdges(ctx);
    if (codes.length === 0) return;
    const starts = startNodes(ctx);
    const reached = reachedAtOnce(g, starts.keys());
    const publishersOf = new Map<number, number[]>();
    for (const { tail } of codes) if (tail >= g.channelBase) publishersOf.set(tail, []);
    for (let n = 0; n < g.channelBase && publishersOf.size > 0; n++) {
      for (let e = g.first[n]; e < g.first[n + 1]; e++) {
        if (g.meta[e] >> 2 === PUBLISH && edgeDelay(g, e, n) === 0) publishersOf.get(g.head[e])?.push(n);
      }
    }
    for (const { edge, tail } of codes) {
      const { owner, binding } = bindingOfEdge(g, edge)!;
      // Its own start, and that of what it contains, come after it has taken hold.
      const races = (event: number): boolean => {
        const of = starts.get(event);
        return reached[event] === 1 || (of !== undefined && !x.contains(owner, of));
      };
      if (!(tail < g.channelBase ? races(tail) : publishersOf.get(tail)!.some(races))) continue;
      const subject = bindingRef(x, g.ref[edge]);
      report({
        subject,
        occurrences: [owner],
        message: 'race',
        data: { binding: bindingWords(binding), owner: ownerText(x, owner) },
        evidence: () => ({ kind: 'bindings', bindings: [subject] }),
      });
    }
  },
});

/** Edges of code bindings that take hold at the start of their owner, with their tails. */
function codeEdges(ctx: AuditContext): { edge: number; tail: number }[] {
  const { g } = ctx;
  const list = ctx.bindingsWhere('start-race', (b) => b.origin === 'code' && b.bind === 'start');
  const edges: { edge: number; tail: number }[] = [];
  if (list.length === 0) return edges;
  const late = new Uint8Array(g.x.bindingBase[g.x.count]);
  for (const { owner, at } of list) {
    for (const i of ctx.instancesOf(owner.at)) late[g.x.bindingBase[i] + at] = 1;
  }
  for (let n = 0; n < g.nodes; n++) {
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      if (g.ref[e] >= 0 && late[g.ref[e]] === 1) edges.push({ edge: e, tail: n });
    }
  }
  return edges;
}

/** `start` events of what is not spawned, with their instances. */
function startNodes(ctx: AuditContext): Map<number, number> {
  const { x } = ctx;
  const starts = new Map<number, number>();
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i)) continue;
    x.assetOf(i).events.forEach((e, k) => {
      if (e.cause.type === 'start') starts.set(x.nodeBase[i] + k, i);
    });
  }
  return starts;
}

/** Nodes reached from the starts by one or more edges without delay. */
function reachedAtOnce(g: Graph, starts: Iterable<number>): Uint8Array {
  const reached = new Uint8Array(g.nodes);
  const queue = new IntList();
  for (const n of starts) queue.push(n);
  const done = new Uint8Array(g.nodes);
  while (queue.length > 0) {
    const n = queue.pop();
    if (done[n] === 1) continue;
    done[n] = 1;
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      if (edgeDelay(g, e, n) > 0) continue;
      reached[g.head[e]] = 1;
      if (done[g.head[e]] === 0) queue.push(g.head[e]);
    }
  }
  return reached;
}
