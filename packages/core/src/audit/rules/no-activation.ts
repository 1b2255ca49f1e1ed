import { activatorMatches } from '../activators.js';
import { namesEvidence, nodesEvidence } from '../evidence.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';

export const noActivation = defineRule<'area' | 'filter'>({
  meta: {
    name: 'no-activation',
    severity: 'warning',
    classes: { area: 'warning', filter: 'warning' },
    group: 'correctness',
    what: 'An event cannot be raised: there is no area, or its filter matches nothing.',
    why: 'Its listeners are never triggered.',
    fix: 'Give it an area, or let the filter name something that exists.',
  },
  messages: {
    area: '{at} raises {event} when its area is entered or left, but it has no area',
    filter: '{event} of {at} can be raised only by assets that do not exist: {list}',
  },
  parts: [
    {
      unit: 'event',
      after: ['area'],
      concerns: ({ cause }) => cause.type === 'area-enter' || cause.type === 'area-leave',
      check({ g, x }, { node, instance, asset, event }, report) {
        if ((x.placementOf(instance)?.area ?? asset.decl.area) !== undefined) return;
        report({
          class: 'area',
          subject: placementRef(x, instance),
          occurrences: [instance],
          message: 'area',
          data: () => ({ at: x.address(instance), event: event.name }),
          evidence: () => nodesEvidence(g, [node]),
        });
      },
    },
    {
      unit: 'asset',
      check(inputs, asset, report) {
        for (const { name, cause } of asset.events) {
          const list = 'activators' in cause ? cause.activators : undefined;
          if (!list || list.some((entry) => activatorMatches(inputs.index, entry))) continue;
          report({
            class: 'filter',
            subject: { asset: asset.decl.id, event: name },
            occurrences: inputs.instancesOf(asset.at),
            message: 'filter',
            data: () => ({ at: asset.decl.id, event: name, list: list.join(', ') || 'the list is empty' }),
            evidence: () => namesEvidence(list.join(', '), inputs.index.assetAt.keys()),
          });
        }
      },
    },
  ],
});
