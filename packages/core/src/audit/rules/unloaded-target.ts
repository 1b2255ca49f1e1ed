import type { AuditContext } from '../context.js';
import { eachResolvedCopy } from '../copies.js';
import { defineRule } from '../rule.js';

export const unloadedTarget = defineRule<'apart' | 'sometimes'>({
  meta: {
    name: 'unloaded-target',
    severity: 'error',
    classes: { apart: 'error', sometimes: 'warning' },
    group: 'targets',
    what: 'A binding reaches into another scene that is not loaded with the sender’s.',
    why: 'While that scene is not loaded, nothing happens, without any error.',
    cure: 'Load the scenes together, make the receiver’s scene persistent, or use a channel.',
  },
  messages: {
    apart: '{from} triggers {to}, but no load set holds both scenes',
    sometimes: '{from} triggers {to}, which is not loaded in {set}',
  },
  check(ctx, report) {
    const sets = ctx.index.project.loadSets ?? [];
    if (sets.length === 0) return;
    const crossing = (at: string): boolean => at.includes(':');
    eachResolvedCopy(
      ctx,
      'unloaded-target',
      (b) => 'at' in b.to && (crossing(b.to.at) || ('at' in b.from && crossing(b.from.at))),
      ({ asset, binding, owner, sender, receiver }) => {
        const from = sceneOf(ctx, sender < 0 ? owner : sender);
        const to = sceneOf(ctx, receiver);
        if (from === to || to.decl.persistent) return;
        const holds = (set: (typeof sets)[number], scene: typeof from): boolean =>
          scene.decl.persistent === true || set.scenes.includes(scene.decl.id);
        const together = sets.some((s) => holds(s, from) && holds(s, to));
        const alone = sets.find((s) => holds(s, from) && !holds(s, to));
        const cls = !together ? 'apart' : alone ? 'sometimes' : null;
        if (!cls) return;
        const subject = { asset: asset.decl.id, binding: binding.id };
        report({
          class: cls,
          subject,
          occurrences: [owner],
          message: cls,
          data: { from: from.decl.id, to: ctx.x.address(receiver), set: alone?.name ?? '' },
          evidence: () => ({ kind: 'bindings', bindings: [subject] }),
        });
      },
    );
  },
});

function sceneOf(ctx: AuditContext, instance: number): ReturnType<AuditContext['x']['assetOf']> {
  return ctx.x.assetOf(ctx.x.sceneOf(instance));
}
