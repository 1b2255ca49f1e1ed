import type { RuleMeta } from '../audit/rule.js';
import { RULE_EXAMPLES } from './rule-examples.js';
import { ALL_RULES } from '../audit/rules/registry.js';
import { nearest } from '../project/nearest.js';
import { own } from '../util/own.js';

/** The names of all rules and what each finds, a line each. */
export function ruleNames(): string[] {
  const width = ALL_RULES.reduce((most, { meta }) => Math.max(most, meta.name.length), 0);
  return ALL_RULES.map(({ meta }) => `${meta.name.padEnd(width)}  ${meta.what}`);
}

/**
 * What a rule finds, why it matters and what to do, as text for a terminal. `name` may be of one of its classes, `rule/class`.
 * Where there is none of that name, the nearest ones.
 */
export function ruleText(name: string): { text: string | null; near: string[] } {
  const [rule, cls] = name.split('/');
  const found = ALL_RULES.find((r) => r.meta.name === rule);
  const { classes = {} } = found?.meta ?? {};
  if (!found)
    return {
      text: null,
      near: nearest(
        rule,
        ALL_RULES.map((r) => r.meta.name),
      ),
    };
  if (cls !== undefined && own(classes, cls) === undefined) {
    return { text: null, near: Object.keys(classes).map((c) => `${rule}/${c}`) };
  }
  const { meta, messages } = found;
  const said = Object.values(messages).map((m) => `  ${m.replace(/\{(\w+)\}/g, '<$1>')}`);
  const lines = [
    `${name}: ${severityText(meta, cls)}`,
    '',
    meta.what,
    '',
    `Why it matters: ${meta.why}`,
    `What to do:     ${meta.fix}`,
    '',
    'It says:',
    ...said,
    ...exampleText(meta.name),
  ];
  return { text: `${lines.join('\n')}\n`, near: [] };
}

function exampleText(rule: string): string[] {
  const example = own(RULE_EXAMPLES, rule);
  if (!example) return [];
  const indented = (text: string): string[] =>
    text.split('\n').map((line) => (line === '' ? '' : `  ${line}`));
  const beside = example.beside ? [`  (with ${JSON.stringify(example.beside)})`] : [];
  return [
    '',
    'For example:',
    ...indented(example.fires),
    ...beside,
    '',
    `but not, as ${example.but}:`,
    ...indented(example.almost),
  ];
}

function severityText({ severity, classes = {} }: RuleMeta, cls: string | undefined): string {
  if (cls !== undefined) return own(classes, cls)!;
  const others = Object.entries(classes).filter(([, s]) => s !== severity);
  return [severity, ...others.map(([c, s]) => `${s} for ${c}`)].join(', ');
}
