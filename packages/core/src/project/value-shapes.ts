import {
  bool,
  byKey,
  finite,
  label,
  leaf,
  list,
  literalOr,
  matching,
  named,
  object,
  oneOf,
  optional,
  secondsAtLeast,
  text,
  wholeAtLeast,
  yes,
  type Shape,
} from './shape.js';
import type * as T from './types.js';

export const type = named(
  'type',
  'The type of a value: bool, int, float, string, vec2, instance, enum:Name or key:Table.',
  matching<T.Type>(
    'a type (bool, int, float, string, vec2, instance, enum:Name or key:Table)',
    /^(bool|int|float|string|vec2|instance|(enum|key):[\s\S]+)$/,
  ),
);
const primitive = leaf<boolean | number | string | T.Vec2>(
  'a value (true, false, a finite number, a text or two numbers)',
  {
    anyOf: [
      { type: 'boolean' },
      { type: 'number' },
      { type: 'string' },
      { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 },
    ],
  },
  (v) => typeof v === 'boolean' || typeof v === 'string' || Number.isFinite(v) || isVec2(v),
);
function isVec2(v: unknown): boolean {
  return Array.isArray(v) && v.length === 2 && Number.isFinite(v[0]) && Number.isFinite(v[1]);
}
export const value: Shape<T.Value> = named(
  'value',
  'True or false, a number, a text, or two numbers.',
  primitive,
);
const asText = oneOf('string');
export const arg: Shape<T.Arg> = named(
  'argument',
  'A value, or where it is read: in the payload, in a property of the sender, or the sender itself.',
  literalOr(
    value,
    byKey<Exclude<T.Arg, T.Value>>({
      payload: object<{ payload: string; as?: 'string' }>({ payload: text, as: optional(asText) }),
      property: object<{ property: string; as?: 'string' }>({ property: text, as: optional(asText) }),
      sender: object<{ sender: true }>({ sender: yes }),
    }),
  ),
);
export const keyExpr: Shape<T.KeyExpr> = literalOr(value, object<{ property: string }>({ property: text }));
export function valueOrParam<L>(literal: Shape<L>): Shape<L | { param: string }> {
  return literalOr(literal, object<{ param: string }>({ param: text }));
}

const field = named(
  'field',
  'A field of a payload, or a parameter of an action.',
  object<T.Field>({ name: label, type, optional: optional(bool) }),
);
export const fields = list(field, 'name');
export const seconds = secondsAtLeast(0);
/** Where the game declares something; see {@link T.FromGame}. */
export const source = named(
  'source',
  'Where the game declares something.',
  object<T.Source>({ file: text, line: optional(wholeAtLeast(1)) }),
);
export const fromGame = { origin: optional(label), source: optional(source) };

export const asked: Shape<T.Asked> = named(
  'asked',
  'A value to be equal to, or a test.',
  literalOr(
    value,
    byKey<T.Test>({
      not: object<{ not: T.Value }>({ not: value }),
      oneOf: object<{ oneOf: T.Value[] }>({ oneOf: list(value) }),
      under: object<{ under: number }>({ under: finite }),
      atMost: object<{ atMost: number }>({ atMost: finite }),
      over: object<{ over: number }>({ over: finite }),
      atLeast: object<{ atLeast: number }>({ atLeast: finite }),
    }),
  ),
);
export const askedProperty = object<{ property: string; is: T.Asked }>({ property: text, is: asked });
