import {
  atLeast,
  bool,
  byKey,
  byTag,
  explained,
  finite,
  label,
  leaf,
  list,
  literalOr,
  mapOf,
  matching,
  named,
  object,
  oneOf,
  optional,
  prose,
  refine,
  secondsAtLeast,
  text,
  vec2,
  wholeAtLeast,
  yes,
  type Shape,
} from './shape.js';
import { LIMITS } from '../limits.js';
import { MARKS } from './marks.js';
import { PICTURE_NAME } from './pictures.js';
import type * as T from './types.js';
import { name } from './name.js';

const type = named(
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
const arg: Shape<T.Arg> = named(
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
const keyExpr: Shape<T.KeyExpr> = literalOr(value, object<{ property: string }>({ property: text }));
function valueOrParam<L>(literal: Shape<L>): Shape<L | { param: string }> {
  return literalOr(literal, object<{ param: string }>({ param: text }));
}

const field = named(
  'field',
  'A field of a payload, or a parameter of an action.',
  object<T.Field>({ name: label, type, optional: optional(bool) }),
);
export const fields = list(field, 'name');
export const seconds = secondsAtLeast(0);
const area = byKey<T.Area>({
  circle: object<{ circle: number }>({ circle: atLeast(0, 'a radius in metres') }),
  rect: object<{ rect: T.Vec2 }>({ rect: vec2 }),
  polygon: object<{ polygon: T.Vec2[] }>({ polygon: list(vec2, undefined, 0, LIMITS.document.corners) }),
});

/** Where the game declares something; see {@link T.FromGame}. */
export const source = named(
  'source',
  'Where the game declares something.',
  object<T.Source>({ file: text, line: optional(wholeAtLeast(1)) }),
);
export const fromGame = { origin: optional(label), source: optional(source) };

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

const asked: Shape<T.Asked> = named(
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
const askedProperty = object<{ property: string; is: T.Asked }>({ property: text, is: asked });
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

export const placement: Shape<T.Placement> = named(
  'placement',
  'One use of a prefab or widget inside an asset.',
  explained(
    object<T.Placement>({
      id: name,
      asset: text,
      at: optional(vec2),
      area: optional(area),
      asleep: optional(bool),
      properties: optional(mapOf(value)),
      inside: optional(mapOf(mapOf(value))),
      muted: optional(list(text)),
      authority: optional(text),
      operator: optional(text),
      entry: optional(bool),
      note: optional(prose),
      ...fromGame,
    }),
    {
      id: 'Its name, once in the asset.',
      asset: 'The id of what is placed.',
      at: 'Where it stands, in metres.',
      area: 'Its zone, in place of the asset’s.',
      asleep: 'It begins asleep.',
      properties: 'Values that differ from the defaults.',
      inside: 'Values of what stands inside of it, by path.',
      muted: 'Ids of bindings of the asset that do not act here.',
      authority: 'The peer that keeps it.',
      operator: 'The peer whose input steers it.',
      entry: 'Players start here.',
    },
  ),
);

const channelEnd = object<T.ChannelEnd>({ channel: text, key: optional(keyExpr) });
const from = byKey<T.BindingFrom>({
  at: object<T.EventSource>({ at: text, event: text }),
  channel: channelEnd,
});
const to = byKey<T.BindingTo>({
  at: object<T.InstanceTarget>({ at: text, action: text }),
  every: object<T.SelectionTarget>({
    every: text,
    action: text,
    within: optional(oneOf('asset', 'project')),
    pick: optional(oneOf('all', 'first')),
    match: optional(
      literalOr(
        oneOf('all'),
        object<{ property: string; equals: T.KeyExpr }>({ property: text, equals: keyExpr }),
      ),
    ),
    spawned: optional(bool),
  }),
  channel: channelEnd,
});
export const binding: Shape<T.Binding> = named(
  'binding',
  'When this event is raised, or this channel is published to, do that.',
  refine(
    explained(
      object<T.Binding>({
        id: name,
        from,
        to,
        args: optional(mapOf(arg)),
        limit: optional(wholeAtLeast(1)),
        delay: optional(seconds),
        if: optional(
          list(
            byKey<T.Condition>({
              payload: object<{ payload: string; is: T.Asked }>({ payload: text, is: asked }),
              property: askedProperty,
            }),
          ),
        ),
        enabled: optional(bool),
        origin: optional(oneOf('authored', 'code')),
        bind: optional(oneOf('load', 'start')),
        release: optional(oneOf('own', 'all', 'never')),
        note: optional(prose),
      }),
      {
        from: 'The event, or the channel that is heard.',
        to: 'The action of a receiver or of a selection, or the channel that is published to.',
        args: 'Arguments by the name of the parameter or field.',
        limit: 'It triggers at most so many times.',
        delay: 'Seconds until it acts.',
        if: 'All of this must hold.',
        enabled: 'Whether it acts at all.',
        origin: 'Whether it is made in code.',
        bind: 'When a binding in code becomes active.',
        release: 'What a binding in code releases when its owner ends.',
      },
    ),
    (b, reading) => {
      if ('channel' in b.from && 'channel' in b.to) {
        reading.path.push('to');
        reading.failText(
          'a receiver, since what is heard on a channel cannot be published again',
          `the channel ${JSON.stringify(b.to.channel)}`,
        );
        reading.path.pop();
      }
    },
    {
      type: 'object',
      not: {
        type: 'object',
        properties: {
          from: { type: 'object', properties: { channel: true }, required: ['channel'] },
          to: { type: 'object', properties: { channel: true }, required: ['channel'] },
        },
      },
    },
  ),
);

/** What assets of a project and of a manifest declare alike, in the order of the format. */
export const assetHead = {
  id: name,
  kind: oneOf('scene', 'prefab', 'widget'),
  tags: optional(list(text)),
  note: optional(prose),
  mark: optional(oneOf(...MARKS)),
  persistent: optional(bool),
  runsInPause: optional(bool),
  existsOn: optional(oneOf('all', 'authority')),
  size: optional(vec2),
  backdrop: optional(
    object<T.Backdrop>({
      picture: matching(
        'the file name of a picture, such as "0123456789abcdef0123456789abcdef.png"',
        PICTURE_NAME,
      ),
      at: vec2,
      size: vec2,
      dim: optional(atLeast(0)),
    }),
  ),
  area: optional(area),
  properties: optional(list(property, 'name')),
};
export const assetLists = {
  actions: optional(list(action, 'name')),
  placements: optional(list(placement, 'id')),
};
export const asset: Shape<T.Asset> = named(
  'asset',
  'A scene, a prefab or a widget.',
  explained(
    object<T.Asset>({
      ...assetHead,
      events: optional(list(event, 'name')),
      ...assetLists,
      bindings: optional(list(binding, 'id')),
      ...fromGame,
    }),
    {
      id: 'Its name, once in the project.',
      properties: 'What its instances have.',
      events: 'What its instances can say.',
      actions: 'What its instances can do.',
      placements: 'What stands in it, in order.',
      bindings: 'What it binds, in running order.',
    },
  ),
);
