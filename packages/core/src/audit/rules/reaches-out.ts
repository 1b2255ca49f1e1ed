import { defineRule } from '../rule.js';

export const reachesOut = defineRule<'out'>({
  meta: {
    name: 'reaches-out',
    severity: 'warning',
    group: 'targets',
    what: 'A binding inside a prefab or widget names something in a scene.',
    why: 'Every copy reaches for the same thing, and the prefab cannot be used where that scene is not.',
    cure: 'Raise an event and let the scene bind to it, or go through a channel.',
  },
  messages: { out: '{binding} of {owner} reaches out to {path}' },
  check(ctx, report) {
    for (const owner of ctx.index.assets) {
      if (owner.decl.kind === 'scene') continue;
      owner.bindings.forEach((b, at) => {
        const path = [b.from, b.to].flatMap((end) =>
          'at' in end && end.at.includes(':') ? [end.at] : [],
        )[0];
        if (path === undefined || !ctx.isJudged(owner.at, at)) return;
        const subject = { asset: owner.decl.id, binding: b.id };
        report({
          subject,
          occurrences: ctx.ownersOf(owner.at, at),
          message: 'out',
          data: { binding: b.id, owner: owner.decl.id, path },
          evidence: () => ({ kind: 'bindings', bindings: [subject] }),
        });
      });
    }
  },
});
