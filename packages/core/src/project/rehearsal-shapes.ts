import {
  bool,
  byKey,
  explained,
  label,
  list,
  mapOf,
  named,
  object,
  optional,
  prose,
  refine,
  text,
  wholeAtLeast,
  type Shape,
} from './shape.js';
import { put } from '../util/own.js';
import type * as T from './types.js';
import { seconds, value } from './value-shapes.js';

/** An object with these properties and without those. */
function only(required: readonly string[], without: readonly string[]): object {
  const properties: Record<string, boolean> = {};
  for (const name of required) put(properties, name, true);
  for (const name of without) put(properties, name, false);
  return { type: 'object', required, properties };
}
const expectation = refine(
  object<{
    at: string;
    property?: string;
    is?: T.Value;
    asleep?: boolean;
    gone?: boolean;
    action?: string;
    times?: number;
  }>({
    at: text,
    property: optional(text),
    is: optional(value),
    asleep: optional(bool),
    gone: optional(bool),
    action: optional(text),
    times: optional(wholeAtLeast(0)),
  }),
  (e, reading) => {
    byKey({
      property: object<{ property: string; is: T.Value }>({ property: text, is: value }, ['at']),
      asleep: object<{ asleep: boolean }>({ asleep: bool }, ['at']),
      gone: object<{ gone: boolean }>({ gone: bool }, ['at']),
      action: object<{ action: string; times: number }>({ action: text, times: wholeAtLeast(0) }, ['at']),
    }).check(e, reading);
  },
  {
    type: 'object',
    oneOf: [
      only(['property', 'is'], ['asleep', 'gone', 'action']),
      only(['asleep'], ['property', 'gone', 'action']),
      only(['gone'], ['property', 'asleep', 'action']),
      only(['action', 'times'], ['property', 'asleep', 'gone']),
    ],
  },
) as Shape<T.Expectation>;

const values = mapOf(value);
type RaiseStep = Extract<T.Step, { raise: unknown }>;
type PublishStep = Extract<T.Step, { publish: unknown }>;
const step = named(
  'step',
  'One step of a rehearsal.',
  byKey<T.Step>({
    raise: object<RaiseStep>({
      at: seconds,
      raise: object<RaiseStep['raise']>({
        at: text,
        event: text,
        payload: optional(values),
        activator: optional(text),
        by: optional(text),
      }),
    }),
    publish: object<PublishStep>({
      at: seconds,
      publish: object<PublishStep['publish']>({
        channel: text,
        key: optional(value),
        payload: optional(values),
      }),
    }),
    expect: object<{ at: number; expect: T.Expectation }>({ at: seconds, expect: expectation }),
    pause: object<{ at: number; pause: boolean }>({ at: seconds, pause: bool }),
  }),
);
export const rehearsal = named(
  'rehearsal',
  'A scripted dry run.',
  explained(
    object<T.Rehearsal>({
      name: label,
      note: optional(prose),
      loadSet: optional(text),
      strict: optional(bool),
      steps: list(step),
    }),
    {
      loadSet: 'The load set that it runs in.',
      strict: 'It fails if anything is lost or refused in it.',
      steps: 'What happens at which second, and what is expected then.',
    },
  ),
);
