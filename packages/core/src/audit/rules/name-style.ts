import type { Policy } from '../../project/types.js';
import { own } from '../../util/own.js';
import { namesEvidence } from '../evidence.js';
import type { Subject } from '../finding.js';
import type { AnalysisInputs } from '../inputs.js';
import { defineRule, type TakeReport } from '../rule.js';

type Kind = keyof NonNullable<Policy['names']>;

export const nameStyle = defineRule<'style'>({
  meta: {
    name: 'name-style',
    severity: 'info',
    group: 'correctness',
    what: 'A name does not follow the policy’s pattern for its kind.',
    why: 'Names that say what happened make a list of bindings readable.',
    fix: 'Rename it.',
  },
  messages: { style: 'The {kind} "{name}" does not match {pattern}' },
  parts: [
    {
      unit: 'project',
      after: ['name patterns'],
      check(inputs, _, report) {
        const judge = styleOf(inputs, 'channel', report);
        for (const { name } of inputs.index.project.channels ?? []) judge?.(name, () => ({ channel: name }));
      },
    },
    {
      unit: 'asset',
      after: ['name patterns'],
      check(inputs, { decl, events, actions, placements }, report) {
        const asset = decl.id;
        styleOf(inputs, 'asset', report)?.(asset, () => ({ asset }));
        const event = styleOf(inputs, 'event', report);
        if (event) for (const { name } of events) event(name, () => ({ asset, event: name }));
        const action = styleOf(inputs, 'action', report);
        if (action) for (const { name } of actions) action(name, () => ({ asset, action: name }));
        const placement = styleOf(inputs, 'placement', report);
        if (placement) for (const { id } of placements) placement(id, () => ({ asset, placement: id }));
      },
    },
  ],
});

/** Judges names of one kind; null where the policy has no pattern for them. */
function styleOf(
  inputs: AnalysisInputs,
  kind: Kind,
  report: TakeReport<'style'>,
): ((name: string, subject: () => Subject) => void) | null {
  const patterns: Policy['names'] = { event: '^on[A-Z]', ...inputs.index.project.policy?.names };
  const pattern = own(patterns, kind);
  if (pattern === undefined) return null;
  const test = inputs.nameTest(pattern);
  return (name, subject) => {
    if (test(name)) return;
    report({
      subject: subject(),
      occurrences: [],
      message: 'style',
      data: () => ({ kind, name, pattern }),
      evidence: () => namesEvidence(name, [pattern]),
    });
  };
}
