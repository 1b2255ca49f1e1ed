/**
 * Rules of a team's own, for `oquel audit FILE --rules own-rules.mjs`: nothing that is delayed may wait longer than ten seconds, and
 * every prefab says in a note what it is for.
 */
const LONGEST = 10;

export default ({ defineRule, bindingWords, bindingsEvidence, namesEvidence }) => [
  defineRule({
    meta: {
      name: 'long-wait',
      severity: 'warning',
      what: 'A binding waits longer than ten seconds.',
      why: 'Players do not see what they have set off.',
      fix: 'Show that something is coming, or shorten the delay.',
    },
    messages: { waits: '{binding} waits {seconds} s; our limit is {limit} s' },
    parts: [
      {
        unit: 'binding',
        concerns: ({ delay = 0 }) => delay > LONGEST,
        check(inputs, { binding, owner, position, subject }, report) {
          report({
            subject,
            occurrences: inputs.ownersOf(owner.at, position),
            message: 'waits',
            data: () => ({ binding: bindingWords(binding), seconds: binding.delay, limit: LONGEST }),
            evidence: () => bindingsEvidence([subject]),
          });
        },
      },
    ],
  }),
  defineRule({
    meta: {
      name: 'prefab-note',
      severity: 'info',
      what: 'A prefab has no note.',
      why: 'Whoever places it has to ask what it is for.',
      fix: 'Write a note.',
    },
    messages: { none: '{asset} has no note' },
    parts: [
      {
        unit: 'asset',
        check(inputs, { decl }, report) {
          if (decl.kind !== 'prefab' || decl.note) return;
          report({
            subject: { asset: decl.id },
            occurrences: [],
            message: 'none',
            data: () => ({ asset: decl.id }),
            evidence: () => namesEvidence(decl.id, []),
          });
        },
      },
    ],
  }),
];
