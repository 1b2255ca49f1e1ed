import type { EventQuestion } from '../blocks.js';
import { activatorMatches } from '../activators.js';
import { nodeRef, placementRef } from '../names.js';
import { defineRule } from '../rule.js';

export const noActivation = defineRule<'area' | 'filter'>({
  meta: {
    name: 'no-activation',
    severity: 'warning',
    classes: { area: 'warning', filter: 'warning' },
    group: 'correctness',
    what: 'An event cannot be raised: there is no area, or its filter matches nothing.',
    why: 'Its listeners are never triggered.',
    cure: 'Give it an area, or let the filter name something that exists.',
  },
  messages: {
    area: '{at} raises {event} when its area is entered or left, but it has no area',
    filter: '{event} of {at} can be raised only by assets that do not exist: {list}',
  },
  check(ctx, report) {
    const { x } = ctx;
    const question: EventQuestion = {
      name: 'no-activation',
      besides: 'plan',
      concerns: ({ cause }) => cause.type === 'area-enter' || cause.type === 'area-leave',
      test: (_node, i) => (x.placementOf(i)?.area ?? x.assetOf(i).decl.area) === undefined,
    };
    ctx.eachSuspect(question, (node, i, e) => {
      const { name } = x.assetOf(i).events[e];
      report({
        class: 'area',
        subject: placementRef(x, i),
        occurrences: [i],
        message: 'area',
        data: { at: x.address(i), event: name, list: '' },
        evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
      });
    });
    for (const asset of ctx.index.assets) {
      for (const { name, cause } of asset.events) {
        const list = 'activators' in cause ? cause.activators : undefined;
        if (!list || list.some((entry) => activatorMatches(ctx.index, entry))) continue;
        report({
          class: 'filter',
          subject: { asset: asset.decl.id, event: name },
          occurrences: ctx.instancesOf(asset.at),
          message: 'filter',
          data: { at: asset.decl.id, event: name, list: list.join(', ') || 'the list is empty' },
          evidence: () => ({
            kind: 'names',
            wanted: list.join(', '),
            known: [...ctx.index.assetAt.keys()].slice(0, 200),
          }),
        });
      }
    }
  },
});
