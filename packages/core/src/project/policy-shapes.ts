import {
  atLeast,
  bool,
  leaf,
  list,
  mapOf,
  object,
  oneOf,
  optional,
  prose,
  refine,
  text,
  yes,
} from './shape.js';
import { patternFault } from './name-pattern.js';
import { ISO_DATE, isIsoDate } from './iso-date.js';
import type * as T from './types.js';

const pattern = refine(text, (source, reading) => {
  const fault = patternFault(source);
  if (fault !== null) reading.failText(fault, JSON.stringify(source.slice(0, 60)));
});
const threshold = atLeast(0, 'a number');
export const policy = object<T.Policy>({
  maxFanOut: optional(threshold),
  maxChain: optional(threshold),
  maxReach: optional(threshold),
  maxTangle: optional(threshold),
  names: optional(
    object<NonNullable<T.Policy['names']>>({
      event: optional(pattern),
      action: optional(pattern),
      channel: optional(pattern),
      placement: optional(pattern),
      asset: optional(pattern),
    }),
  ),
  severity: optional(mapOf(oneOf('error', 'warning', 'info', 'off'))),
  gate: optional(oneOf('error', 'warning')),
  rehearsals: optional(bool),
});
const isoDate = leaf<string>(
  'a date such as 2026-11-24',
  { type: 'string', pattern: ISO_DATE.source, format: 'date' },
  isIsoDate,
);
export const waiver = object<T.Waiver>({
  fingerprint: text,
  reason: prose,
  by: text,
  until: optional(isoDate),
  occurrences: optional(list(text)),
  proposed: optional(yes),
});
