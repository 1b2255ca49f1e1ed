import { FORMAT } from '@oquel/runtime';
import type { JsonSchema } from '../project/shape.js';
import { column, list, micros, only, record, ref, text } from './schema-parts.js';

const HEAD = {
  format: only(FORMAT, 'The format and its version. A reader refuses a version that it does not know.'),
  hash: {
    type: 'string',
    pattern: '^[0-9a-f]{64}$',
    description:
      'SHA-256 of the canonical JSON of the project. Files of one compilation have the same hash; a game refuses to load a scene with another one.',
  },
};
const FIELDS = list(
  record(['name', 'type'], {
    name: text('Name of the field.'),
    type: ref('type'),
    optional: only(true, 'It may be left out.'),
  }),
  'Fields, in order.',
);
const ASKED = {
  description: 'A value, to be equal to it, or a test.',
  anyOf: [
    ref('value'),
    ...['not', 'under', 'atMost', 'over', 'atLeast'].map((test) => record([test], { [test]: ref('value') })),
    record(['oneOf'], { oneOf: list(ref('value'), 'One of these.') }),
  ],
};
const ROLES = {
  anyOf: [
    { enum: ['everyone', 'nobody', 'raiser'] },
    record(['only'], { only: list({ enum: ['authority', 'operator', 'others'] }, 'These roles.') }),
    record(['except'], {
      except: list({ enum: ['authority', 'operator', 'others'] }, 'All but these roles.'),
    }),
  ],
};
const DEFINITIONS = {
  value: {
    description: 'A value: true or false, a number, a string, or two numbers.',
    anyOf: [
      { type: 'boolean' },
      { type: 'number' },
      { type: 'string' },
      { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 },
    ],
  },
  values: { type: 'object', additionalProperties: ref('value'), description: 'Values by name.' },
  type: { type: 'string', description: 'bool, int, float, string, vec2, instance, enum:Name or key:Table.' },
  argument: {
    description:
      'A value, a field of what is carried, a property of the sender, or the address of the sender.',
    anyOf: [
      ref('value'),
      record(['payload'], { payload: text('Field of the payload.'), as: only('string', 'As a string.') }),
      record(['property'], {
        property: text('Property of the sender; of the owner where a channel is heard.'),
        as: only('string', 'As a string.'),
      }),
      record(['sender'], { sender: only(true, 'The address of the sender.') }),
    ],
  },
  arguments: {
    type: 'object',
    additionalProperties: ref('argument'),
    description: 'Arguments by parameter.',
  },
  key: {
    description: 'A value, or a property from which it is read.',
    anyOf: [ref('value'), record(['property'], { property: text('Name of the property.') })],
  },
  condition: {
    anyOf: [
      record(['payload', 'is'], { payload: text('Field of the payload.'), is: ASKED }),
      record(['property', 'is'], { property: text('Property of the sender.'), is: ASKED }),
      record(['param', 'is'], { param: text('Parameter of the action.'), is: ASKED }),
    ],
  },
  effect: {
    type: 'object',
    description:
      'One of set (to), toggle, add (by), raise (delay in microseconds, restart, payload), wake, sleep, destroy, spawn (properties); with when and everyNth.',
    properties: {
      when: ref('condition'),
      everyNth: { type: 'integer', minimum: 2 },
      set: text('Property to set.'),
      to: {},
      toggle: text('Property to toggle.'),
      add: text('Property to add to.'),
      by: {},
      raise: text('Event to raise.'),
      delay: micros('Microseconds until the raise.'),
      restart: only(true, 'It replaces a pending raise of the same effect of the same instance.'),
      payload: ref('arguments'),
      wake: only(true, 'Wakes the instance.'),
      sleep: only(true, 'Puts the instance to sleep.'),
      destroy: only(true, 'Destroys the instance.'),
      spawn: text('Asset to spawn.'),
      properties: ref('values'),
    },
    additionalProperties: false,
  },
};
const CAUSES = [
  'area-enter',
  'area-leave',
  'use',
  'press',
  'start',
  'destroyed',
  'timer',
  'change',
  'code',
  'raised',
];
const EVENT = record(
  ['name', 'cause'],
  {
    name: text('Name of the event.'),
    cause: { enum: CAUSES, description: 'What raises it.' },
    payload: FIELDS,
    activators: list({ type: 'string' }, 'Assets or #tags, one of which must enter, leave or use it.'),
    every: micros('Of a timer: microseconds between two ticks.'),
    property: {
      type: 'integer',
      description: 'Of a change: the number of the property; −1 if it does not exist.',
    },
    limit: { type: 'integer', minimum: 1, description: 'Raises of each instance at most.' },
    raisedInPause: only(true, 'It is raised while the game is paused.'),
    send: ROLES,
    to: ROLES,
    reliable: { type: 'boolean', description: 'Whether it must not be lost on its way.' },
  },
  'An event that instances raise.',
);
const ACTION = record(
  ['name'],
  {
    name: text('Name of the action.'),
    params: FIELDS,
    whileAsleep: only(true, 'It is performed while the instance is asleep.'),
    effects: list(ref('effect'), 'Effects, performed in order.'),
  },
  'An action that instances perform.',
);
const BINDING = record(
  ['id', 'from', 'to'],
  {
    id: text('Name of the binding in its owner.'),
    from: {
      anyOf: [
        record(['at', 'event'], {
          at: text('Path of the sender from the owner.'),
          event: text('Event that it listens to.'),
        }),
        record(['channel'], { channel: text('Channel that it hears.'), key: ref('key') }),
      ],
    },
    to: {
      anyOf: [
        record(['at', 'action'], {
          at: text('Path of the receiver from the owner.'),
          action: text('Action to perform.'),
        }),
        record(['channel'], { channel: text('Channel to publish to.'), key: ref('key') }),
        record(
          ['every', 'action'],
          {
            every: text('Asset whose instances are selected when the raise is taken.'),
            action: text('Action to perform.'),
            within: {
              enum: ['asset', 'project'],
              description: 'Inside the owner (default) or in all loaded scenes.',
            },
            pick: { enum: ['all', 'first'], description: 'All (default) or the first in expansion order.' },
            match: {
              anyOf: [
                only('all', 'All of them.'),
                record(['property', 'equals'], {
                  property: text('Property of the receiver.'),
                  equals: ref('key'),
                }),
              ],
            },
            spawned: { type: 'boolean', description: 'Spawned copies too.' },
          },
          'A query that depends on the state of play.',
        ),
      ],
    },
    args: ref('arguments'),
    if: list(ref('condition'), 'All must hold when the raise is taken.'),
    limit: { type: 'integer', minimum: 1, description: 'Raises that it serves at most.' },
    delay: micros('Microseconds until its deliveries.'),
    bind: only('start', 'It becomes active when its owner starts, not when that is loaded.'),
    release: {
      enum: ['all', 'never'],
      description: 'What it releases when its owner is gone; absent: itself.',
    },
  },
  'A binding as it is written in its owner.',
);

/** The JSON Schema (draft 2020-12) of `wiring.json` and of the scenes' files of `oquel.wiring/1`. */
export function wiringJsonSchema(): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: 'urn:oquel:wiring:1',
    title: 'Oquel compiled wiring',
    anyOf: [
      record(
        ['format', 'hash', 'name', 'assets', 'channels', 'enums', 'loadSets', 'peers', 'strangers', 'scenes'],
        {
          ...HEAD,
          name: text('Name of the project.'),
          assets: list(
            record(['id', 'kind', 'properties', 'events', 'actions', 'bindings'], {
              id: text('Name of the asset.'),
              kind: { enum: ['scene', 'prefab', 'widget'] },
              tags: list({ type: 'string' }, 'Tags, for activators.'),
              persistent: only(true, 'A scene that is always loaded.'),
              runsInPause: only(true, 'It acts while the game is paused.'),
              onAuthority: only(true, 'It exists only on its authority.'),
              properties: list(
                record(['name', 'type', 'default'], {
                  name: text('Name.'),
                  type: ref('type'),
                  default: ref('value'),
                }),
                'Properties, in order.',
              ),
              events: list(EVENT, 'Events, in order.'),
              actions: list(ACTION, 'Actions, in order.'),
              bindings: list(BINDING, 'Bindings that are on, in running order.'),
            }),
            'Assets. The number of an asset is its place in this list.',
          ),
          channels: list(record(['name'], { name: text('Name.'), payload: FIELDS }), 'Channels.'),
          enums: list(
            record(['name', 'values'], { name: text('Name.'), values: list({ type: 'string' }, 'Values.') }),
            'Enums.',
          ),
          loadSets: list(
            record(['name', 'scenes'], { name: text('Name.'), scenes: list({ type: 'string' }, 'Scenes.') }),
            'Scenes that are loaded together.',
          ),
          peers: list({ type: 'string' }, 'Peers. The number of a peer is its place in this list.'),
          strangers: list(
            { type: 'string' },
            'Peers that only placements name; their numbers follow those of peers.',
          ),
          scenes: list(
            record(['scene', 'file'], {
              scene: text('Name of the scene.'),
              file: text('Its file, from here.'),
            }),
            'Scenes in expansion order.',
          ),
        },
        'wiring.json: what is declared, whichever scenes are loaded.',
      ),
      record(
        [
          'format',
          'hash',
          'scene',
          'asset',
          'parent',
          'name',
          'asleep',
          'values',
          'spawner',
          'others',
          'keys',
          'bindings',
        ],
        {
          ...HEAD,
          scene: text('Name of the scene.'),
          asset: column(
            'For each instance, the number of its asset. Instances stand in expansion order; numbers are local to this file.',
          ),
          parent: column('For each instance, the one in which it stands; −1 for the scene itself.'),
          name: list(
            { type: 'string' },
            'For each instance, the last part of its address; ~Asset for the template of what is spawned.',
          ),
          asleep: column('Instances that start asleep.'),
          values: list(
            { type: 'array', prefixItems: [{ type: 'integer' }, ref('values')], minItems: 2, maxItems: 2 },
            'Instances with values other than the defaults.',
          ),
          spawner: list(
            { type: 'array', items: { type: 'integer' }, minItems: 2, maxItems: 2 },
            'For instances inside a template: which instance holds the templates of what they spawn.',
          ),
          peers: record(
            ['authority', 'operator', 'named'],
            {
              authority: column('For each instance, the number of its authority; −1 for none.'),
              operator: column('For each instance, the number of its operator; −1 for none.'),
              named: list(
                { type: 'array', items: { type: 'integer' }, minItems: 2, maxItems: 2 },
                'Instances whose placement names its authority (1), its operator (2) or both (3).',
              ),
            },
            'Absent in a project without peers.',
          ),
          others: list({ type: 'string' }, 'Addresses of instances of other scenes that bindings name.'),
          keys: list(
            { type: 'array', prefixItems: [{ type: 'integer' }, ref('value')], minItems: 2, maxItems: 2 },
            'For bindings that hear a channel by a key of a receiver in another scene: the initial value of that key.',
          ),
          bindings: record(
            ['owner', 'binding', 'sender', 'event', 'receiver', 'action'],
            {
              owner: column('Instance that has the binding.'),
              binding: column('Number of the binding in its asset.'),
              sender: column(
                'Instance whose event it listens to; −1 for a channel; −2 − n for entry n of others.',
              ),
              event: column('Number of the event in the sender’s asset; −1 for a channel.'),
              receiver: column(
                'Instance that it delivers to; −1 for a channel, for every, and where the path leads nowhere; −2 − n for entry n of others.',
              ),
              action: column('Number of the action in the asset of the receiver; −1 for none.'),
            },
            'Expanded bindings, in running order: one entry in each column.',
          ),
        },
        'The file of one scene.',
      ),
    ],
    $defs: DEFINITIONS,
  };
}
