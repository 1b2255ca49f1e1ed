import { HEARING_STRIDE, NO_KEY, SELECTION_STRIDE } from '../../graph/graph.js';
import type { AssetIndex } from '../../project/index-project.js';
import { isLiteral } from '../../project/value.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const broadcastSpill = defineRule<'every' | 'channel'>({
  meta: {
    name: 'broadcast-spill',
    severity: 'warning',
    classes: { every: 'warning', channel: 'warning' },
    group: 'correctness',
    what: 'All copies of something with a key react, because nothing narrows the binding to one of them.',
    why: 'As soon as there is a second copy, both react.',
    fix: 'Match the key on both sides, or state that every copy is meant.',
  },
  messages: {
    every: '"{binding}" in {owner} reaches every {asset}, although each has a key',
    channel: '"{binding}" in {owner} hears #{asset} without a key, and more than one receiver reacts',
  },
  parts: [
    {
      unit: 'binding',
      concerns: ({ to }) => 'every' in to && to.match === undefined && to.pick !== 'first',
      check(inputs, { binding, owner, records, subject }, report) {
        const { from, to } = binding;
        if (!records || !('every' in to)) return;
        if ('channel' in from && from.key !== undefined && !isLiteral(from.key)) return;
        const selected = inputs.index.assetAt.get(to.every);
        if (selected === undefined || !hasKey(inputs.index.assets[selected])) return;
        const owners: number[] = [];
        const { selections } = records;
        for (let s = 0; s < selections.length; s += SELECTION_STRIDE) {
          if (selections[s + 1] >= 2) owners.push(selections[s]);
        }
        if (owners.length === 0) return;
        report({
          class: 'every',
          subject,
          occurrences: owners,
          message: 'every',
          data: () => ({ binding: bindingWords(binding), owner: owner.decl.id, asset: to.every }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
    {
      unit: 'binding',
      concerns: ({ from, to }) => 'channel' in from && from.key === undefined && 'at' in to,
      check({ g, x }, { binding, owner, records, subject }, report) {
        const { from } = binding;
        if (!records || !('channel' in from)) return;
        const owners: number[] = [];
        const receivers = new Set<number>();
        const { hearings } = records;
        for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
          if (hearings[h + 2] !== NO_KEY || hearings[h + 3] < 0) continue;
          owners.push(hearings[h]);
          receivers.add(g.instanceOf[hearings[h + 3]]);
        }
        let weight = 0;
        for (const i of receivers) weight += x.isSpawned(i) ? 2 : 1;
        if (weight < 2 || !(hasKey(owner) || [...receivers].some((i) => hasKey(x.assetOf(i))))) return;
        report({
          class: 'channel',
          subject,
          occurrences: owners,
          message: 'channel',
          data: () => ({ binding: bindingWords(binding), owner: owner.decl.id, asset: from.channel }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
  ],
});

function hasKey(asset: AssetIndex): boolean {
  return asset.properties.some((p) => p.isKey === true);
}
