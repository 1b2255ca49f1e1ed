import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const unheardEvent = defineRule<'nowhere' | 'expected'>({
  meta: {
    name: 'unheard-event',
    severity: 'info',
    group: 'listeners',
    what: 'An event is raised, and nothing listens.',
    why: 'At best nothing happens; where a listener is expected, a binding was forgotten.',
    fix: 'Wire a receiver, or remove the event if it is not needed.',
  },
  messages: {
    nowhere: 'No {asset} has a listener for {event}',
    expected: '{event} of {at} expects a listener, but has none',
  },
  parts: [
    {
      // One that nobody waits for is reported only where it is silent everywhere.
      unit: 'asset',
      after: ['event bindings'],
      check(inputs, asset, report) {
        const { g, x } = inputs;
        const instances = inputs.instancesOf(asset.at);
        if (instances.length === 0) return;
        asset.events.forEach((event, e) => {
          const node = (i: number): number => x.nodeBase[i] + e;
          if (event.expectsListener || !instances.every((i) => !inputs.isBoundAnyway(node(i)))) return;
          report({
            severity: 'info',
            subject: { asset: asset.decl.id, event: event.name },
            occurrences: instances,
            message: 'nowhere',
            data: () => ({ event: event.name, asset: asset.decl.id }),
            evidence: () => nodesEvidence(g, instances.map(node), SHOWN),
          });
        });
      },
    },
    {
      unit: 'instance',
      after: ['bindings', 'expectations'],
      concerns: ({ events }) => events.some((e) => e.expectsListener === true),
      check(inputs, instance, report) {
        const { g, x, facts } = inputs;
        const asset = x.assetOf(instance);
        for (let e = 0; e < asset.events.length; e++) {
          if (asset.events[e].expectsListener !== true) continue;
          const node = x.nodeBase[instance] + e;
          if (inputs.isBoundAnyway(node) || facts.spawnGaps.nodes.has(node)) continue;
          const { name: event } = asset.events[e];
          report({
            severity: 'warning',
            subject: { asset: asset.decl.id, event },
            occurrences: [instance],
            message: 'expected',
            data: () => ({ event, at: x.address(instance) }),
            evidence: (units) => {
              const nodes = units.first(SHOWN).map((i) => x.nodeBase[i] + e);
              return nodesEvidence(g, nodes, SHOWN, units.count);
            },
          });
        }
      },
    },
  ],
});

const SHOWN = 20;
