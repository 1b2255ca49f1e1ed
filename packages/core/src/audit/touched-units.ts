import type { GraphEditor } from '../graph/edit-graph.js';
import type { GraphDelta } from '../graph/graph-delta.js';
import { edgeDelay, isChannel, isEvent } from '../graph/graph.js';
import type { EditScope } from './edit-scope.js';
import type { FactChanges } from './facts/facts.js';
import type { AnalysisInputs } from './inputs.js';
import type { TouchedUnits } from './judge.js';

/** The units that an edit of bindings and of areas touched. Cost: what leads to what changed, and what follows from it. */
export function touchedUnits(
  inputs: AnalysisInputs,
  editor: GraphEditor,
  delta: GraphDelta,
  changes: FactChanges,
  scope: EditScope,
): TouchedUnits {
  const { g, x } = inputs;
  inputs.forgetListeners(delta.tails);
  inputs.followBindings(delta.authored);
  const bound = [...changes.hasBinding];
  const instances = new Set(bound.map((n) => g.instanceOf[n]));
  const around = new Set(instances);
  for (const nodes of [delta.counted, changes.spawnGaps]) for (const n of nodes) around.add(g.instanceOf[n]);
  return {
    project: { after: { types: scope.hasOtherTypes ? [0] : [] } },
    asset: {
      own: scope.assets,
      after: {
        'placed bindings': mutingAssets(inputs, delta),
        'event bindings': eventAssets(inputs, delta, changes),
      },
    },
    copies: { own: scope.copies },
    channel: { after: { use: delta.channels } },
    binding: {
      own: [...delta.authored, ...scope.bindings],
      after: { 'channel use': usersOf(editor, delta), upstream: lateBindings(inputs, delta) },
    },
    event: {
      own: [...bound.filter((n) => isEvent(g, n)), ...scope.events],
      after: {
        deliveries: deliverers(inputs, delta),
        neighbours: [...instances].flatMap((i) => x.assetOf(i).events.map((_, e) => x.nodeBase[i] + e)),
        downstream: senders(inputs, delta, changes),
        area: scope.areas,
      },
    },
    action: {
      own: scope.actions,
      after: {
        liveness: changes.livable,
        drivers: driven(inputs, delta, changes),
        expectations: scope.expecting.actions,
      },
    },
    instance: {
      own: scope.instances,
      after: { sleep: changes.awake, bindings: around, expectations: scope.expecting.instances },
    },
    cycle: { own: changes.cycles },
    tie: { own: changes.ties },
    audience: { own: changes.audiences },
    gap: { own: changes.spawnGaps },
  };
}

interface TouchedOfKind {
  own?: Iterable<number>;
  after?: Partial<Record<string, Iterable<number>>>;
}
/** The units of both. */
export function joinUnits(a: TouchedUnits, b: TouchedUnits): TouchedUnits {
  if (Object.keys(a).length === 0) return b;
  const all = new Map<string, TouchedOfKind>(Object.entries(a));
  for (const [kind, { own = [], after = {} }] of Object.entries(b) as [string, TouchedOfKind][]) {
    const before = all.get(kind) ?? {};
    const changes = new Map(Object.entries(before.after ?? {}));
    for (const [change, units] of Object.entries(after)) {
      changes.set(change, [...(changes.get(change) ?? []), ...(units ?? [])]);
    }
    all.set(kind, { own: [...(before.own ?? []), ...own], after: Object.fromEntries(changes) });
  }
  return Object.fromEntries(all);
}

/** Assets with placements that mute bindings of an asset whose bindings changed. */
function mutingAssets(inputs: AnalysisInputs, { authored }: GraphDelta): Set<number> {
  const { slots } = inputs.x;
  const assets = new Set<number>();
  for (const number of authored) for (const at of inputs.mutedBy(slots.assetOf(number))) assets.add(at);
  return assets;
}
/** Assets of the events whose bindings count otherwise than before, also those with a missing end. */
function eventAssets({ g, x }: AnalysisInputs, { counted }: GraphDelta, changes: FactChanges): Set<number> {
  const assets = new Set<number>();
  for (const nodes of [counted, changes.hasBinding, changes.spawnGaps]) {
    for (const n of nodes) if (isEvent(g, n)) assets.add(x.asset[g.instanceOf[n]]);
  }
  return assets;
}
/** Authored bindings that publish to a channel that is used at other keys than before, or listen on it. */
function usersOf(editor: GraphEditor, { otherKeys }: GraphDelta): Set<number> {
  const users = new Set<number>();
  for (const channel of otherKeys) for (const number of editor.records.users(channel)) users.add(number);
  return users;
}
/** Events whose deliveries changed: at their own edges, or at those of a channel that they publish to. */
function deliverers({ g, incoming }: AnalysisInputs, { tails }: GraphDelta): Set<number> {
  const events = new Set<number>();
  for (const n of tails) {
    if (isEvent(g, n)) events.add(n);
    else if (isChannel(g, n)) for (const tail of incoming.tails(n)) events.add(tail);
  }
  return events;
}
/** Events from which a way leads to an edge that changed. */
function senders(
  { g, incoming, facts }: AnalysisInputs,
  { tails }: GraphDelta,
  changes: FactChanges,
): Set<number> {
  const events = new Set<number>();
  const seen = new Set<number>([...tails, ...changes.ahead]);
  const stack = [...seen];
  for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
    if (facts.outside[n] === 1 && isEvent(g, n)) events.add(n);
    for (const tail of incoming.tails(n)) {
      if (seen.has(tail)) continue;
      seen.add(tail);
      stack.push(tail);
    }
  }
  return events;
}
/** Actions with other drivers than before: at the ends of edges that changed, or behind channels to which others publish. */
function driven(
  { g }: AnalysisInputs,
  { removed, added, counted }: GraphDelta,
  changes: FactChanges,
): Set<number> {
  const actions = new Set<number>();
  const take = (n: number): void => {
    if (g.action[n] === 1) actions.add(n);
  };
  for (const { heads } of [removed, added]) {
    for (const n of heads) {
      take(n);
      if (isChannel(g, n)) for (let e = g.first[n]; e < g.end[n]; e++) take(g.head[e]);
    }
  }
  for (const n of counted) take(n);
  for (const n of changes.hasBinding) take(n);
  return actions;
}
/** Bindings in code that take hold at a start, and to whose senders an edge that changed leads without delay. */
function lateBindings(inputs: AnalysisInputs, { removed, added, tails }: GraphDelta): Set<number> {
  const { g, x } = inputs;
  const lateOnes = inputs.bindingsThat('begin at start');
  const found = new Set<number>();
  if (lateOnes.size === 0) return found;
  const seen = new Set<number>([...removed.heads, ...added.heads, ...tails]);
  const stack = [...seen];
  for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      if (g.ref[e] >= 0) {
        const authored = x.authoredOf(g.ref[e]);
        if (lateOnes.has(authored)) found.add(authored);
      }
      const head = g.head[e];
      if (seen.has(head) || edgeDelay(g, e, n) > 0) continue;
      seen.add(head);
      stack.push(head);
    }
  }
  return found;
}
