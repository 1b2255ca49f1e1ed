import type { Expansion } from '../expand/expansion.js';
import { LIMITS } from '../limits.js';
import { own } from '../util/own.js';
import { byCodeUnits, canonicalJson } from '../project/canonical.js';
import type { Policy } from '../project/types.js';
import type { Finding } from './finding.js';
import { fingerprint } from './fingerprint.js';
import { severityOf } from './policy.js';
import type { Wording } from './wording.js';
import { renderMessage, type Report, type Rule } from './rule.js';

interface Draft {
  id: string;
  finding: Finding;
  /** As reported: one that is reported twice is here twice. */
  occurrences: (number | string)[];
  rendered: boolean;
  sortKey: string;
}

const RANK = { error: 0, warning: 1, info: 2 } as const;

/** Gathers what rules report: same rule, class and subject become one finding; the policy's `off` is left out. */
export class Collector {
  private readonly drafts = new Map<string, Draft>();
  private sorted: Draft[] | null = null;
  /** For each rule how many findings it has, and the last of them. */
  private readonly ofRule = new Map<
    string,
    { count: number; more: number; last: Finding | null; said: string }
  >();

  constructor(
    private readonly x: Expansion,
    private readonly policy: Policy | undefined,
    private readonly before: Wording = new Map(),
  ) {}

  take<M extends string>(rule: Rule<M>, report: Report<M>): void {
    const fallback = report.severity ?? defaultSeverity(rule, report.class);
    const severity = severityOf(this.policy, rule.meta.name, report.class, fallback);
    if (severity === 'off') return;
    const subject = canonicalJson(report.subject);
    const id = `${rule.meta.name}\n${report.class ?? ''}\n${subject}`;
    let draft = this.drafts.get(id);
    if (!draft) {
      const tally = this.tally(rule.meta.name);
      if (tally.count >= LIMITS.audit.findings) {
        tally.more++;
        tally.last!.message = `${tally.said} (and ${tally.more} more like it, at least, that are not listed)`;
        return;
      }
      const finding: Finding = {
        rule: rule.meta.name,
        ...(report.class === undefined ? {} : { class: report.class }),
        severity,
        message: renderMessage(rule.messages[report.message], report.data),
        subject: report.subject,
        occurrences: [],
        evidence: report.evidence(),
        fingerprint:
          this.before.get(id)?.fingerprint ?? fingerprint(rule.meta.name, report.class, report.subject),
      };
      tally.count++;
      tally.last = finding;
      tally.said = finding.message;
      draft = { id, finding, occurrences: [], rendered: false, sortKey: subject };
      this.drafts.set(id, draft);
      this.sorted = null;
    }
    for (const instance of report.occurrences) draft.occurrences.push(instance);
    draft.rendered = false;
  }

  private tally(rule: string): { count: number; more: number; last: Finding | null; said: string } {
    let tally = this.ofRule.get(rule);
    if (!tally) this.ofRule.set(rule, (tally = { count: 0, more: 0, last: null, said: '' }));
    return tally;
  }

  /** All findings in their order: severity, rule, class, subject. */
  findings(): Finding[] {
    this.sorted ??= [...this.drafts.values()].sort(
      (a, b) =>
        RANK[a.finding.severity] - RANK[b.finding.severity] ||
        byCodeUnits(a.finding.rule, b.finding.rule) ||
        byCodeUnits(a.finding.class ?? '', b.finding.class ?? '') ||
        byCodeUnits(a.sortKey, b.sortKey),
    );
    for (const d of this.sorted) {
      if (d.rendered) continue;
      d.rendered = true;
      d.finding.occurrences = this.texts(d);
    }
    return this.sorted.map((d) => d.finding);
  }

  private texts({ id, occurrences }: Draft): string[] {
    const before = this.before.get(id);
    if (before && sameItems(before.occurrences, occurrences)) return before.texts;
    return [...new Set(occurrences)]
      .map((o) => (typeof o === 'string' ? o : this.x.address(o)))
      .sort(byCodeUnits);
  }

  /** For the next audit. */
  wording(): Wording {
    return new Map(
      [...this.drafts.values()].map(({ id, finding, occurrences }) => [
        id,
        { fingerprint: finding.fingerprint, occurrences, texts: finding.occurrences },
      ]),
    );
  }
}

function sameItems<T>(a: readonly T[], b: readonly T[]): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

export function defaultSeverity(rule: Rule, cls: string | undefined): 'error' | 'warning' | 'info' {
  return (cls === undefined ? undefined : own(rule.meta.classes, cls)) ?? rule.meta.severity;
}
