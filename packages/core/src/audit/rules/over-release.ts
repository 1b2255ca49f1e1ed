import { expandedBinding, HEARING_STRIDE } from '../../graph/graph.js';
import type { Binding } from '../../project/types.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { bindingRef, ownerText } from '../names.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const overRelease = defineRule<'all'>({
  meta: {
    name: 'over-release',
    severity: 'warning',
    group: 'correctness',
    what: 'A binding made in code releases all bindings of its event, and other bindings use that event too.',
    why: 'When its owner ends, the other bindings stop working.',
    cure: 'Let it release only its own binding.',
  },
  messages: { all: '"{binding}" in {owner} releases all bindings of {what}, and other bindings use it too' },
  check(ctx, report) {
    const greedy = (b: Binding): boolean => b.origin === 'code' && b.release === 'all';
    if (ctx.bindingsWhere('over-release', greedy).length === 0) return;
    const { g, x } = ctx;
    const tell = (numbers: ReadonlySet<number>, what: string): void => {
      if (numbers.size < 2) return;
      for (const n of numbers) {
        const { owner, binding } = expandedBinding(x, n);
        if (!greedy(binding)) continue;
        report({
          subject: bindingRef(x, n),
          occurrences: [owner],
          message: 'all',
          data: { binding: bindingWords(binding), owner: ownerText(x, owner), what },
          evidence: () => ({
            kind: 'bindings',
            bindings: [...numbers].slice(0, 50).map((k) => bindingRef(x, k)),
          }),
        });
      }
    };
    const bindingsOf = (node: number): Set<number> => {
      const numbers = new Set<number>();
      for (let edge = g.first[node]; edge < g.first[node + 1]; edge++) numbers.add(g.ref[edge]);
      return numbers;
    };
    const isGreedy = (n: number): boolean => greedy(expandedBinding(x, n).binding);
    const question: EventQuestion = {
      name: 'over-release',
      test: (node) => g.first[node + 1] - g.first[node] > 1 && [...bindingsOf(node)].some(isGreedy),
    };
    ctx.eachSuspect(question, (node, i, e) =>
      tell(bindingsOf(node), `${x.address(i)} ${x.assetOf(i).events[e].name}`),
    );
    for (const [channel, numbers] of listeners(ctx))
      tell(numbers, `#${ctx.index.project.channels![channel].name}`);
  },
});

/** For each channel the expanded bindings that hear it, whatever the key. */
function listeners({ g }: AuditContext): Map<number, Set<number>> {
  const byChannel = new Map<number, Set<number>>();
  for (let h = 0; h < g.hearings.length; h += HEARING_STRIDE) {
    if (g.hearings[h + 4] === 0) continue;
    const channel = g.hearings[h + 1];
    let numbers = byChannel.get(channel);
    if (!numbers) byChannel.set(channel, (numbers = new Set()));
    numbers.add(g.hearings[h]);
  }
  return byChannel;
}
