import type { Naive } from '../naive.js';
import { ofAreas } from './areas.js';
import { ofChains } from './chains.js';
import { ofCodeBindings } from './code-bindings.js';
import { ofKeys } from './keys.js';
import { ofListening } from './listening.js';
import { ofLiveness } from './liveness.js';
import { ofMeetings } from './meetings.js';
import { ofNetwork } from './network.js';
import { NaiveReading, type SecondReading } from './reading.js';
import { ofSelections } from './selections.js';
import { ofShape } from './shape.js';
import { ofWrittenBindings } from './written-bindings.js';
import { ofWrittenEffects } from './written-effects.js';
import { ofWrittenEnds } from './written-ends.js';
import { ofWrittenNames } from './written-names.js';
import { ofWrittenPlacements } from './written-placements.js';

/** In this order: what has no listener is reported by what liveness found. */
const READINGS: readonly SecondReading[] = [
  ofLiveness,
  ofShape,
  ofChains,
  ofKeys,
  ofMeetings,
  ofNetwork,
  ofAreas,
  ofCodeBindings,
  ofSelections,
  ofListening,
  ofWrittenBindings,
  ofWrittenEffects,
  ofWrittenPlacements,
  ofWrittenEnds,
  ofWrittenNames,
];

/** The rules that are read a second time, for plainness alone. */
export const SECOND_RULES: readonly string[] = READINGS.flatMap((r) => r.rules);

/** What a second reading of these rules finds: rule, class, subject and occurrences as texts, sorted. */
export function readAgain(n: Naive): string[] {
  const reading = new NaiveReading(n);
  for (const { read } of READINGS) read(reading);
  return [...reading.found].map(([k, at]) => `${k} ${[...at].sort().join(' ')}`).sort();
}
