import type { AnalysisInputs } from '../inputs.js';
import { namesEvidence } from '../evidence.js';
import { boundLiterals, declaredLiterals, hasLiterals, type Literal } from '../literals.js';
import { defineRule, type TakeReport } from '../rule.js';

export const danglingKey = defineRule<'key' | 'table'>({
  meta: {
    name: 'dangling-key',
    severity: 'error',
    group: 'targets',
    what: 'A value must be a key of a table, and the table has no such key.',
    why: 'The game cannot look it up.',
    fix: 'Use a key that the table has, or add this one to it.',
  },
  messages: {
    key: '{where} is "{value}", which is not a key of {table}',
    table: '{where} is a key of {table}, but no such table is declared',
  },
  parts: [
    {
      unit: 'asset',
      check: (inputs, asset, report) => judge(inputs, declaredLiterals(inputs, asset), report),
    },
    {
      unit: 'binding',
      concerns: hasLiterals,
      check: (inputs, unit, report) => judge(inputs, boundLiterals(inputs, unit), report),
    },
  ],
});

function judge(
  inputs: AnalysisInputs,
  literals: readonly Literal[],
  report: TakeReport<'key' | 'table'>,
): void {
  for (const { value, type, subject, occurrences, where } of literals) {
    if (!type.startsWith('key:') || typeof value !== 'string') continue;
    const table = type.slice(4);
    const tables = inputs.index.typeNames.ofTables;
    const keys = tables.get(table);
    if (keys?.has(value)) continue;
    report({
      subject,
      occurrences,
      message: keys ? 'key' : 'table',
      data: () => ({ where, value, table }),
      evidence: () => namesEvidence(value, keys ?? tables.keys()),
    });
  }
}
