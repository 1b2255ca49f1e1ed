import { compilePattern } from '../../project/name-pattern.js';
import type { Policy } from '../../project/types.js';
import type { Subject } from '../finding.js';
import { defineRule } from '../rule.js';

type Kind = keyof NonNullable<Policy['names']>;

export const nameStyle = defineRule<'style'>({
  meta: {
    name: 'name-style',
    severity: 'info',
    group: 'correctness',
    ignoresBindings: true,
    besides: 'policy',
    what: 'A name does not follow the policy’s pattern for its kind.',
    why: 'Names that say what happened make a list of bindings readable.',
    cure: 'Rename it.',
  },
  messages: { style: 'The {kind} "{name}" does not match {pattern}' },
  check(ctx, report) {
    const patterns: Policy['names'] = { event: '^on[A-Z]', ...ctx.index.project.policy?.names };
    const tests = new Map<Kind, (name: string) => boolean>();
    for (const [kind, source] of Object.entries(patterns)) tests.set(kind as Kind, compilePattern(source));
    const judge = (kind: Kind, name: string, subject: Subject): void => {
      const test = tests.get(kind);
      if (!test || test(name)) return;
      const pattern = patterns[kind]!;
      report({
        subject,
        occurrences: [],
        message: 'style',
        data: { kind, name, pattern },
        evidence: () => ({ kind: 'names', wanted: name, known: [pattern] }),
      });
    };
    for (const { name } of ctx.index.project.channels ?? []) judge('channel', name, { channel: name });
    for (const { decl, events, actions, placements } of ctx.index.assets) {
      const asset = decl.id;
      judge('asset', asset, { asset });
      for (const { name } of events) judge('event', name, { asset, event: name });
      for (const { name } of actions) judge('action', name, { asset, action: name });
      for (const { id } of placements) judge('placement', id, { asset, placement: id });
    }
  },
});
