import { LIMITS } from '../limits.js';
import { byCodeUnits, canonicalJson } from '../project/canonical.js';
import { own } from '../util/own.js';
import { sameJson } from '../util/same-json.js';
import { append } from '../util/append.js';
import type { Policy, Waiver } from '../project/types.js';
import type { FindingChange } from './compare.js';
import { isNew } from './compare.js';
import type { AnalysisInputs } from './inputs.js';
import type { Finding, Subject } from './finding.js';
import { fingerprint } from './fingerprint.js';
import { failingAs, type Judge } from './judge.js';
import { severityOf } from './policy.js';
import type { FindingState, ReportStore } from './report-store.js';
import { renderMessage, type Report, type Rule } from './rule.js';
import { idleWaiver, isStale, staleWaiver, WaiversInForce } from './waivers.js';
import { firstNotBefore } from '../util/lower-bound.js';

const RANK = { error: 0, warning: 1, info: 2 } as const;

/** A finding in the list, with the severity that the policy gives it. */
interface Listed {
  state: FindingState;
  severity: Finding['severity'];
  /** As it was listed the last time. */
  shown: Finding | null;
}

/**
 * The findings in their order: severity, rule, class, subject. What did not change since the last time is the very same
 * object. Cost of a listing: the findings, and rendering those that changed.
 */
export class FindingList {
  private sorted: Listed[] = [];
  private readonly byState = new Map<FindingState, Listed>();
  /** Those that the policy turns off. */
  private readonly off = new Set<FindingState>();
  private policy: Policy | undefined;
  private previous: Map<string, Finding>;
  private waiverFindings = new Map<string, Finding>();
  /** What the last listing did to the one before. */
  change: FindingChange = { added: [], gone: [] };

  constructor(
    private readonly inputs: AnalysisInputs,
    private readonly store: ReportStore,
    private readonly judge: Judge,
    /** What was listed before everything was worked out anew. */
    previous: readonly Finding[] = [],
  ) {
    this.previous = new Map(previous.map((f) => [f.fingerprint, f]));
  }

  /** All findings, those on waivers among them. */
  list(): Finding[] {
    const { project } = this.inputs.index;
    const { changed, gone } = this.store.takeChanges();
    const change: FindingChange = { added: [], gone: [] };
    const policyChanged = project.policy !== this.policy;
    this.policy = project.policy;
    for (const state of gone) this.leave(state, change);
    if (policyChanged || changed.size > this.sorted.length / 4 + 100) this.placeAll(change);
    else for (const state of changed) this.place(state, change);
    const findings = this.render(project.waivers ?? [], change);
    if (this.previous.size > 0) {
      const there = new Set(findings.map((f) => f.fingerprint));
      for (const [fingerprint, f] of this.previous) if (!there.has(fingerprint)) change.gone.push(f);
      this.previous = new Map();
    }
    change.gone.sort(byOrder);
    this.change = change;
    return findings;
  }

  private leave(state: FindingState, change: FindingChange): void {
    this.off.delete(state);
    const listed = this.byState.get(state);
    if (!listed) return;
    if (listed.shown) change.gone.push(listed.shown);
    this.takeOut(listed);
  }
  private takeOut(listed: Listed): void {
    this.byState.delete(listed.state);
    this.sorted.splice(this.find(listed), 1);
  }
  private place(state: FindingState, change: FindingChange): void {
    const severity = this.severity(state);
    const known = this.byState.get(state);
    if (known?.severity === severity) return;
    if (known) this.takeOut(known);
    if (this.keep(state, severity)) {
      const listed = this.byState.get(state)!;
      listed.shown = known?.shown ?? this.before(state);
      this.sorted.splice(this.find(listed), 0, listed);
    } else if (known?.shown) change.gone.push(known.shown);
  }
  private placeAll(change: FindingChange): void {
    const shown = new Map([...this.byState].map(([state, listed]) => [state, listed.shown]));
    this.byState.clear();
    this.off.clear();
    for (const state of this.store.states()) {
      if (!this.keep(state, this.severity(state))) continue;
      this.byState.get(state)!.shown = shown.get(state) ?? this.before(state);
    }
    for (const [state, before] of shown) if (before && !this.byState.has(state)) change.gone.push(before);
    this.sorted = [...this.byState.values()].sort(compare);
  }
  private keep(state: FindingState, severity: ReturnType<FindingList['severity']>): boolean {
    if (severity === 'off') {
      this.off.add(state);
      return false;
    }
    this.off.delete(state);
    this.byState.set(state, { state, severity, shown: null });
    return true;
  }
  private severity({ rule, class: cls, severity }: FindingState): Finding['severity'] | 'off' {
    return severityOf(this.inputs.index.project.policy, rule.meta.name, cls, severity);
  }
  /** Where a finding stands, or is to stand. */
  private find(listed: Listed): number {
    return firstNotBefore(this.sorted.length, (place) => compare(this.sorted[place], listed) < 0);
  }

  private render(waivers: readonly Waiver[], change: FindingChange): Finding[] {
    const { today } = this.inputs;
    const inForce = new WaiversInForce(waivers, today);
    const findings: Finding[] = [];
    const counts = new Map<Rule, number>();
    for (const listed of this.sorted) {
      const { state } = listed;
      const count = (counts.get(state.rule) ?? 0) + 1;
      counts.set(state.rule, count);
      if (count > LIMITS.audit.findings) {
        state.latest = null;
        continue;
      }
      if (!state.rendered || state.rendered.severity !== listed.severity) {
        state.rendered = asBefore(this.finding(state, listed.severity), listed.shown);
      }
      state.latest = null;
      const isWaived = inForce.covers(state.rendered);
      if ((state.rendered.waived === true) !== isWaived) {
        const { waived: _, ...bare } = state.rendered;
        state.rendered = isWaived ? { ...bare, waived: true } : bare;
      }
      const { shown } = listed;
      listed.shown = state.rendered;
      const isSame = shown !== null && shown.occurrences === state.rendered.occurrences;
      if (!isSame && isNew(state.rendered, shown ?? undefined)) change.added.push(state.rendered);
      findings.push(state.rendered);
    }
    sayMore(findings, counts);
    return merged(findings, this.onWaivers(waivers, change));
  }
  private before(state: FindingState): Finding | null {
    return this.previous.size === 0 ? null : (this.previous.get(state.fingerprint) ?? null);
  }
  private finding(state: FindingState, severity: Finding['severity']): Finding {
    const { rule } = state;
    return failingAs(rule, () => {
      const { report, units } = this.judge.firstReport(state);
      return {
        rule: rule.meta.name,
        ...(state.class === undefined ? {} : { class: state.class }),
        severity,
        message: messageOf(rule, report),
        subject: state.subject,
        occurrences: state.occurrences.sorted((i) => this.inputs.x.address(i)),
        evidence: report.evidence(units),
        fingerprint: state.fingerprint,
      };
    });
  }

  /** The two rules on waivers look at the other findings; one that the policy turns off is there for them. */
  private onWaivers(waivers: readonly Waiver[], change: FindingChange): Finding[] {
    const before = this.waiverFindings;
    this.waiverFindings = new Map();
    const { today } = this.inputs;
    const there = new Set<string>();
    if (waivers.length > 0) for (const state of this.store.states()) there.add(state.fingerprint);
    for (const w of waivers) {
      const subject = { waiver: w.fingerprint };
      const data = { by: w.by, reason: w.reason, until: w.until ?? '' };
      const rule = isStale(w, today) ? staleWaiver : there.has(w.fingerprint) ? null : idleWaiver;
      const finding = rule && this.onWaiver(rule, subject, data);
      if (!finding || this.waiverFindings.has(finding.fingerprint)) continue;
      const known = before.get(finding.fingerprint) ?? this.previous.get(finding.fingerprint) ?? null;
      if (!known) change.added.push(finding);
      this.waiverFindings.set(finding.fingerprint, asBefore(finding, known));
    }
    for (const [fingerprint, f] of before) if (!this.waiverFindings.has(fingerprint)) change.gone.push(f);
    return [...this.waiverFindings.values()].sort(byOrder);
  }
  private onWaiver(
    rule: Rule<'stale'> | Rule<'idle'>,
    subject: Subject,
    data: Record<string, string>,
  ): Finding | null {
    const { name, severity } = rule.meta;
    const given = severityOf(this.policy, name, undefined, severity);
    if (given === 'off') return null;
    const [template] = Object.values<string>(rule.messages);
    return {
      rule: name,
      severity: given,
      message: renderMessage(template, data),
      subject,
      occurrences: [],
      evidence: { kind: 'bindings', bindings: [] },
      fingerprint: fingerprint(name, undefined, subject),
    };
  }
}

/** The very same as before where it says the same; whether it is waived is looked at apart. */
function asBefore(finding: Finding, shown: Finding | null): Finding {
  if (!shown) return finding;
  const { waived: _, ...bare } = shown;
  return sameJson(bare, finding) ? shown : finding;
}
function messageOf(rule: Rule, report: Report): string {
  return renderMessage(own(rule.messages, report.message)!, report.data());
}

function compare(a: Listed, b: Listed): number {
  return (
    RANK[a.severity] - RANK[b.severity] ||
    byCodeUnits(a.state.rule.meta.name, b.state.rule.meta.name) ||
    byCodeUnits(a.state.class ?? '', b.state.class ?? '') ||
    byCodeUnits(a.state.sortKey, b.state.sortKey)
  );
}

function byOrder(a: Finding, b: Finding): number {
  return (
    RANK[a.severity] - RANK[b.severity] ||
    byCodeUnits(a.rule, b.rule) ||
    byCodeUnits(a.class ?? '', b.class ?? '') ||
    byCodeUnits(canonicalJson(a.subject), canonicalJson(b.subject))
  );
}
/** Two sorted lists as one; no rule is in both. */
function merged(findings: readonly Finding[], own: readonly Finding[]): Finding[] {
  const all: Finding[] = [];
  let next = 0;
  for (const f of findings) {
    while (next < own.length && precedes(own[next], f)) all.push(own[next++]);
    all.push(f);
  }
  append(all, own.slice(next));
  return all;
}
function precedes(a: Finding, b: Finding): boolean {
  return (RANK[a.severity] - RANK[b.severity] || byCodeUnits(a.rule, b.rule)) < 0;
}

/** The last finding that is listed of a rule says how many more there are. */
function sayMore(findings: Finding[], counts: ReadonlyMap<Rule, number>): void {
  for (const [rule, count] of counts) {
    const more = count - LIMITS.audit.findings;
    if (more <= 0) continue;
    const last = findings.findLastIndex((f) => f.rule === rule.meta.name);
    const { message } = findings[last];
    findings[last] = {
      ...findings[last],
      message: `${message} (and ${more} more like it that are not listed)`,
    };
  }
}
