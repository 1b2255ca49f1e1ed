export * from './project/types.js';
export { readProject, readProjectText, type ReadResult } from './project/read.js';
export { BrokenDocument, problemText, type Problem } from './project/problem.js';
export { projectJsonSchema } from './project/json-schema.js';
export { canonicalJson, byCodeUnits } from './project/canonical.js';
export { isName } from './project/document.js';
export { isLiteral, sameValue, valueKey } from './project/value.js';
export { parsePath } from './project/path.js';
export { indexProject, type AssetIndex, type ProjectIndex } from './project/index-project.js';
export { expand } from './expand/expand.js';
export { Expansion } from './expand/expansion.js';
export { ProjectTooLarge, MAX_INSTANCES } from './expand/size.js';
export { BLOCKED, MISSING, resolveByText } from './expand/resolve.js';
export { initialValue } from './expand/values.js';
export { buildGraph } from './graph/build.js';
export { stronglyConnected } from './graph/components.js';
export * from './graph/graph.js';
export { audit, auditContext, gateOf, type AuditOptions } from './audit/audit.js';
export { AuditContext } from './audit/context.js';
export { LiveAudit } from './audit/live-audit.js';
export * from './audit/finding.js';
export { ALL_RULES, RULES } from './audit/rules/registry.js';
export { rulesPages } from './export/rules-page.js';
export type { RuleMeta } from './audit/rule.js';
export { DEFAULT_POLICY, thresholds, type Thresholds } from './audit/policy.js';
export type { Change, ChangeSet, ListItems, ListName } from './edit/change.js';
export { applyChanges, EditRefused, type Applied } from './edit/apply.js';
export { readChangeSet } from './edit/change-shape.js';
export { overlap, touches } from './edit/touches.js';
export {
  assetAtPath,
  bindingsOf,
  commonActions,
  freeBindingId,
  reachableFrom,
  wiredActions,
  type Reachable,
} from './edit/wiring.js';
export { compareFindings, type FindingChange } from './audit/compare.js';
export { auditText } from './export/text.js';
export {
  printArg,
  printBinding,
  printFrom,
  printOptions,
  printTo,
  printValue,
  toParts,
  type SentencePart,
} from './wireline/print.js';
export {
  argFault,
  argFaultText,
  literalFault,
  literalType,
  typeFits,
  type ArgFault,
  type ArgScope,
} from './project/arg-types.js';
export { guessArg, parseArg, suggestArgs, type ParsedArg } from './wireline/argument.js';
export { PROJECT_FILE, fromFolder, toFolder } from './project/folder.js';
export { againstBaseline, BrokenBaseline, readBaseline } from './audit/baseline.js';
export { auditSarif, type SarifOptions } from './export/sarif.js';
export { auditJunit, stopsGate } from './export/junit.js';
export { auditCsv, graphCsv } from './export/csv.js';
export { graphMl } from './export/graphml.js';
export { proposeFixes, type Cure } from './fix/propose.js';
