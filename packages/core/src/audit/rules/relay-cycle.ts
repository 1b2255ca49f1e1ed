import { cycleGroups, shortestCycle, type CycleGroup } from '../../graph/cycles.js';
import type { GraphPath } from '../../graph/paths.js';
import { bindingOfEdge, EDGE_CLASSES, isAction, isChannel, type Graph } from '../../graph/graph.js';
import { canonicalJson, byCodeUnits } from '../../project/canonical.js';
import type { BindingRef, EffectRefName } from '../finding.js';
import { bindingRef, effectRef, nodeRef, pathEvidence } from '../names.js';
import { defineRule } from '../rule.js';

type Message = 'instant' | 'delayed' | 'conditional' | 'limited';

export const relayCycle = defineRule<Message>({
  meta: {
    name: 'relay-cycle',
    severity: 'error',
    classes: { instant: 'error', delayed: 'warning', conditional: 'warning', limited: 'info' },
    group: 'shape',
    what: 'An event leads to actions that raise the same event again.',
    why: 'An instant cycle hangs within a single frame; a delayed one never ends.',
    fix: 'Limit or remove one binding of the cycle, or add a condition that stops it.',
  },
  messages: {
    instant: 'A cycle of {hops} through {at} {name} runs forever within one frame',
    delayed: 'A cycle of {hops} through {at} {name} never ends; each round takes a delay',
    conditional: 'A cycle of {hops} through {at} {name} ends only if a condition stops it',
    limited: 'A cycle of {hops} through {at} {name} ends at its limit',
  },
  parts: [
    {
      unit: 'cycle',
      check({ g }, nodes, report) {
        for (const group of cycleGroups(g, nodes)) {
          const cls = EDGE_CLASSES[group.cls];
          let path: GraphPath | null = null;
          const shortest = (): GraphPath => (path ??= shortestCycle(g, group));
          report({
            class: cls,
            subject: cycleSubject(g, group),
            occurrences: instancesOf(g, group),
            message: cls,
            data: () => {
              const hops = shortest().edges.filter((e) => isAction(g, g.head[e])).length;
              const first = nodeRef(g, shortest().start);
              return {
                hops: hops === 1 ? '1 hop' : `${hops} hops`,
                at: first.at ?? `#${first.name}`,
                name: first.at === undefined ? '' : first.name,
              };
            },
            evidence: () => pathEvidence(g, shortest(), true),
          });
        }
      },
    },
  ],
});

function* instancesOf(g: Graph, group: CycleGroup): Iterable<number> {
  for (const n of group.nodes) if (!isChannel(g, n)) yield g.instanceOf[n];
}

/** What a cycle finding speaks of: the bindings and effects of the edges of its own class, in order. */
export function cycleSubject(
  g: Graph,
  group: CycleGroup,
): { bindings: BindingRef[]; effects: EffectRefName[] } {
  const bindings = new Map<string, BindingRef>();
  const effects = new Map<string, EffectRefName>();
  for (let i = 0; i < group.edges.length; i++) {
    const edge = group.edges[i];
    const bound = bindingOfEdge(g, edge);
    if (bound) {
      const ref = bindingRef(g.x, bound.number);
      bindings.set(canonicalJson(ref), ref);
    } else {
      const ref = effectRef(g, edge, group.tails[i]);
      effects.set(canonicalJson(ref), ref);
    }
  }
  return { bindings: sorted(bindings), effects: sorted(effects) };
}
function sorted<T>(byText: Map<string, T>): T[] {
  return [...byText].sort(([a], [b]) => byCodeUnits(a, b)).map(([, ref]) => ref);
}
