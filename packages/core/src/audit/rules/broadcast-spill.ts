import { HEARING_STRIDE, NO_KEY, SELECTION_STRIDE } from '../../graph/graph.js';
import type { AssetIndex } from '../../project/index-project.js';
import { isLiteral } from '../../project/value.js';
import { authoredBindings } from '../by-binding.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const broadcastSpill = defineRule<'every' | 'channel'>({
  meta: {
    name: 'broadcast-spill',
    severity: 'warning',
    classes: { every: 'warning', channel: 'warning' },
    group: 'correctness',
    what: 'All copies of something with a key react, because nothing narrows the binding to one of them.',
    why: 'As soon as there is a second copy, both react.',
    cure: 'Match the key on both sides, or state that every copy is meant.',
  },
  messages: {
    every: '"{binding}" in {owner} reaches every {asset}, although each has a key',
    channel: '"{binding}" in {owner} hears #{asset} without a key, and more than one receiver reacts',
  },
  check(ctx, report) {
    const { g, x } = ctx;
    for (const b of authoredBindings(x, g.selections, SELECTION_STRIDE)) {
      const { from, to } = b.binding;
      if (!('every' in to) || to.match !== undefined || to.pick === 'first') continue;
      if ('channel' in from && from.key !== undefined && !isLiteral(from.key)) continue;
      if (!hasKey(ctx.index.assets[ctx.index.assetAt.get(to.every)!])) continue;
      const spilling = b.records.filter((r) => g.selections[r + 1] >= 2);
      if (spilling.length === 0) continue;
      report({
        class: 'every',
        subject: b.subject,
        occurrences: spilling.map((r) => x.ownerOf(g.selections[r])),
        message: 'every',
        data: { binding: bindingWords(b.binding), owner: b.owner.decl.id, asset: to.every },
        evidence: () => ({ kind: 'bindings', bindings: [b.subject] }),
      });
    }
    for (const b of authoredBindings(x, g.hearings, HEARING_STRIDE)) {
      const { from, to } = b.binding;
      if (!('channel' in from) || from.key !== undefined || !('at' in to)) continue;
      const records = b.records.filter((r) => g.hearings[r + 2] === NO_KEY && g.hearings[r + 3] >= 0);
      const receivers = new Set(records.map((r) => g.instanceOf[g.hearings[r + 3]]));
      let weight = 0;
      for (const i of receivers) weight += x.isSpawned(i) ? 2 : 1;
      if (weight < 2 || !(hasKey(b.owner) || [...receivers].some((i) => hasKey(x.assetOf(i))))) continue;
      report({
        class: 'channel',
        subject: b.subject,
        occurrences: records.map((r) => x.ownerOf(g.hearings[r])),
        message: 'channel',
        data: { binding: bindingWords(b.binding), owner: b.owner.decl.id, asset: from.channel },
        evidence: () => ({ kind: 'bindings', bindings: [b.subject] }),
      });
    }
  },
});

function hasKey(asset: AssetIndex): boolean {
  return asset.properties.some((p) => p.isKey === true);
}
