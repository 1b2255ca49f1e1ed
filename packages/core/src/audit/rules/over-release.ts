import { HEAR } from '../../graph/graph.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { BINDING_TRAITS } from '../binding-traits.js';
import type { AnalysisInputs } from '../inputs.js';
import { bindingRef, ownerText } from '../names.js';
import { defineRule, type TakeReport } from '../rule.js';

export const overRelease = defineRule<'all'>({
  meta: {
    name: 'over-release',
    severity: 'warning',
    group: 'correctness',
    what: 'A binding made in code releases all bindings of its event, and other bindings use that event too.',
    why: 'When its owner ends, the other bindings stop working.',
    fix: 'Let it release only its own binding.',
  },
  messages: { all: '"{binding}" in {owner} releases all bindings of {what}, and other bindings use it too' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      isCandidate: (inputs) => !releasesNone(inputs),
      check(inputs, { node, instance, event }, report) {
        const { g, x } = inputs;
        if (g.end[node] - g.first[node] < 2) return;
        const numbers = new Set<number>();
        for (let e = g.first[node]; e < g.end[node]; e++) numbers.add(g.ref[e]);
        reportIn(inputs, numbers, () => `${x.address(instance)} ${event.name}`, report);
      },
    },
    {
      unit: 'channel',
      after: ['use'],
      check(inputs, { number, channel }, report) {
        if (releasesNone(inputs)) return;
        reportIn(inputs, listeners(inputs, number), () => `#${channel.name}`, report);
      },
    },
  ],
});

const SHOWN = 50;

function releasesNone(inputs: AnalysisInputs): boolean {
  return inputs.bindingsThat('release all').size === 0;
}

/** Of several expanded bindings that use the same, reports those that release all. */
function reportIn(
  { x }: AnalysisInputs,
  numbers: ReadonlySet<number>,
  what: () => string,
  report: TakeReport<'all'>,
): void {
  if (numbers.size < 2) return;
  for (const n of numbers) {
    const binding = x.bindingOf(n);
    if (!BINDING_TRAITS['release all'](binding)) continue;
    const owner = x.ownerOf(n);
    report({
      subject: bindingRef(x, n),
      occurrences: [owner],
      message: 'all',
      data: () => ({ binding: bindingWords(binding), owner: ownerText(x, owner), what: what() }),
      evidence: () => bindingsEvidence([...numbers].slice(0, SHOWN).map((k) => bindingRef(x, k))),
    });
  }
}

/** The expanded bindings that hear a channel, whatever the key, in running order. Cost: what is heard there. */
function listeners({ g, x }: AnalysisInputs, channel: number): Set<number> {
  const numbers: number[] = [];
  for (const node of g.channels.of(channel)) {
    for (let e = g.first[node]; e < g.end[node]; e++) if (g.meta[e] >> 2 === HEAR) numbers.push(g.ref[e]);
  }
  return new Set(numbers.sort((a, b) => x.compareRunning(a, b)));
}
