import type { Expansion } from '../expand/expansion.js';
import { byCodeUnits, canonicalJson } from '../project/canonical.js';
import type { Policy } from '../project/types.js';
import type { Finding } from './finding.js';
import { fingerprint } from './fingerprint.js';
import { severityOf } from './policy.js';
import { renderMessage, type Report, type Rule } from './rule.js';

interface Draft {
  finding: Finding;
  occurrences: Set<number | string>;
  rendered: boolean;
  sortKey: string;
}
const RANK = { error: 0, warning: 1, info: 2 } as const;

/** Gathers what rules report: same rule, class and subject become one finding; the policy's `off` is left out. */
export class Collector {
  private readonly drafts = new Map<string, Draft>();

  constructor(
    private readonly x: Expansion,
    private readonly policy: Policy | undefined,
  ) {}

  take<M extends string>(rule: Rule<M>, report: Report<M>): void {
    const fallback = report.severity ?? defaultSeverity(rule, report.class);
    const severity = severityOf(this.policy, rule.meta.name, report.class, fallback);
    if (severity === 'off') return;
    const subject = canonicalJson(report.subject);
    const id = `${rule.meta.name}\n${report.class ?? ''}\n${subject}`;
    let draft = this.drafts.get(id);
    if (!draft) {
      const finding: Finding = {
        rule: rule.meta.name,
        ...(report.class === undefined ? {} : { class: report.class }),
        severity,
        message: renderMessage(rule.messages[report.message], report.data),
        subject: report.subject,
        occurrences: [],
        evidence: report.evidence(),
        fingerprint: fingerprint(rule.meta.name, report.class, report.subject),
      };
      draft = { finding, occurrences: new Set(), rendered: false, sortKey: subject };
      this.drafts.set(id, draft);
    }
    for (const instance of report.occurrences) draft.occurrences.add(instance);
    draft.rendered = false;
  }

  /** All findings in their order: severity, rule, class, subject. */
  findings(): Finding[] {
    const drafts = [...this.drafts.values()];
    for (const d of drafts) {
      if (d.rendered) continue;
      d.rendered = true;
      d.finding.occurrences = [...d.occurrences]
        .map((o) => (typeof o === 'string' ? o : this.x.address(o)))
        .sort(byCodeUnits);
    }
    drafts.sort(
      (a, b) =>
        RANK[a.finding.severity] - RANK[b.finding.severity] ||
        byCodeUnits(a.finding.rule, b.finding.rule) ||
        byCodeUnits(a.finding.class ?? '', b.finding.class ?? '') ||
        byCodeUnits(a.sortKey, b.sortKey),
    );
    return drafts.map((d) => d.finding);
  }
}

export function defaultSeverity(rule: Rule, cls: string | undefined): 'error' | 'warning' | 'info' {
  return (cls === undefined ? undefined : rule.meta.classes?.[cls]) ?? rule.meta.severity;
}
