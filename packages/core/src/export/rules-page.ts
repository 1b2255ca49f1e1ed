import type { RuleMeta } from '../audit/rule.js';
import { ALL_RULES } from '../audit/rules/registry.js';

const GROUPS: Record<RuleMeta['group'], string> = {
  targets: 'Targets',
  listeners: 'Listeners',
  shape: 'Shape',
  correctness: 'Correctness',
  delivery: 'Delivery',
  waivers: 'Waivers',
};

/** The page of documentation for all rules, in Markdown. */
export function rulesPage(): string {
  const lines = ['# Rules', '', 'Made by `npm run docs` from the rules themselves.', ''];
  for (const [group, title] of Object.entries(GROUPS)) {
    const rules = ALL_RULES.filter((r) => r.meta.group === group);
    if (rules.length === 0) continue;
    lines.push(`## ${title}`, '');
    for (const { meta } of rules) lines.push(...ruleLines(meta));
  }
  return lines.join('\n');
}

function ruleLines({ name, severity, classes, what, why, cure }: RuleMeta): string[] {
  const byClass = Object.entries(classes ?? {}).map(([c, s]) => `\`${c}\` ${s}`);
  const severities = byClass.length > 0 ? byClass.join(', ') : severity;
  return [`### ${name}`, '', `Severity: ${severities}.`, '', `${what} ${why}`, '', `*Cure:* ${cure}`, ''];
}
