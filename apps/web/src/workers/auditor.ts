import {
  applyChanges,
  audit,
  buildGraph,
  compareFindings,
  cureAlike,
  figuresOf,
  layRipple,
  LiveAudit,
  mutingAll,
  narrowed,
  proposeFixes,
  reachedNames,
  reindexProject,
  rippleLines,
  rippleOf,
  selectedNow,
  type AuditResult,
  type BindingFrom,
  type BindingRef,
  type Change,
  type Cure,
  type CureOfMany,
  type Figures,
  type FindingChange,
  type Graph,
  type Project,
  type Ripple,
  type RippleAsk,
  type RippleFilter,
  type RippleLayout,
  type RippleLine,
  type SelectedNow,
  type SelectionTarget,
} from '@oquel/core';

export interface Audited {
  result: AuditResult;
  /** What the change did to the findings. */
  change: FindingChange;
}
export interface RippleQuestion {
  ask: RippleAsk;
  axis: 'hops' | 'time';
  filter: RippleFilter;
  /** Bindings that are off for a trial. */
  muted: readonly BindingRef[];
}
export interface RippleAnswer {
  ripple: Ripple;
  layout: RippleLayout;
  lines: RippleLine[];
  /** Hops that the policy allows. */
  limit: number;
  /** Milliseconds that it took to follow and lay out. */
  took: number;
}
export interface SelectionAsk {
  from: BindingFrom;
  to: SelectionTarget;
}

/** Holds the open project beside the interface, audits it after every edit, and answers what needs its graph. */
export class Auditor {
  private open_: LiveAudit | null = null;
  private today = '';

  private get live(): LiveAudit {
    if (!this.open_) throw new Error('the auditor has no project');
    return this.open_;
  }
  /** `today`: ISO date by which waivers are judged. @throws ProjectTooLarge */
  open(project: Project, today: string): AuditResult {
    this.today = today;
    this.open_ = new LiveAudit(project, today);
    return this.open_.result;
  }
  apply(changes: Change[]): Audited {
    const before = this.live.result;
    const result = this.live.apply(changes);
    return { result, change: compareFindings(before.findings, result.findings) };
  }
  /** What changes would do to the findings, without doing them. @throws EditRefused */
  preview(changes: Change[]): FindingChange {
    const { project } = applyChanges(this.live.project, changes);
    return compareFindings(this.live.result.findings, audit(project, { today: this.today }).findings);
  }
  /** What selections of an asset's bindings take now; null for one that names nothing. */
  selected(owner: string, asks: readonly SelectionAsk[]): (SelectedNow | null)[] {
    const { x } = this.live.context;
    const at = x.index.assetAt.get(owner);
    return asks.map(({ from, to }) => (at === undefined ? null : selectedNow(x, at, from, to)));
  }
  /** What follows from a start, or came before it, laid out; null if the start names nothing. */
  ripple({ ask, axis, filter, muted }: RippleQuestion): RippleAnswer | null {
    const begun = performance.now();
    const ctx = this.live.context;
    const kept = muted.length === 0 ? null : reachedNames(this.trialGraph(mutingAll(ctx.index, muted)), ask);
    const whole = rippleOf(ctx.g, ask, ctx, kept);
    if (!whole) return null;
    const ripple = narrowed(whole, filter);
    const answer = { ripple, layout: layRipple(ripple, axis), lines: rippleLines(ripple) };
    return { ...answer, limit: ctx.limits.maxChain, took: performance.now() - begun };
  }
  private trialGraph(changes: Change[]): Graph {
    const { x, index } = this.live.context;
    const { project } = applyChanges(this.live.project, changes);
    return buildGraph(x.withBindingsOf(reindexProject(index, project)));
  }
  /** How chains and fan-outs are distributed. */
  figures(): Figures {
    return figuresOf(this.live.context);
  }
  /** One edit that cures all findings like one of them; null if that is gone meanwhile. */
  cureAlike(fingerprint: string): CureOfMany | null {
    const finding = this.live.result.findings.find((f) => f.fingerprint === fingerprint);
    return finding ? cureAlike(this.live.project, finding, this.today) : null;
  }
  /** Cures for one of the findings as they are now, each tried; none if it is gone meanwhile. */
  cures(fingerprint: string): Cure[] {
    const finding = this.live.result.findings.find((f) => f.fingerprint === fingerprint);
    return finding ? proposeFixes(this.live.project, finding, this.today) : [];
  }
}
