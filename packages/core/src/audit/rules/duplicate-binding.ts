import { expandedBinding, bindingOfEdge, PUBLISH, type Graph } from '../../graph/graph.js';
import { canonicalJson } from '../../project/canonical.js';
import type { Binding } from '../../project/types.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { LIMITS } from '../../limits.js';
import {
  askerOf,
  MeetingDeliveries,
  micros,
  type DeliveredAction,
  type Meeting,
} from '../meeting-deliveries.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';
import { canBothServe } from '../exclusion.js';
import { hasConditions } from '../../project/condition.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const duplicateBinding = defineRule<'twice'>({
  meta: {
    name: 'duplicate-binding',
    severity: 'warning',
    group: 'correctness',
    what: 'Two bindings deliver the same event to the same action in the same way. Bindings whose conditions exclude each other are not duplicates.',
    why: 'The action runs twice, and a toggle cancels itself.',
    cure: 'Remove one of them, or mute it in that placement.',
  },
  messages: { twice: 'Two bindings {what}: "{first}" in {owner}' },
  check(ctx, report) {
    const { g, x } = ctx;
    const args = new ArgTexts();
    let pairs = 0;
    const pair = (first: number, later: number, what: string): void => {
      if (first === later || ++pairs > LIMITS.audit.pairs) return;
      const [a, b] = [bindingRef(x, first), bindingRef(x, later)];
      report({
        subject: { bindings: [a, b] },
        occurrences: [x.ownerOf(later)],
        message: 'twice',
        data: { what, first: bindingWords(expandedBinding(x, first).binding), owner: a.asset },
        evidence: () => ({ kind: 'bindings', bindings: [a, b] }),
      });
    };
    let tries = 0;
    const takeMeeting = (meeting: Meeting): void => {
      const mixed = meeting.some((m) => m.direct);
      meeting.forEach((later, at) => {
        for (let i = 0; i < at && ++tries <= TRIES; i++) {
          const first = meeting[i];
          // Two whose conditions exclude each other never do the same at once.
          if (!canBothServe(g, askerOf(first), askerOf(later))) continue;
          // What only hears is given apart, for all events that are published there.
          if (!mixed || first.direct || later.direct)
            pair(first.binding, later.binding, 'perform the same action');
          break;
        }
      });
    };
    const meetings = new MeetingDeliveries(g, (edge): DeliveredAction[] => [
      { key: `${g.head[edge]}/${args.of(bindingOfEdge(g, edge)!.binding)}`, value: '' },
    ]);
    const question: EventQuestion = { name: 'duplicate-binding', test: (n) => mayRepeat(ctx, n) };
    ctx.eachSuspect(question, (n) => {
      publicationsAlike(g, n, args, pair);
      meetings.eachOf(n, takeMeeting);
    });
  },
});

/** Pairs that are compared because of their conditions. */
const TRIES = 50 * LIMITS.audit.pairs;

/** Whether an event delivers twice to the same, or publishes at all; only then it is compared how. Cost: its edges. */
function mayRepeat({ g }: AuditContext, event: number): boolean {
  const [first, end] = [g.first[event], g.first[event + 1]];
  const heads = new Set<number>();
  for (let e = first; e < end; e++) {
    if (g.meta[e] >> 2 === PUBLISH || heads.has(g.head[e])) return true;
    heads.add(g.head[e]);
  }
  return false;
}

/** Arguments of a binding as a text; most bindings have none. */
class ArgTexts {
  private readonly known = new Map<Binding, string>();
  of(binding: Binding): string {
    let text = this.known.get(binding);
    if (text === undefined) {
      text = binding.args && Object.keys(binding.args).length > 0 ? canonicalJson(binding.args) : '';
      this.known.set(binding, text);
    }
    return text;
  }
}

/** Publications of one event to the same channel node, alike in arguments and delay. */
function publicationsAlike(
  g: Graph,
  event: number,
  args: ArgTexts,
  pair: (first: number, later: number, what: string) => void,
): void {
  const firsts = new Map<string, number[]>();
  const edges = [];
  for (let e = g.first[event]; e < g.first[event + 1]; e++) if (g.meta[e] >> 2 === PUBLISH) edges.push(e);
  for (const e of edges.sort((a, b) => g.ref[a] - g.ref[b])) {
    const { binding } = bindingOfEdge(g, e)!;
    const same = `${g.head[e]}/${micros(binding)}/${args.of(binding)}`;
    const later = g.ref[e];
    const alike = firsts.get(same);
    const earlier = alike?.find((number) =>
      canBothServe(g, { number, node: event }, { number: later, node: event }),
    );
    if (earlier !== undefined) pair(earlier, later, 'publish the same');
    if (!alike) firsts.set(same, [later]);
    // One that another stands for already is never looked for.
    else if (earlier === undefined || hasConditions(binding.if)) alike.push(later);
  }
}
