/** The audit and what is asked of the graph besides: findings, fixes, rules, ripples, crossings. */
export { gateOf } from '../audit/audit-state.js';
export { audit, auditGraph, auditSteps, type AuditOptions } from '../audit/audit.js';
export { againstBaseline, BrokenBaseline, readBaseline } from '../audit/baseline.js';
export { compareFindings, type FindingChange } from '../audit/compare.js';
export { auditDifference, withDifference, type AuditDifference } from '../audit/difference.js';
export { figuresOf, type Bucket, type Figures } from '../audit/figures.js';
export * from '../audit/finding.js';
export { IncrementalAudit } from '../audit/incremental-audit.js';
export { AnalysisInputs } from '../audit/inputs.js';
export { RuleFailed } from '../audit/judge.js';
export { ownRules, RULE_TOOLS, RuleRefused, type RuleTools } from '../audit/own-rules.js';
export { DEFAULT_POLICY, thresholds, type Thresholds } from '../audit/policy.js';
export { defineRule, type AnyPart, type Part, type Report, type Rule, type RuleMeta } from '../audit/rule.js';
export { ALL_RULES, RULES } from '../audit/rules/registry.js';
export { mistakeOf, mistakesOf, type Mistake } from '../audit/same-mistake.js';
export { sourceOf, sourceOfName, sourceText } from '../audit/source-of.js';
export type { UnitChanges, UnitKind, Units } from '../audit/units.js';
export { waiverStates, type WaiverState } from '../audit/waiver-states.js';
export {
  CROSSING_GROUPS,
  crossingsOf,
  NO_TAG,
  type CrossingCell,
  type CrossingGroup,
  type Crossings,
} from '../crossings/crossings.js';
export { CROSSING_ORDERS, orderGroups, type CrossingOrder } from '../crossings/order.js';
export { fixAlike, MOST_ALIKE, type FixOfMany } from '../fix/alike.js';
export { fixesIn, proposeFixes, type TriedFix } from '../fix/propose.js';
export { namesText, type NamesText } from '../presentation/names-text.js';
export { proofTracks, nodeName, type ProofRow, type ProofTrack } from '../presentation/proof-rows.js';
export type { Heaviest, HeaviestStep } from '../ripple/heaviest.js';
export {
  layRipple,
  spreadOf,
  type RippleAxis,
  type RippleColumn,
  type RippleLayout,
} from '../presentation/ripple-layout.js';
export { entryText, entryWords, rippleLines, type RippleLine } from '../ripple/lines.js';
export { rippleMoments, type RippleMoment } from '../ripple/moments.js';
export { narrowed, type RippleFilter } from '../ripple/narrow.js';
export { delayText, entryNotes, type EntryNotes, type ReturnNote } from '../ripple/notes.js';
export type { Ripple, RippleAsk, RippleEntry, RippleLink } from '../ripple/model.js';
export { reachedNames } from '../ripple/reached-names.js';
export { rippleOf } from '../ripple/ripple.js';
export type { RippleStart } from '../ripple/start.js';
export { startNodes } from '../ripple/start.js';
