import type { Rule, RuleMeta } from '../audit/rule.js';
import type { Project } from '../project/types.js';
import { own } from '../util/own.js';
import { COMMON, RULE_EXAMPLES } from './rule-examples.js';
import { ALL_RULES } from '../audit/rules/registry.js';

const GROUPS: Record<Exclude<RuleMeta['group'], 'own'>, string> = {
  targets: 'Targets',
  listeners: 'Listeners',
  shape: 'Shape',
  correctness: 'Correctness',
  delivery: 'Delivery',
  waivers: 'Waivers',
};

/** The pages of documentation for all rules, in Markdown, by file name: a list, and one page for each rule. */
export function rulesPages(): Map<string, string> {
  const pages = new Map([['README.md', listPage()]]);
  for (const rule of ALL_RULES) pages.set(`${rule.meta.name}.md`, rulePage(rule));
  return pages;
}

function listPage(): string {
  const lines = [
    '# Rules',
    '',
    'Made by `npm run docs` from the rules themselves. Each page has two small projects as [lines](../wire-lines.md#whole-projects): on the first the rule',
    'reports something, on the second it almost does. Unless an example says otherwise, these stand beside it:',
    '',
    ...code(COMMON),
    '',
  ];
  for (const [group, title] of Object.entries(GROUPS)) {
    const rules = ALL_RULES.filter((r) => r.meta.group === group);
    lines.push(`## ${title}`, '', '| rule | severity | what it finds |', '|---|---|---|');
    for (const { meta } of rules) {
      lines.push(`| [${meta.name}](${meta.name}.md) | ${severities(meta)} | ${meta.what} |`);
    }
    lines.push('');
  }
  return lines.join('\n');
}

function rulePage({ meta, messages }: Rule): string {
  const said = Object.values(messages).map((m) => `- ${m.replace(/\{(\w+)\}/g, '*$1*')}`);
  return [
    `# ${meta.name}`,
    '',
    meta.what,
    '',
    `**Severity:** ${severities(meta)}. A policy can change it, for \`${meta.name}\` or for one class.`,
    '',
    `**Why it matters.** ${meta.why}`,
    '',
    `**Fix.** ${meta.fix}`,
    '',
    '**Message:**',
    '',
    ...said,
    '',
    ...exampleOf(meta.name),
    'Made by `npm run docs` from the rule itself. [All rules](README.md)',
    '',
  ].join('\n');
}

/** Two projects as lines: one that the rule reports something of, one that it almost does. */
function exampleOf(rule: string): string[] {
  const example = own(RULE_EXAMPLES, rule);
  if (!example) return [];
  const { fires, almost, but, beside, almostBeside } = example;
  return [
    '## An example',
    '',
    `Reported${besideText(beside)}:`,
    '',
    ...code(fires),
    '',
    `Not reported${besideText(almostBeside ?? beside)}, as ${but}:`,
    '',
    ...code(almost),
    '',
    'The prefabs Bell, Gate and Lamp, where they are not declared here, are those of [all examples](README.md).',
    '',
  ];
}
function besideText(beside: Partial<Project> | undefined): string {
  if (!beside) return '';
  return Object.entries(beside)
    .map(([part, value]) => `, with \`"${part}": ${JSON.stringify(value)}\``)
    .join('');
}
function code(text: string): string[] {
  return text.split('\n').map((line) => (line === '' ? '' : `    ${line}`));
}

function severities({ severity, classes }: RuleMeta): string {
  const byClass = Object.entries(classes ?? {});
  if (byClass.length === 0 || byClass.every(([, s]) => s === severity)) {
    const names = byClass.map(([c]) => `\`${c}\``).join(', ');
    return names === '' ? severity : `${severity} (classes ${names})`;
  }
  return byClass.map(([c, s]) => `\`${c}\` ${s}`).join(', ');
}
