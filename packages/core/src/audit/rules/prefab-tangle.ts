import { bindingsEvidence } from '../evidence.js';
import type { Way } from '../facts/asset-ties.js';
import type { BindingRef } from '../finding.js';
import type { AnalysisInputs } from '../inputs.js';
import { defineRule } from '../rule.js';

export const prefabTangle = defineRule<'tangle'>({
  meta: {
    name: 'prefab-tangle',
    severity: 'info',
    group: 'shape',
    what: 'Many bindings tie two assets to each other in both directions.',
    why: 'Neither can be changed or used without the other.',
    fix: 'Let one of them only raise events, or put a hub or a channel between them.',
  },
  messages: {
    tangle: '{count} bindings tie {a} and {b} to each other in both directions; the limit is {limit}',
  },
  parts: [
    {
      unit: 'tie',
      after: ['limit of tangles'],
      check(inputs, { a, b, forth, back }, report) {
        const { maxTangle } = inputs.limits;
        if (forth.count + back.count <= maxTangle) return;
        const count = forth.count + back.count - inBoth(inputs, forth, back);
        if (count <= maxTangle) return;
        const names = [a, b].map((at) => inputs.index.assets[at].decl.id).sort();
        report({
          subject: { assets: [names[0], names[1]] },
          occurrences: new Set([...forth.owners(), ...back.owners()]),
          message: 'tangle',
          data: () => ({ a: names[0], b: names[1], count, limit: maxTangle }),
          evidence: () => bindingsEvidence(firstBindings(inputs, forth, back)),
        });
      },
    },
  ],
});

const SHOWN = 100;

/** How many bindings lead both ways, in different copies; so only bindings of prefabs and widgets do. */
function inBoth({ index }: AnalysisInputs, forth: Way, back: Way): number {
  const others = back.byOwner();
  let count = 0;
  for (const [asset, numbers] of forth.byOwner()) {
    const own = others.get(asset);
    if (!own || index.assets[asset].decl.kind === 'scene') continue;
    const known = new Set(own);
    for (const number of numbers) if (known.has(number)) count++;
  }
  return count;
}

/** The first of the bindings, as they stand in the document. Cost: the assets that own them, and those that are shown. */
function firstBindings(inputs: AnalysisInputs, ...ways: Way[]): BindingRef[] {
  const { slots } = inputs.x;
  const shown: BindingRef[] = [];
  const byOwner = ways.map((way) => way.byOwner());
  const owners = new Set(byOwner.flatMap((own) => [...own.keys()]));
  for (const asset of [...owners].sort((a, b) => a - b)) {
    const numbers = new Set(byOwner.flatMap((own) => [...(own.get(asset) ?? [])]));
    const position = (n: number): number => slots.position(asset, n - slots.base[asset]);
    const own = [...numbers].sort((m, n) => position(m) - position(n));
    for (const n of own.slice(0, SHOWN - shown.length)) shown.push(inputs.authoredRef(n));
    if (shown.length >= SHOWN) break;
  }
  return shown;
}
