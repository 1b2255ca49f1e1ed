import {
  atLeast,
  bool,
  explained,
  leaf,
  list,
  mapOf,
  named,
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
export const policy = named(
  'policy',
  'Thresholds, naming patterns and severities.',
  explained(
    object<T.Policy>({
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
    }),
    {
      maxFanOut: 'So many actions one event may reach directly.',
      maxChain: 'So many hops a chain may have.',
      maxReach: 'So many actions one event may reach in any number of hops.',
      maxTangle: 'So many bindings may tie two assets in both directions.',
      names: 'Regular expressions for names, by kind.',
      severity: 'Severities by rule or rule/class.',
      gate: 'The severity from which findings stop a build.',
      rehearsals: 'A rehearsal that fails stops a build.',
    },
  ),
);
const isoDate = leaf<string>(
  'a date such as 2026-11-24',
  { type: 'string', pattern: ISO_DATE.source, format: 'date' },
  isIsoDate,
);
export const waiver = named(
  'waiver',
  'A finding that is accepted on purpose.',
  explained(
    object<T.Waiver>({
      fingerprint: text,
      reason: prose,
      by: text,
      until: optional(isoDate),
      occurrences: optional(list(text)),
      proposed: optional(yes),
    }),
    {
      until: 'The day at which it ends.',
      proposed: 'It is only proposed.',
    },
  ),
);
