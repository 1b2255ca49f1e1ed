import { LIMITS } from '../limits.js';
import {
  arg,
  asked,
  askedProperty,
  fields,
  seconds,
  type,
  value,
  valueOrParam,
  fromGame,
} from './value-shapes.js';
import { name } from './name.js';
import {
  bool,
  byKey,
  byTag,
  explained,
  finite,
  leaf,
  list,
  literalOr,
  mapOf,
  named,
  object,
  oneOf,
  optional,
  prose,
  refine,
  text,
  wholeAtLeast,
  yes,
  type Shape,
} from './shape.js';
import type * as T from './types.js';

export const property: Shape<T.Property> = named(
  'property',
  'A property of every instance of an asset.',
  explained(
    object<T.Property>({
      name,
      type,
      default: value,
      isKey: optional(bool),
      unique: optional(bool),
      ...fromGame,
    }),
    {
      default: 'The value that an instance has unless its placement gives another.',
      isKey: 'Its value narrows channels and selections.',
      unique: 'Two instances that can be loaded together should not have the same value.',
    },
  ),
);

const activated = object<{ type: string; activators?: string[] }>({
  type: text,
  activators: optional(list(text)),
});
const plainCause = object<{ type: string }>({ type: text });
/** Time is kept in whole microseconds, so a shorter period would never let time pass. */
const period = leaf<number>(
  'a period in seconds, from one microsecond to thirty years',
  { type: 'number', minimum: 5e-7, maximum: LIMITS.document.seconds },
  (v) =>
    Number.isFinite(v) && Math.round((v as number) * 1e6) >= 1 && (v as number) <= LIMITS.document.seconds,
);
const cause = byTag<T.Cause>('type', {
  'area-enter': activated,
  'area-leave': activated,
  use: activated,
  press: plainCause,
  start: plainCause,
  destroyed: plainCause,
  timer: object<{ type: string; every: number }>({ type: text, every: period }),
  change: object<{ type: string; property: string }>({ type: text, property: text }),
  code: plainCause,
  raised: plainCause,
});

const roleList = list(oneOf('authority', 'operator', 'others'));
function roles<W extends string>(...words: W[]): Shape<W | Exclude<T.Roles, 'everyone'>> {
  return literalOr(
    oneOf(...words),
    byKey<Exclude<T.Roles, 'everyone'>>({
      only: object<{ only: T.Role[] }>({ only: roleList }),
      except: object<{ except: T.Role[] }>({ except: roleList }),
    }),
  );
}
const delivery = object<T.Delivery>({
  send: optional(roles('everyone', 'nobody')),
  to: optional(roles('everyone', 'raiser')),
  reliable: optional(bool),
});
const eventParts = {
  name,
  payload: optional(fields),
  limit: optional(wholeAtLeast(0)),
  raisedInPause: optional(bool),
  expectsListener: optional(bool),
  delivery: optional(delivery),
  note: optional(prose),
  ...fromGame,
};
export const event: Shape<T.EventDecl> = named(
  'event',
  'What a sender can say.',
  explained(object<T.EventDecl>({ ...eventParts, cause }), {
    cause: 'What raises it.',
    payload: 'What it carries.',
    limit: 'It is raised at most so many times by each instance.',
    raisedInPause: 'It is raised while the game is paused, too.',
    expectsListener: 'The audit reports it where nothing listens.',
    delivery: 'Which peers may raise it, and which get it.',
  }),
);
export const manifestEvent = object<T.ManifestEvent>({ ...eventParts, cause: optional(cause) });

const guard = {
  when: optional(
    byKey<NonNullable<T.EffectGuard['when']>>({
      property: askedProperty,
      param: object<{ param: string; is: T.Asked }>({ param: text, is: asked }),
    }),
  ),
  everyNth: optional(wholeAtLeast(2)),
};
const effect = named(
  'effect',
  'What an action does.',
  byKey<T.Effect>({
    set: object<T.EffectGuard & { set: string; to: T.Value | { param: string } }>({
      ...guard,
      set: text,
      to: valueOrParam(value),
    }),
    toggle: object<T.EffectGuard & { toggle: string }>({ ...guard, toggle: text }),
    add: object<T.EffectGuard & { add: string; by: number | { param: string } }>({
      ...guard,
      add: text,
      by: valueOrParam(finite),
    }),
    raise: refine(
      object<T.EffectGuard & Extract<T.EffectBody, { raise: string }>>({
        ...guard,
        raise: text,
        delay: optional(seconds),
        restart: optional(yes),
        payload: optional(mapOf(arg)),
      }),
      ({ restart, delay = 0 }, reading) => {
        if (restart !== true || delay > 0) return;
        reading.path.push('delay');
        reading.failText('a delay above 0, since only a raise that waits can begin again', String(delay));
        reading.path.pop();
      },
      {
        if: { required: ['restart'] },
        then: { required: ['delay'], properties: { delay: { type: 'number', exclusiveMinimum: 0 } } },
      },
    ),
    wake: object<T.EffectGuard & { wake: true }>({ ...guard, wake: yes }),
    sleep: object<T.EffectGuard & { sleep: true }>({ ...guard, sleep: yes }),
    destroy: object<T.EffectGuard & { destroy: true }>({ ...guard, destroy: yes }),
    spawn: object<T.EffectGuard & { spawn: string; properties?: Record<string, T.Value> }>({
      ...guard,
      spawn: text,
      properties: optional(mapOf(value)),
    }),
  }),
);
export const action: Shape<T.Action> = named(
  'action',
  'What a receiver can do.',
  explained(
    object<T.Action>({
      name,
      params: optional(fields),
      expectsSender: optional(bool),
      whileAsleep: optional(bool),
      effects: optional(list(effect)),
      note: optional(prose),
      ...fromGame,
    }),
    {
      params: 'What it takes.',
      expectsSender: 'The audit reports it where nothing triggers it.',
      whileAsleep: 'It is performed while its instance is asleep, too.',
      effects: 'What it does, in order.',
    },
  ),
);
