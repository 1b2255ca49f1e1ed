import { hasConditions } from '../../project/condition.js';
import { canonicalJson } from '../../project/canonical.js';
import type { Binding } from '../../project/types.js';
import { bindingOfEdge, PUBLISH } from '../../graph/graph.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { canBothServe } from '../exclusion.js';
import type { AnalysisInputs } from '../inputs.js';
import { askerOf, type Meeting, type MeetingDeliveries, type Met } from '../meeting-deliveries.js';
import { micros } from '../micros.js';
import { bindingRef } from '../names.js';
import { mostPairs, triesFor } from '../pairs.js';
import { defineRule, type TakeReport } from '../rule.js';

export const duplicateBinding = defineRule<'twice'>({
  meta: {
    name: 'duplicate-binding',
    severity: 'warning',
    group: 'correctness',
    what: 'Two bindings deliver the same event to the same action in the same way. Bindings whose conditions exclude each other are not duplicates.',
    why: 'The action runs twice, and a toggle cancels itself.',
    fix: 'Remove one of them, or mute it in that placement.',
  },
  messages: { twice: 'Two bindings {what}: "{first}" in {owner}' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      isCandidate: mayRepeat,
      check(inputs, { node }, report) {
        const pairs = new Pairs(inputs, node, report);
        publicationsAlike(inputs, node, pairs);
        meetingsOf(inputs).eachDirect(node, inputs.facts.audiences.of(node), (meeting) => {
          pairs.among(meeting, (first, later) => first.direct || later.direct);
        });
      },
    },
    {
      unit: 'audience',
      check(inputs, audience, report) {
        const [event] = audience.events;
        const pairs = new Pairs(inputs, event, report);
        meetingsOf(inputs).eachHeard(audience, (meeting) => pairs.among(meeting, () => true));
      },
    },
  ],
});

function meetingsOf(inputs: AnalysisInputs): MeetingDeliveries {
  const { g } = inputs;
  return inputs.meetings('duplicate-binding', (edge) => {
    const { binding } = bindingOfEdge(g, edge)!;
    return [{ key: `${g.head[edge]}/${argsText(binding)}`, value: '' }];
  });
}

/** Whether an event delivers twice to the same, or publishes at all; only then it is compared how. Cost: its edges. */
function mayRepeat({ g }: AnalysisInputs, event: number): boolean {
  const [first, end] = [g.first[event], g.end[event]];
  if (end - first === 1) return g.meta[first] >> 2 === PUBLISH;
  if (end - first === 2 && g.head[first] !== g.head[first + 1])
    return g.meta[first] >> 2 === PUBLISH || g.meta[first + 1] >> 2 === PUBLISH;
  const heads = new Set<number>();
  for (let e = first; e < end; e++) {
    if (g.meta[e] >> 2 === PUBLISH || heads.has(g.head[e])) return true;
    heads.add(g.head[e]);
  }
  return false;
}

/** Arguments of a binding as a text; most bindings have none. */
function argsText({ args }: Binding): string {
  return args && Object.keys(args).length > 0 ? canonicalJson(args) : '';
}

/** Reports pairs of bindings that do the same for one event, as many as there may be. */
class Pairs {
  private left: number;
  private tries: number;

  constructor(
    private readonly inputs: AnalysisInputs,
    event: number,
    private readonly report: TakeReport<'twice'>,
  ) {
    this.left = mostPairs(inputs.g, event);
    this.tries = triesFor(this.left);
  }

  reportPair(first: number, later: number, what: string): void {
    const { x } = this.inputs;
    if (first === later || this.left-- <= 0) return;
    const [a, b] = [bindingRef(x, first), bindingRef(x, later)];
    this.report({
      subject: { bindings: [a, b] },
      occurrences: [x.ownerOf(later)],
      message: 'twice',
      data: () => ({ what, first: bindingWords(x.bindingOf(first)), owner: a.asset }),
      evidence: () => bindingsEvidence([a, b]),
    });
  }
  /** Each with the first before it that does not exclude it, where such pairs are to be reported. */
  among(meeting: Meeting, isWanted: (first: Met, later: Met) => boolean): void {
    const { g } = this.inputs;
    meeting.forEach((later, at) => {
      for (let i = 0; i < at && this.tries-- > 0; i++) {
        const first = meeting[i];
        // Two whose conditions exclude each other never do the same at once.
        if (!canBothServe(g, askerOf(first), askerOf(later))) continue;
        if (isWanted(first, later)) this.reportPair(first.binding, later.binding, 'perform the same action');
        break;
      }
    });
  }
}

/** Publications of one event to the same channel node, alike in arguments and delay. */
function publicationsAlike({ g }: AnalysisInputs, event: number, pairs: Pairs): void {
  const firsts = new Map<string, number[]>();
  for (let e = g.first[event]; e < g.end[event]; e++) {
    if (g.meta[e] >> 2 !== PUBLISH) continue;
    const { binding } = bindingOfEdge(g, e)!;
    const same = `${g.head[e]}/${micros(binding)}/${argsText(binding)}`;
    const later = g.ref[e];
    const alike = firsts.get(same);
    const earlier = alike?.find((number) =>
      canBothServe(g, { number, node: event }, { number: later, node: event }),
    );
    if (earlier !== undefined) pairs.reportPair(earlier, later, 'publish the same');
    if (!alike) firsts.set(same, [later]);
    // One that another stands for already is never looked for.
    else if (earlier === undefined || hasConditions(binding.if)) alike.push(later);
  }
}
