/** The lines of text in which bindings, declarations and whole projects are written and read. */
export { lineKind, type LineKind } from '../lines/line-kind.js';
export { assetLines, chosenLines, projectLines, type LinesText } from '../lines/print-lines.js';
export { readLines, type ReadLine, type ReadLines } from '../lines/read-lines.js';
export { textKind } from '../lines/text-kind.js';
export { guessArg, guessMatch, parseArg, suggestArgs, type ParsedArg } from '../wireline/argument.js';
export { parseAssetHead, printAssetHead, type AssetHead } from '../wireline/asset-line.js';
export { bindingWords } from '../wireline/binding-words.js';
export { checkLine } from '../wireline/check.js';
export { completeDeclaration } from '../wireline/complete-declaration.js';
export { completeProjectLine, PROJECT_BEGINNINGS } from '../wireline/complete-project-line.js';
export {
  afterCompletion,
  completeConditions,
  completeWireLine,
  type Completion,
  type Completions,
} from '../wireline/complete.js';
export {
  printAsked,
  printCondition,
  printConditionName,
  printConditions,
  TEST_SIGNS,
} from '../wireline/conditions.js';
export {
  CAUSE_PHRASES,
  mergeDeclaration,
  parseDeclaration,
  printDeclaration,
  printWholeDeclaration,
  type Declaration,
  type DeclarationKind,
} from '../wireline/declaration.js';
export {
  parseEffect,
  parseFields,
  printEffect,
  printFields,
  printGuard,
  type ParsedText,
} from '../wireline/declared.js';
export { parseConditions, parseWireLine, type LineBinding, type ParsedLine } from '../wireline/parse.js';
export { readWireLines, type PastedLine } from '../wireline/paste.js';
export { isPlacementLine, parsePlacement, printPlacement } from '../wireline/placement.js';
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
} from '../wireline/print.js';
export { printWireLine } from '../wireline/print.js';
export { declareInProject, parseProjectLine, type ProjectDeclaration } from '../wireline/project-line.js';
export { WireLineFault } from '../wireline/scanner.js';
export { printStage, readStage, type StageLines } from '../wireline/stage-lines.js';
export { parseStep, printStep, stepOfAnother, type StepAction } from '../wireline/step-line.js';
