import type { Finding } from '@oquel/core';

export const GROUPINGS = ['rule', 'asset', 'severity', 'scene'] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** Findings that have something in common, in the audit's order. */
export interface FindingGroup {
  name: string;
  worst: Finding['severity'];
  findings: Finding[];
}

const RANK = { error: 0, warning: 1, info: 2 } as const;
const SEVERITIES = { error: 'errors', warning: 'warnings', info: 'notes' } as const;

/** Groups findings: groups with errors first, then by name. */
export function groupFindings(findings: readonly Finding[], by: Grouping): FindingGroup[] {
  const groups = new Map<string, FindingGroup>();
  for (const f of findings) {
    const name = groupOf(f, by);
    let group = groups.get(name);
    if (!group) groups.set(name, (group = { name, worst: f.severity, findings: [] }));
    group.findings.push(f);
    if (RANK[f.severity] < RANK[group.worst]) group.worst = f.severity;
  }
  return [...groups.values()].sort(
    (a, b) => RANK[a.worst] - RANK[b.worst] || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0),
  );
}

function groupOf(f: Finding, by: Grouping): string {
  if (by === 'rule') return f.rule;
  if (by === 'severity') return SEVERITIES[f.severity];
  if (by === 'asset') return assetOf(f);
  const scenes = new Set(f.occurrences.map((o) => o.slice(0, Math.max(0, o.indexOf(':')))));
  if (scenes.size === 1) return [...scenes][0] || 'no scene';
  return scenes.size === 0 ? 'no scene' : 'several scenes';
}
/** The asset that a finding speaks of first. */
export function assetOf({ subject: s }: Finding): string {
  if ('asset' in s) return s.asset;
  if ('assets' in s) return s.assets[0];
  if ('bindings' in s) return s.bindings[0]?.asset ?? ('effects' in s ? s.effects[0]?.asset : '') ?? '';
  if ('channel' in s) return `#${s.channel}`;
  return 'the project';
}

export interface FindingFilter {
  rule: string;
  severity: string;
  asset: string;
  text: string;
}
export function filterFindings(
  findings: readonly Finding[],
  { rule, severity, asset, text }: FindingFilter,
): Finding[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return findings.filter((f) => {
    if (rule !== '' && f.rule !== rule) return false;
    if (severity !== '' && f.severity !== severity) return false;
    if (asset !== '' && assetOf(f) !== asset) return false;
    if (words.length === 0) return true;
    const hay =
      `${f.rule} ${f.class ?? ''} ${f.message} ${f.occurrences.slice(0, 50).join(' ')}`.toLowerCase();
    return words.every((w) => hay.includes(w));
  });
}
