import { eachResolvedCopy } from '../copies.js';
import { ownerText } from '../names.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const leakyBinding = defineRule<'outlives' | 'destroyed'>({
  meta: {
    name: 'leaky-binding',
    severity: 'warning',
    classes: { outlives: 'warning', destroyed: 'warning' },
    group: 'correctness',
    what: 'A binding made in code is never released, although its owner ends before its sender.',
    why: 'The next raise calls an object that is gone: an error, or worse.',
    cure: 'Release it when its owner ends.',
  },
  messages: {
    outlives: '"{binding}" in {owner} is never released, and its sender outlives the scene',
    destroyed: '"{binding}" in {owner} is never released, and {who} can be destroyed',
  },
  check(ctx, report) {
    const { x } = ctx;
    const destroys = ctx.index.assets.map((a) => a.effects.some(({ effect }) => 'destroy' in effect));
    eachResolvedCopy(
      ctx,
      'leaky-binding',
      (b) => b.origin === 'code' && b.release === 'never',
      ({ asset, binding, owner, sender }) => {
        const subject = { asset: asset.decl.id, binding: binding.id };
        const common = {
          subject,
          occurrences: [owner],
          evidence: () => ({ kind: 'bindings' as const, bindings: [subject] }),
        };
        const persistent = (i: number): boolean => x.assetOf(x.sceneOf(i)).decl.persistent === true;
        const data = { binding: bindingWords(binding), owner: ownerText(x, owner), who: '' };
        if (!persistent(owner) && (sender < 0 || persistent(sender))) {
          report({ class: 'outlives', message: 'outlives', data, ...common });
        }
        for (let at = owner; at >= 0; at = x.containerOf(at)) {
          if (!destroys[x.asset[at]] || (sender >= 0 && x.contains(at, sender))) continue;
          report({
            class: 'destroyed',
            message: 'destroyed',
            data: { ...data, who: x.address(at) },
            ...common,
          });
          break;
        }
      },
    );
  },
});
