export * from './project/types.js';
export { readProject, readProjectText, type ReadResult } from './project/read.js';
export { BrokenDocument, problemText, type Problem } from './project/problem.js';
export { jsonDepthFault } from './project/json-text.js';
export { isIsoDate } from './project/iso-date.js';
export { LIMITS } from './limits.js';
export { own, put } from './util/own.js';
export { append } from './util/append.js';
export { manifestJsonSchema, projectJsonSchema } from './project/json-schema.js';
export { byCodeUnits, canonicalJson, canonicalParts } from './project/canonical.js';
export { isName } from './project/name.js';
export { isLiteral, sameValue, valueKey } from './project/value.js';
export { parsePath } from './project/path.js';
export { indexProject, reindexProject, type AssetIndex, type ProjectIndex } from './project/index-project.js';
export { expand } from './expand/expand.js';
export { Expansion } from './expand/expansion.js';
export { ProjectTooLarge } from './expand/too-large.js';
export { BLOCKED, MISSING, resolveByText } from './expand/resolve.js';
export { initialValue } from './expand/values.js';
export { buildGraph } from './graph/build.js';
export { stronglyConnected } from './graph/components.js';
export * from './graph/graph.js';
export { audit, auditContext, auditSteps, gateOf, type AuditOptions } from './audit/audit.js';
export { asPart, finish, type WorkStep } from './util/steps.js';
export { AuditContext } from './audit/context.js';
export { LiveAudit } from './audit/live-audit.js';
export * from './audit/finding.js';
export { ALL_RULES, RULES } from './audit/rules/registry.js';
export { rulesPages } from './export/rules-page.js';
export { ruleNames, ruleText } from './export/rule-text.js';
export type { RuleMeta } from './audit/rule.js';
export { DEFAULT_POLICY, thresholds, type Thresholds } from './audit/policy.js';
export { changesGate } from './edit/authority.js';
export {
  ASSET_PARTS,
  PROJECT_PARTS,
  type AssetChange,
  type AssetPart,
  type Change,
  type ChangeSet,
  type ItemChange,
  type ListItems,
  type ListName,
  type PartChange,
  type ProjectPart,
} from './edit/change.js';
export { applyChanges, ChangeApplier, type Applied } from './edit/apply.js';
export { EditRefused } from './edit/check-change.js';
export { changeJsonSchema, readChangeSet } from './edit/change-shape.js';
export { overlap, touches } from './edit/touches.js';
export {
  assetAtPath,
  bindingsOf,
  commonActions,
  freeBindingId,
  loadedTogether,
  meetingOn,
  reachableFrom,
  wiredActions,
  type ChannelUse,
  type Reachable,
  type Together,
  assetAtAddress,
} from './edit/wiring.js';
export { compareFindings, type FindingChange } from './audit/compare.js';
export { oneLine } from './export/one-line.js';
export { auditText } from './export/text.js';
export {
  printArg,
  printBinding,
  printFrom,
  printKey,
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
export { guessArg, guessMatch, parseArg, suggestArgs, type ParsedArg } from './wireline/argument.js';
export { PROJECT_FILE, fromFolder, toFolder } from './project/folder.js';
export { againstBaseline, BrokenBaseline, readBaseline } from './audit/baseline.js';
export { auditSarif, type SarifOptions } from './export/sarif.js';
export { placeProblems, type PlacedProblem } from './export/problem-places.js';
export {
  coverageCobertura,
  coverageLcov,
  type CoverageOptions,
  type ServedCounts,
} from './export/coverage.js';
export { locate, type Located, type Places, type ProjectTexts } from './export/located.js';
export { placesIn, type Region } from './project/json-places.js';
export { auditJunit, stopsGate, type JunitOptions } from './export/junit.js';
export { auditCsv, graphCsv } from './export/csv.js';
export { graphMl } from './export/graphml.js';
export { proposeFixes, type Cure } from './fix/propose.js';
export { printWireLine } from './wireline/print.js';
export { parseConditions, parseWireLine, type LineBinding, type ParsedLine } from './wireline/parse.js';
export { WireLineFault } from './wireline/scanner.js';
export {
  afterCompletion,
  completeConditions,
  completeWireLine,
  type Completion,
  type Completions,
} from './wireline/complete.js';
export { checkLine } from './wireline/check.js';
export { readWireLines, type PastedLine } from './wireline/paste.js';
export { parseAssetHead, printAssetHead, type AssetHead } from './wireline/asset-line.js';
export { isPlacementLine, parsePlacement, printPlacement } from './wireline/placement.js';
export { printStage, readStage, type StageLines } from './wireline/stage-lines.js';
export {
  bindingsNaming,
  duplicationOf,
  freePlacementId,
  holdersOf,
  metres,
  placementStem,
  removalOf,
  restagingOf,
  type Duplication,
} from './edit/staging.js';
export { areaContains } from './plan/area.js';
export { turnArea, turnPoint } from './plan/turn.js';
export { selectedNow, type SelectedNow } from './graph/selected.js';
export { asItsAsset, differencesOf, differs, muting, type Differences } from './edit/differences.js';
export {
  askableByAll,
  mutingAll,
  planBulk,
  type BulkChange,
  type BulkPlan,
  type BulkStep,
  type Row,
} from './bulk/bulk.js';
export { type NameKind, type NameRef } from './names/name.js';
export { declareInProject, parseProjectLine, type ProjectDeclaration } from './wireline/project-line.js';
export { redeclare } from './rename/redeclare.js';
export { nameFault, namesLike, renameName } from './rename/rename.js';
export { countUses, usesOfName, type BindingUse, type NameUses, type PlacementUse } from './names/uses.js';
export {
  CAUSE_PHRASES,
  mergeDeclaration,
  parseDeclaration,
  printDeclaration,
  printWholeDeclaration,
  type Declaration,
  type DeclarationKind,
} from './wireline/declaration.js';
export { oneForEachValue } from './edit/for-each-value.js';
export { completeProjectLine, PROJECT_BEGINNINGS } from './wireline/complete-project-line.js';
export { completeDeclaration } from './wireline/complete-declaration.js';
export { defaultOfType, valuesOfType } from './project/type-values.js';
export {
  asksOrder,
  conditionFaults,
  hasConditions,
  holds,
  type ConditionFault,
} from './project/condition.js';
export {
  printAsked,
  printCondition,
  printConditionName,
  printConditions,
  TEST_SIGNS,
} from './wireline/conditions.js';
export {
  parseEffect,
  parseFields,
  printEffect,
  printFields,
  printGuard,
  type ParsedText,
} from './wireline/declared.js';
export {
  reachedNames,
  rippleOf,
  type Ripple,
  type RippleAsk,
  type RippleEntry,
  type RippleLink,
} from './ripple/ripple.js';
export type { Heaviest, HeaviestStep } from './ripple/heaviest.js';
export { proofTracks, nodeName, type ProofRow, type ProofTrack } from './proof/proof-rows.js';
export { namesText, type NamesText } from './proof/names-text.js';
export { bindingWords } from './wireline/binding-words.js';
export {
  fittedBackdrop,
  MOST_PICTURE_BYTES,
  MOST_PICTURES,
  PICTURE_NAME,
  pictureKind,
  PICTURES_FOLDER,
  picturesOf,
  pictureType,
  scaledBackdrop,
  type PictureKind,
} from './project/pictures.js';
export { parseStep, printStep, stepOfAnother, type StepAction } from './wireline/step-line.js';
export { missingFields } from './rehearse/missing-fields.js';
export { mistakeOf, mistakesOf, type Mistake } from './audit/same-mistake.js';
export type { RippleStart } from './ripple/start.js';
export { narrowed, type RippleFilter } from './ripple/narrow.js';
export {
  layRipple,
  spreadOf,
  type RippleAxis,
  type RippleColumn,
  type RippleLayout,
} from './ripple/layout.js';
export { rippleMoments, type RippleMoment } from './ripple/moments.js';
export { delayText, entryNotes, type EntryNotes, type ReturnNote } from './ripple/notes.js';
export { chainText } from './graph/chain-parts.js';
export { entryText, entryWords, rippleLines, type RippleLine } from './ripple/lines.js';
export { cureAlike, MOST_ALIKE, type CureOfMany } from './fix/alike.js';
export { waiverStates, type WaiverState } from './audit/waiver-states.js';
export { figuresOf, type Bucket, type Figures } from './audit/figures.js';
export { patternFault } from './project/name-pattern.js';
export {
  coverageOf,
  rehearse,
  runRehearsals,
  traceText,
  type BindingAt,
  type BindingCoverage,
  type Coverage,
  type RehearsalHead,
  type RehearsalsResult,
  type TraceLine,
} from './rehearse/rehearse.js';
export {
  wasRun,
  type CycleStep,
  type NotRun,
  type TraceRecord,
  type Values,
  type Verdict,
} from './rehearse/records.js';
export {
  cycleText,
  expectedText,
  failsRehearsal,
  recordText,
  secondsText,
  verdictText,
  whyNot,
} from './rehearse/words.js';
export {
  recordLine,
  rehearsalsJunit,
  RehearsalReports,
  rehearsalsText,
  type RehearsalReport,
} from './export/rehearsals.js';
export { staysInside, wayLength, type Stay } from './plan/crossing.js';
export {
  compareRuns,
  expectationOf,
  statesAfter,
  StateTally,
  type RunDifference,
  type StateChange,
} from './rehearse/states.js';
export { walkSteps, type Walk } from './walk/walk-steps.js';
export { atHand, startBeside, walkScene, type WalkScene, type WalkPlace } from './walk/walk-scene.js';
export { Walker, type Touch } from './walk/walker.js';
export {
  LiveWalk,
  type StepBody,
  type WalkEnd,
  type WalkSetting,
  type WalkSoFar,
  type WalkWiring,
  type WayPoint,
} from './walk/live-walk.js';
export { PlayObserver, TOLERANCE, type ObserverOptions } from './plays/observer.js';
export { ReportSum } from './plays/report-sum.js';
export { LineSplitter } from './plays/line-splitter.js';
export { playText } from './plays/words.js';
export { servedInPlays } from './plays/served.js';
export { readPlayLine, type PlayLine, type PlayRecord } from './plays/record-line.js';
export { codeBinding, playedByAsset, servedInPlay, type PlayedAsset } from './plays/offer.js';
export { missingText } from './plays/words.js';
export type { PlayReport } from './plays/play-report.js';
export { scenesLoadedWith } from './project/load-sets.js';
export { walkersOf } from './walk/walkers.js';
export { walkWiring } from './walk/walk-wiring.js';
export {
  deliveryTable,
  type DeliveryAct,
  type DeliveryRow,
  type DeliveryTable,
} from './rehearse/delivery-table.js';
export { startNodes } from './ripple/start.js';
export { positionOf } from './expand/position.js';
export { catalogueOf } from './catalogue/entries.js';
export {
  CATALOGUE_KINDS,
  CATALOGUE_MARKS,
  type CatalogueEntry,
  type CatalogueKind,
  type CatalogueMark,
  type CatalogueUse,
} from './catalogue/entry.js';
export { usesOfEntry } from './catalogue/uses.js';
export {
  changeFields,
  changeItems,
  mergeEntries,
  arrangeDeclaration,
  moveEntry,
  nameOfEntry,
  noteEntry,
  retireEntry,
  type EntryRef,
} from './catalogue/edits.js';
export { catalogueCsv, catalogueHtml, catalogueJson } from './export/catalogue.js';
export {
  CROSSING_GROUPS,
  crossingsOf,
  NO_TAG,
  type CrossingCell,
  type CrossingGroup,
  type Crossings,
} from './crossings/crossings.js';
export { CROSSING_ORDERS, orderGroups, type CrossingOrder } from './crossings/order.js';
export { causeText } from './project/cause-text.js';
export {
  compareProjects,
  withLaterNames,
  type Difference,
  type DifferenceCounts,
  type DifferenceGroup,
  type DifferenceHow,
  type DifferenceLine,
  type DifferenceOf,
} from './compare/compare.js';
export { changesBetween } from './compare/changes.js';
export { sidesOf, type Side } from './compare/sides.js';
export { bindingsCsv } from './export/bindings.js';
export { differenceText } from './export/difference.js';
export { CsvFault, readCsvTable, type CsvCells, type CsvTable } from './exchange/csv-table.js';
export {
  CSV_FIELDS,
  csvChanges,
  guessMapping,
  readCsvBindings,
  type CsvField,
  type CsvMapping,
  type CsvRow,
  type CsvRowFault,
} from './exchange/csv-bindings.js';
export { nameFromText, type NamedKind } from './project/typed-name.js';
export { assetInside } from './project/inside.js';
export { withInside } from './edit/inside.js';
export { freePlace } from './plan/free-place.js';
export { declareFor, type Declared } from './declare/declare.js';
export { needKey, type Need, type NeedKind, type Wish, type Wishes } from './declare/needs.js';
export { isManifestText, readManifestText, type ReadManifest } from './manifest/read-manifest.js';
export { mergeManifest, MergeRefused, type Merged } from './manifest/merge.js';
export { withoutMarks } from './manifest/marks.js';
export { dangling, mergeText } from './manifest/merge-text.js';
export { assetLines, chosenLines, projectLines, type LinesText } from './lines/print-lines.js';
export { lineKind, type LineKind } from './lines/line-kind.js';
export { textKind } from './lines/text-kind.js';
export { readLines, type ReadLine, type ReadLines } from './lines/read-lines.js';
export { TABLE_KINDS, type TableKind } from './tables/kind.js';
export {
  fieldsOf,
  guessTableKind,
  guessTableMapping,
  TABLES,
  type AnyKind,
  type AnyTable,
  type TableMapping,
} from './tables/tables.js';
export { propertyOfHeading } from './tables/placements.js';
export { dotText, mermaidText, pathDiagram, rippleDiagram, type Diagram } from './export/diagram.js';
export { MARKS, type Mark } from './project/marks.js';
export { markOf, monograms } from './project/mark-of.js';
export { sightLines, type SightEnd, type SightLine } from './plan/sight-lines.js';
export { readTable, type TableAsk, type TableRead } from './tables/read-table.js';
export type { TableRow } from './tables/table-row.js';
export { readBindings, type BindingsRead } from './tables/read-bindings.js';
export { unusedDeclarations, withoutUnused, type Unused } from './tables/unused.js';
export { tableCsv } from './tables/write-table.js';
export { makeForRows, type CsvMade } from './exchange/csv-making.js';
export { sourceOf, sourceOfName, sourceText } from './audit/source-of.js';
export { isMisspelt } from './declare/misspelt.js';
export { needsText, readNote, type Note, type NoteAsk, type NoteLine } from './declare/note.js';
export {
  compileSteps,
  compileWiring,
  projectHash,
  sceneFile,
  type CompiledWiring,
  type CompileOptions,
} from './compile/compile.js';
export { wiringFiles, WIRING_FILE } from './compile/write.js';
export { wiringJsonSchema } from './compile/wiring-schema.js';
export { typescriptNames } from './typed-names/typescript.js';
export { namesJsonSchema } from './typed-names/json-schema.js';
export { asyncApi } from './typed-names/asyncapi.js';
export { conformanceCase } from './compile/conformance.js';
