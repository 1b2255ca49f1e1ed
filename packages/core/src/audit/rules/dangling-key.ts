import { defineRule } from '../rule.js';

export const danglingKey = defineRule<'key' | 'table'>({
  meta: {
    name: 'dangling-key',
    severity: 'error',
    group: 'targets',
    what: 'A value must be a key of a table, and the table has no such key.',
    why: 'The game cannot look it up.',
    cure: 'Use a key that the table has, or add this one to it.',
  },
  messages: {
    key: '{where} is "{value}", which is not a key of {table}',
    table: '{where} is a key of {table}, but no such table is declared',
  },
  check(ctx, report) {
    const tables = new Map((ctx.index.project.tables ?? []).map((t) => [t.name, new Set(t.keys)]));
    for (const { value, type, subject, occurrences, where } of ctx.wrongLiterals) {
      if (!type.startsWith('key:') || typeof value !== 'string') continue;
      const table = type.slice(4);
      const keys = tables.get(table);
      if (keys?.has(value)) continue;
      report({
        subject,
        occurrences,
        message: keys ? 'key' : 'table',
        data: { where, value, table },
        evidence: () => ({ kind: 'names', wanted: value, known: [...(keys ?? tables.keys())].slice(0, 200) }),
      });
    }
  },
});
