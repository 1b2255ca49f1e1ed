import type { Finding } from '@oquel/core';

/** Findings of one rule, in the audit's order. */
export interface RuleGroup {
  rule: string;
  worst: Finding['severity'];
  findings: Finding[];
}

const RANK = { error: 0, warning: 1, info: 2 } as const;

/** Groups by rule: rules with errors first, then by name. */
export function groupByRule(findings: readonly Finding[]): RuleGroup[] {
  const groups = new Map<string, RuleGroup>();
  for (const f of findings) {
    let group = groups.get(f.rule);
    if (!group) groups.set(f.rule, (group = { rule: f.rule, worst: f.severity, findings: [] }));
    group.findings.push(f);
    if (RANK[f.severity] < RANK[group.worst]) group.worst = f.severity;
  }
  return [...groups.values()].sort(
    (a, b) => RANK[a.worst] - RANK[b.worst] || (a.rule < b.rule ? -1 : a.rule > b.rule ? 1 : 0),
  );
}

export interface FindingFilter {
  rule: string;
  severity: string;
  text: string;
}
export function filterFindings(
  findings: readonly Finding[],
  { rule, severity, text }: FindingFilter,
): Finding[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return findings.filter((f) => {
    if (rule !== '' && f.rule !== rule) return false;
    if (severity !== '' && f.severity !== severity) return false;
    if (words.length === 0) return true;
    const hay =
      `${f.rule} ${f.class ?? ''} ${f.message} ${f.occurrences.slice(0, 50).join(' ')}`.toLowerCase();
    return words.every((w) => hay.includes(w));
  });
}
