import { arg, asked, askedProperty, keyExpr, seconds } from './value-shapes.js';
import { name } from './name.js';
import {
  bool,
  byKey,
  explained,
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
  type Shape,
} from './shape.js';
import type * as T from './types.js';

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
