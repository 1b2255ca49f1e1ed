/** Dry runs, walks in the time of the game, and plays that games have written. */
export { LineSplitter } from '../plays/line-splitter.js';
export { PlayObserver, TOLERANCE, type ObserverOptions } from '../plays/observer.js';
export { codeBinding, playedByAsset, servedInPlay, type PlayedAsset } from '../plays/offer.js';
export type { PlayReport } from '../plays/play-report.js';
export { readPlayLine, type PlayLine, type PlayRecord } from '../plays/record-line.js';
export { ReportSum } from '../plays/report-sum.js';
export { servedInPlays } from '../plays/served.js';
export { playText } from '../plays/words.js';
export { missingText } from '../plays/words.js';
export {
  deliveryTable,
  type DeliveryAct,
  type DeliveryRow,
  type DeliveryTable,
} from '../rehearse/delivery-table.js';
export { missingFields } from '../rehearse/missing-fields.js';
export {
  wasRun,
  type CycleStep,
  type NotRun,
  type TraceRecord,
  type Values,
  type Verdict,
} from '../rehearse/records.js';
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
} from '../rehearse/rehearse.js';
export {
  compareRuns,
  expectationOf,
  statesAfter,
  StateTally,
  type RunDifference,
  type StateChange,
} from '../rehearse/states.js';
export {
  cycleText,
  expectedText,
  failsRehearsal,
  recordText,
  secondsText,
  verdictText,
  whyNot,
} from '../rehearse/words.js';
export {
  LiveWalk,
  type StepBody,
  type WalkEnd,
  type WalkSetting,
  type WalkSoFar,
  type WalkWiring,
  type WayPoint,
} from '../walk/live-walk.js';
export { atHand, startBeside, walkScene, type WalkScene, type WalkPlace } from '../walk/walk-scene.js';
export { walkSteps, type Walk } from '../walk/walk-steps.js';
export { walkWiring } from '../walk/walk-wiring.js';
export { Walker, type Touch } from '../walk/walker.js';
export { walkersOf } from '../walk/walkers.js';
