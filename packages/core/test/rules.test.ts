import { describe, expect, it } from '@jest/globals';
import { ALL_RULES, audit, canonicalJson, readProject, type Finding } from '../src/index.js';

/** Short ways to write the projects of the tables below; they are read like any document. */
type Json = Record<string, unknown>;
const path = (text: string): [string, string] => [
  text.slice(0, text.lastIndexOf('.')),
  text.slice(text.lastIndexOf('.') + 1),
];
const end = (text: string, what: 'event' | 'action', more: Json = {}): Json => {
  if (text.startsWith('#')) return { channel: text.slice(1), ...more };
  const [at, name] = path(text);
  return at.startsWith('every ') ? { every: at.slice(6), [what]: name, ...more } : { at, [what]: name };
};
let count = 0;
/** `wire('mast.onGust', 'horn.sound', { limit: 1 })`; `to` adds to the receiving end, `from` to the sending one. */
const wire = (from: string, to: string, { from: fromMore, to: toMore, ...more }: Json = {}): Json => ({
  id: `b${count++}`,
  from: end(from, 'event', fromMore as Json),
  to: end(to, 'action', toMore as Json),
  ...more,
});
const event = (name: string, type = 'use', more: Json = {}): Json => {
  const { activators, property, every, ...rest } = more;
  const cause = {
    type,
    ...(activators ? { activators } : {}),
    ...(property ? { property } : {}),
    ...(every ? { every } : {}),
  };
  return { name, cause, ...rest };
};
const place = (id: string, asset: string, more: Json = {}): Json => ({ id, asset, ...more });
const asset = (id: string, parts: Json = {}): Json => ({ id, kind: 'prefab', ...parts });
const scene = (parts: Json = {}, id = 'ridge'): Json => ({ id, kind: 'scene', ...parts });
const project = (assets: Json[], more: Json = {}): Json => ({
  format: 'oquel.project/1',
  name: 'table',
  assets,
  ...more,
});

const horn = asset('Horn', {
  events: [event('onSounded', 'raised')],
  actions: [{ name: 'sound', effects: [{ raise: 'onSounded' }] }, { name: 'hush' }],
});
const mast = asset('Mast', { events: [event('onGust', 'code'), event('onCalm', 'code')] });
const two = (bindings: Json[], more: Json = {}): Json =>
  project(
    [scene({ placements: [place('mast', 'Mast'), place('horn', 'Horn')], bindings }), mast, horn],
    more,
  );
const keyed = (isKey = true): Json =>
  asset('Brake', {
    properties: [
      { name: 'line', type: 'int', default: 0, isKey },
      { name: 'force', type: 'float', default: 0 },
    ],
    actions: [
      {
        name: 'engage',
        params: [{ name: 'f', type: 'float', optional: true }],
        effects: [{ set: 'force', to: { param: 'f' } }],
      },
      { name: 'let', effects: [{ set: 'force', to: 0 }] },
    ],
  });

/** Rule, what the row shows, the project, and what is found: class and subject; nothing for a row that almost fires. */
const TABLE: [string, string, Json, [string | undefined, Json][]][] = [
  [
    'dangling-target',
    'a scene of another name in an absolute path',
    two([wire('mast.onGust', 'hut:horn.sound', {})]),
    [['placement', { asset: 'ridge' }]],
  ],
  [
    'dangling-target',
    'a stand-in of what is never spawned',
    two([wire('mast.onGust', '~Horn.sound')]),
    [['placement', { asset: 'ridge' }]],
  ],
  [
    'dangling-target',
    'a scene may be selected by every',
    two([wire('mast.onGust', 'every ridge.x', { to: { within: 'project' } })]),
    [['action', { asset: 'ridge' }]],
  ],
  [
    'dangling-target',
    'inside a placement of an unknown asset nothing is blamed',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('gone', 'Gone')],
        bindings: [wire('mast.onGust', 'gone/part.x')],
      }),
      mast,
    ]),
    [],
  ],
  [
    'dangling-sender',
    'an event that only another asset has',
    two([wire('horn.onGust', 'horn.sound')]),
    [['event', { asset: 'ridge' }]],
  ],
  [
    'dangling-sender',
    'a disabled one is not judged',
    two([wire('horn.onGust', 'horn.sound', { enabled: false })]),
    [],
  ],
  [
    'dangling-key',
    'the key of a set',
    project(
      [
        scene({ placements: [place('a', 'Board')] }),
        asset('Board', {
          properties: [{ name: 'text', type: 'key:T', default: 'a' }],
          actions: [{ name: 'say', effects: [{ set: 'text', to: 'b' }] }],
        }),
      ],
      { tables: [{ name: 'T', keys: ['a'] }] },
    ),
    [[undefined, { asset: 'Board', action: 'say', effect: 'set:text' }]],
  ],
  [
    'dangling-effect',
    'a parameter that the action lacks',
    project([
      scene(),
      asset('A', {
        properties: [{ name: 'n', type: 'int', default: 0 }],
        actions: [{ name: 'x', effects: [{ add: 'n', by: { param: 'k' } }] }],
      }),
    ]),
    [[undefined, { asset: 'A', action: 'x' }]],
  ],
  [
    'dangling-effect',
    'spawning a scene',
    project([scene({ actions: [{ name: 'x', effects: [{ spawn: 'ridge' }] }] })]),
    [[undefined, { asset: 'ridge', action: 'x' }]],
  ],
  [
    'dangling-effect',
    'what is there',
    project([scene({ actions: [{ name: 'x', effects: [{ spawn: 'Horn' }] }] }), horn]),
    [],
  ],
  [
    'dangling-name',
    'a peer only counts where there are peers',
    project([scene({ placements: [place('a', 'Horn', { operator: 'me' })] }), horn]),
    [],
  ],
  [
    'dangling-name',
    'the override of a spawn',
    project([
      scene({ actions: [{ name: 'x', effects: [{ spawn: 'Horn', properties: { loud: 1 } }] }] }),
      horn,
    ]),
    [['override', { asset: 'ridge', action: 'x', effect: 'spawn:Horn', property: 'loud' }]],
  ],
  [
    'dangling-name',
    'int fits float, float does not fit int',
    project([
      scene(),
      asset('A', {
        properties: [
          { name: 'a', type: 'float', default: 1 },
          { name: 'b', type: 'int', default: 1.5 },
        ],
      }),
    ]),
    [['value', { asset: 'A', property: 'b' }]],
  ],
  [
    'unknown-asset',
    'placing a scene',
    project([scene({ placements: [place('x', 'hut')] }), scene({}, 'hut')]),
    [[undefined, { asset: 'ridge', placement: 'x' }]],
  ],
  [
    'nesting-loop',
    'an asset in itself',
    project([scene(), asset('A', { placements: [place('a', 'A')] })]),
    [[undefined, { asset: 'A' }]],
  ],
  [
    'nesting-loop',
    'nesting without a circle',
    project([scene(), asset('A', { placements: [place('b', 'B'), place('c', 'B')] }), asset('B')]),
    [],
  ],
  [
    'empty-selection',
    'only spawned ones, which it leaves out',
    project([
      scene({
        placements: [place('mast', 'Mast')],
        actions: [{ name: 'x', effects: [{ spawn: 'Horn' }] }],
        bindings: [wire('mast.onGust', 'every Horn.sound')],
      }),
      mast,
      horn,
    ]),
    [[undefined, { asset: 'ridge' }]],
  ],
  [
    'empty-selection',
    'spawned ones on purpose',
    project([
      scene({
        placements: [place('mast', 'Mast')],
        actions: [{ name: 'x', effects: [{ spawn: 'Horn' }] }],
        bindings: [wire('mast.onGust', 'every Horn.sound', { to: { spawned: true } })],
      }),
      mast,
      horn,
    ]),
    [],
  ],
  [
    'unloaded-target',
    'no load sets, no judgement',
    project([
      scene({ placements: [place('mast', 'Mast')], bindings: [wire('mast.onGust', 'hut:horn.sound')] }),
      scene({ placements: [place('horn', 'Horn')] }, 'hut'),
      mast,
      horn,
    ]),
    [],
  ],
  [
    'unloaded-target',
    'a persistent sender is in every set',
    project(
      [
        scene({
          persistent: true,
          placements: [place('mast', 'Mast')],
          bindings: [wire('mast.onGust', 'hut:horn.sound')],
        }),
        scene({ placements: [place('horn', 'Horn')] }, 'hut'),
        mast,
        horn,
      ],
      {
        loadSets: [
          { name: 'a', scenes: ['hut'] },
          { name: 'b', scenes: [] },
        ],
      },
    ),
    [['sometimes', { asset: 'ridge' }]],
  ],
  [
    'reaches-out',
    'also by its sender',
    project([scene(), asset('A', { actions: [{ name: 'x' }], bindings: [wire('ridge:..onA', '..x')] })]),
    [[undefined, { asset: 'A' }]],
  ],
  [
    'asleep-receiver',
    'woken by a wake that only runs awake',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('lamp', 'Lamp', { asleep: true })],
        bindings: [wire('mast.onGust', 'lamp.wakeUp')],
      }),
      mast,
      asset('Lamp', { actions: [{ name: 'wakeUp', effects: [{ wake: true }] }] }),
    ]),
    [[undefined, { asset: 'ridge', placement: 'lamp' }]],
  ],
  [
    'asleep-receiver',
    'the outermost sleeper is named',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('hut', 'Hut', { asleep: true })],
        bindings: [wire('mast.onGust', 'hut/horn.sound')],
      }),
      mast,
      asset('Hut', { placements: [place('horn', 'Horn')] }),
      horn,
    ]),
    [[undefined, { asset: 'ridge', placement: 'hut' }]],
  ],
  [
    'asleep-sender',
    'a raised event is not judged',
    project([
      scene({
        placements: [place('horn', 'Horn', { asleep: true })],
        bindings: [wire('horn.onSounded', '..x')],
        actions: [{ name: 'x' }],
      }),
      horn,
    ]),
    [],
  ],
  [
    'orphan-listener',
    'an unkeyed listener hears keyed publications',
    two([wire('mast.onGust', '#c', { to: { key: 1 } }), wire('#c', 'horn.sound')], {
      channels: [{ name: 'c' }],
    }),
    [],
  ],
  [
    'orphan-listener',
    'true is not 1',
    two([wire('mast.onGust', '#c', { to: { key: 1 } }), wire('#c', 'horn.sound', { from: { key: true } })], {
      channels: [{ name: 'c' }],
    }),
    [['channel', { asset: 'ridge' }]],
  ],
  [
    'unheard-event',
    'heard in one of two is enough where no listener is expected',
    project([
      scene({
        placements: [place('m1', 'Mast'), place('m2', 'Mast'), place('horn', 'Horn')],
        bindings: [
          wire('m1.onGust', 'horn.sound'),
          wire('m1.onCalm', 'horn.hush'),
          wire('horn.onSounded', 'horn.hush'),
        ],
      }),
      mast,
      horn,
    ]),
    [],
  ],
  ['never-raised', 'raised by an effect', two([wire('horn.onSounded', 'horn.hush')]), []],
  [
    'dead-wiring',
    'a chain without a beginning',
    two([wire('horn.onSounded', 'horn.hush')]),
    [[undefined, { asset: 'Horn', action: 'hush' }]],
  ],
  [
    'dead-wiring',
    'the same chain with one',
    two([wire('mast.onGust', 'horn.sound'), wire('horn.onSounded', 'horn.hush')]),
    [],
  ],
  [
    'unused-channel',
    'heard alone is used',
    two([wire('#c', 'horn.sound')], { channels: [{ name: 'c' }, { name: 'd' }] }),
    [[undefined, { channel: 'd' }]],
  ],
  [
    'unheard-channel',
    'without key, heard only at keys',
    two([wire('mast.onGust', '#c'), wire('#c', 'horn.sound', { from: { key: 1 } })], {
      channels: [{ name: 'c' }],
    }),
    [['key', { asset: 'ridge' }]],
  ],
  [
    'wide-fan-out',
    'the same action twice counts once',
    two([wire('mast.onGust', 'horn.sound'), wire('mast.onGust', 'horn.sound', { delay: 1 })], {
      policy: { maxFanOut: 1 },
    }),
    [],
  ],
  [
    'wide-fan-out',
    'one more than allowed',
    two([wire('mast.onGust', 'horn.sound'), wire('mast.onGust', 'horn.hush')], { policy: { maxFanOut: 1 } }),
    [[undefined, { asset: 'Mast', event: 'onGust' }]],
  ],
  [
    'long-chain',
    'exactly at the limit',
    two([wire('mast.onGust', 'horn.sound'), wire('horn.onSounded', 'horn.hush')], {
      policy: { maxChain: 2 },
    }),
    [],
  ],
  [
    'long-chain',
    'one hop beyond',
    two([wire('mast.onGust', 'horn.sound'), wire('horn.onSounded', 'horn.hush')], {
      policy: { maxChain: 1 },
    }),
    [[undefined, { asset: 'Mast', event: 'onGust' }]],
  ],
  [
    'large-reach',
    'over a channel',
    two([wire('mast.onGust', '#c'), wire('#c', 'horn.sound'), wire('#c', 'horn.hush')], {
      channels: [{ name: 'c' }],
      policy: { maxReach: 1 },
    }),
    [[undefined, { asset: 'Mast', event: 'onGust' }]],
  ],
  [
    'relay-cycle',
    'a limit of the event',
    project([
      scene({ placements: [place('a', 'A')], bindings: [wire('a.onX', 'a.x')] }),
      asset('A', {
        events: [event('onX', 'raised', { limit: 2 })],
        actions: [{ name: 'x', effects: [{ raise: 'onX' }] }],
      }),
    ]),
    [['limited', {}]],
  ],
  [
    'relay-cycle',
    'endless respawning',
    project([
      scene({ placements: [place('a', 'A')] }),
      asset('A', {
        events: [event('onStart', 'start')],
        actions: [{ name: 'x', effects: [{ spawn: 'A' }] }],
        bindings: [wire('..onStart', '..x')],
      }),
    ]),
    [['instant', {}]],
  ],
  [
    'relay-cycle',
    'destroying oneself ends',
    project([
      scene({ placements: [place('a', 'A')] }),
      asset('A', {
        events: [event('onGone', 'destroyed')],
        actions: [{ name: 'x', effects: [{ destroy: true }] }],
        bindings: [wire('..onGone', '..x')],
      }),
    ]),
    [['limited', {}]],
  ],
  [
    'prefab-tangle',
    'many one way alone',
    project(
      [
        scene({
          placements: [place('mast', 'Mast'), place('horn', 'Horn')],
          bindings: [
            wire('mast.onGust', 'horn.sound'),
            wire('mast.onCalm', 'horn.sound'),
            wire('mast.onCalm', 'horn.hush'),
          ],
        }),
        mast,
        horn,
      ],
      { policy: { maxTangle: 1 } },
    ),
    [],
  ],
  [
    'payload-mismatch',
    'a property of the owner when a channel is heard',
    project(
      [
        scene({
          properties: [{ name: 'n', type: 'float', default: 1 }],
          placements: [place('b', 'Brake')],
          bindings: [wire('#c', 'b.engage', { args: { f: { property: 'n' } } })],
        }),
        keyed(),
      ],
      { channels: [{ name: 'c' }] },
    ),
    [],
  ],
  [
    'payload-mismatch',
    'the sender is an instance',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('b', 'Brake')],
        bindings: [wire('mast.onGust', 'b.engage', { args: { f: { sender: true } } })],
      }),
      mast,
      keyed(),
    ]),
    [[undefined, { asset: 'ridge', param: 'f' }]],
  ],
  [
    'duplicate-binding',
    'directly and over a channel',
    two([wire('mast.onGust', 'horn.sound'), wire('mast.onGust', '#c'), wire('#c', 'horn.sound')], {
      channels: [{ name: 'c' }],
    }),
    [[undefined, {}]],
  ],
  [
    'duplicate-binding',
    'a channel that nobody publishes to',
    two([wire('#c', 'horn.sound'), wire('#c', 'horn.sound')], { channels: [{ name: 'c' }] }),
    [],
  ],
  [
    'duplicate-binding',
    'two publications of the same',
    two([wire('mast.onGust', '#c'), wire('mast.onGust', '#c')], { channels: [{ name: 'c' }] }),
    [[undefined, {}]],
  ],
  [
    'opposing-actions',
    'a literal argument counts as the value',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('b', 'Brake')],
        bindings: [wire('mast.onGust', 'b.engage', { args: { f: 1 } }), wire('mast.onGust', 'b.let')],
      }),
      mast,
      keyed(),
    ]),
    [[undefined, {}]],
  ],
  [
    'opposing-actions',
    'a value read from the payload cannot be told',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('b', 'Brake')],
        bindings: [
          wire('mast.onGust', 'b.engage', { args: { f: { payload: 'x' } } }),
          wire('mast.onGust', 'b.let'),
        ],
      }),
      mast,
      keyed(),
    ]),
    [],
  ],
  [
    'shared-key',
    'in two scenes of one load set',
    project(
      [
        scene({ placements: [place('a', 'K', { properties: { n: 5 } })] }),
        scene({ placements: [place('a', 'K', { properties: { n: 5 } })] }, 'hut'),
        asset('K', { properties: [{ name: 'n', type: 'int', default: 0, unique: true }] }),
      ],
      { loadSets: [{ name: 's', scenes: ['ridge', 'hut'] }] },
    ),
    [[undefined, { asset: 'K', property: 'n', key: 5 }]],
  ],
  [
    'default-key',
    'one forgotten alone is none',
    project([
      scene({ placements: [place('a', 'Brake'), place('b', 'Brake', { properties: { line: 2 } })] }),
      keyed(),
    ]),
    [],
  ],
  [
    'broadcast-spill',
    'match all is on purpose',
    project([
      scene({
        placements: [place('mast', 'Mast'), place('a', 'Brake'), place('b', 'Brake')],
        bindings: [wire('mast.onGust', 'every Brake.let', { to: { match: 'all' } })],
      }),
      mast,
      keyed(),
    ]),
    [],
  ],
  [
    'broadcast-spill',
    'heard without key by one that is there once',
    project([scene({ placements: [place('b', 'Brake')], bindings: [wire('#c', 'b.let')] }), keyed()], {
      channels: [{ name: 'c' }],
    }),
    [],
  ],
  [
    'first-of-many',
    'a spawned one counts as two',
    project([
      scene({
        placements: [place('mast', 'Mast')],
        actions: [{ name: 'x', effects: [{ spawn: 'Horn' }] }],
        bindings: [wire('mast.onGust', 'every Horn.sound', { to: { pick: 'first', spawned: true } })],
      }),
      mast,
      horn,
    ]),
    [[undefined, { asset: 'ridge' }]],
  ],
  [
    'start-race',
    'published at a start, heard from a start',
    project(
      [
        scene({ placements: [place('a', 'A'), place('b', 'B')], bindings: [wire('a.onStart', '#c')] }),
        asset('A', { events: [event('onStart', 'start')] }),
        asset('B', {
          actions: [{ name: 'x' }],
          bindings: [wire('#c', '..x', { origin: 'code', bind: 'start' })],
        }),
      ],
      { channels: [{ name: 'c' }] },
    ),
    [[undefined, { asset: 'B' }]],
  ],
  [
    'start-race',
    'its own start comes after it has taken hold',
    project([
      scene({ placements: [place('b', 'B')] }),
      asset('B', {
        events: [event('onStart', 'start')],
        actions: [{ name: 'x' }],
        bindings: [wire('..onStart', '..x', { origin: 'code', bind: 'start' })],
      }),
    ]),
    [],
  ],
  [
    'leaky-binding',
    'the owner can be destroyed',
    project([
      scene({ placements: [place('mast', 'Mast'), place('b', 'B')] }),
      mast,
      asset('B', {
        actions: [{ name: 'x', effects: [{ destroy: true }] }],
        bindings: [wire('ridge:mast.onGust', '..x', { origin: 'code', release: 'never' })],
      }),
    ]),
    [['destroyed', { asset: 'B' }]],
  ],
  [
    'leaky-binding',
    'its sender goes with it',
    project([
      scene({ placements: [place('b', 'B')] }),
      asset('B', {
        events: [event('onA')],
        actions: [{ name: 'x', effects: [{ destroy: true }] }],
        bindings: [wire('..onA', '..x', { origin: 'code', release: 'never' })],
      }),
    ]),
    [],
  ],
  [
    'over-release',
    'two listeners of one channel at different keys',
    two(
      [
        wire('#c', 'horn.sound', { from: { key: 1 }, origin: 'code', release: 'all' }),
        wire('#c', 'horn.hush', { from: { key: 2 } }),
      ],
      { channels: [{ name: 'c' }] },
    ),
    [[undefined, { asset: 'ridge' }]],
  ],
  [
    'spawn-gap',
    'wired through every with spawned',
    project([
      scene({
        placements: [place('horn', 'Horn')],
        actions: [{ name: 'x', effects: [{ spawn: 'Horn' }] }],
        bindings: [wire('horn.onSounded', 'horn.hush'), wire('~Horn.onSounded', 'horn.hush')],
      }),
      horn,
    ]),
    [],
  ],
  [
    'unpaired-area',
    'entering is served once only',
    project([
      scene({
        placements: [place('mat', 'Mat'), place('b', 'Brake')],
        bindings: [wire('mat.onIn', 'b.let', { limit: 1 })],
      }),
      asset('Mat', {
        area: { circle: 1 },
        events: [event('onIn', 'area-enter'), event('onOut', 'area-leave')],
      }),
      keyed(),
    ]),
    [],
  ],
  [
    'no-activation',
    'an empty list lets nobody through',
    project([scene(), asset('A', { events: [event('onA', 'use', { activators: [] })] })]),
    [['filter', { asset: 'A', event: 'onA' }]],
  ],
  [
    'no-activation',
    'a tag that nobody has',
    project([scene(), asset('A', { events: [event('onA', 'use', { activators: ['#crew'] })] })]),
    [['filter', { asset: 'A', event: 'onA' }]],
  ],
  [
    'covers-entry',
    'on the border counts',
    project([
      scene({
        placements: [
          place('in', 'Horn', { at: [3, 0], entry: true }),
          place('mat', 'Mat'),
          place('b', 'Brake'),
        ],
        bindings: [wire('mat.onIn', 'b.let')],
      }),
      horn,
      asset('Mat', { area: { circle: 3 }, events: [event('onIn', 'area-enter')] }),
      keyed(),
    ]),
    [[undefined, { asset: 'ridge', placement: 'mat' }]],
  ],
  [
    'covers-entry',
    'one that begins asleep is not entered at once',
    project([
      scene({
        placements: [
          place('in', 'Horn', { at: [3, 0], entry: true }),
          place('mat', 'Mat', { asleep: true }),
          place('b', 'Brake'),
        ],
        bindings: [wire('mat.onIn', 'b.let')],
      }),
      horn,
      asset('Mat', { area: { circle: 3 }, events: [event('onIn', 'area-enter')] }),
      keyed(),
    ]),
    [],
  ],
  [
    'pause-deaf',
    'a receiver that runs in pause',
    project([
      scene({
        runsInPause: true,
        events: [event('onA', 'use', { raisedInPause: true })],
        actions: [{ name: 'x' }],
        bindings: [wire('..onA', '..x')],
      }),
    ]),
    [],
  ],
  [
    'name-style',
    'a pattern is searched, not matched whole',
    project([scene()], { policy: { names: { asset: 'idg' } } }),
    [],
  ],
  [
    'name-style',
    'a pattern for channels',
    project([scene()], { channels: [{ name: 'Loud' }], policy: { names: { channel: '^[a-z]' } } }),
    [[undefined, { channel: 'Loud' }]],
  ],
  [
    'barred-raise',
    'an operator where there is none',
    project(
      [
        scene({
          events: [event('onA', 'use', { delivery: { send: { only: ['operator'] } } })],
          actions: [{ name: 'x' }],
          bindings: [wire('..onA', '..x')],
        }),
      ],
      { peers: [{ name: 'host', role: 'server' }] },
    ),
    [[undefined, { asset: 'ridge', event: 'onA' }]],
  ],
  [
    'barred-raise',
    'without peers nothing of it applies',
    project([
      scene({
        events: [event('onA', 'use', { delivery: { send: 'nobody' } })],
        actions: [{ name: 'x' }],
        bindings: [wire('..onA', '..x')],
      }),
    ]),
    [],
  ],
  [
    'empty-audience',
    'the raiser is always there',
    project(
      [
        scene({
          events: [event('onA', 'use', { delivery: { to: 'raiser' } })],
          actions: [{ name: 'x' }],
          bindings: [wire('..onA', '..x')],
        }),
      ],
      { peers: [{ name: 'host', role: 'server' }] },
    ),
    [],
  ],
  [
    'empty-audience',
    'others where there are none',
    project(
      [
        scene({
          events: [event('onA', 'use', { delivery: { to: { only: ['others'] } } })],
          actions: [{ name: 'x' }],
          bindings: [wire('..onA', '..x')],
        }),
      ],
      { peers: [{ name: 'host', role: 'server' }] },
    ),
    [[undefined, { asset: 'ridge', event: 'onA' }]],
  ],
  [
    'authority-gap',
    'kept by a peer that is not told',
    project(
      [
        scene({
          placements: [place('l', 'L', { authority: 'guest' })],
          events: [event('onA', 'use', { delivery: { to: { only: ['authority'] } } })],
          bindings: [wire('..onA', 'l.x')],
        }),
        asset('L', { existsOn: 'authority', actions: [{ name: 'x' }] }),
      ],
      {
        peers: [
          { name: 'host', role: 'server' },
          { name: 'guest', role: 'client' },
        ],
      },
    ),
    [[undefined, { asset: 'ridge' }]],
  ],
  [
    'unreliable-state',
    'only sounds',
    project(
      [
        scene({
          placements: [place('horn', 'Horn')],
          events: [event('onA', 'use', { delivery: { reliable: false } })],
          bindings: [wire('..onA', 'horn.sound')],
        }),
        horn,
      ],
      { peers: [{ name: 'host', role: 'server' }] },
    ),
    [],
  ],
  [
    'stale-waiver',
    'on its last day it counts',
    project([scene()], { waivers: [{ fingerprint: 'x', reason: 'r', by: 'b', until: '2026-11-24' }] }),
    [],
  ],
  [
    'idle-waiver',
    'a rule that is off is not idle',
    two([wire('mast.onGust', 'lost.x')], { policy: { severity: { 'dangling-target': 'off' } }, waivers: [] }),
    [],
  ],
];

describe('rules', () => {
  it.each(TABLE)('%s: %s', (rule, _shows, document, expected) => {
    const { findings } = audit(readProject(document).project, { today: '2026-11-24' });
    const found = findings.filter((f) => f.rule === rule);
    expect(found.map((f) => f.class)).toEqual(expected.map(([cls]) => cls));
    found.forEach((f, i) => expect(f.subject).toMatchObject(expected[i][1]));
  });

  it('the table knows only rules that there are, and shows no row twice', () => {
    const names = new Set(ALL_RULES.map((r) => r.meta.name));
    expect(TABLE.filter(([rule]) => !names.has(rule))).toEqual([]);
    expect(new Set(TABLE.map(([rule, shows]) => `${rule}: ${shows}`)).size).toBe(TABLE.length);
    const judged = new Set(TABLE.map(([rule]) => rule));
    expect([...names].filter((name) => !judged.has(name))).toEqual([]);
  });
  it('every rule says what it finds, why that matters and how it is cured, and fills its messages', () => {
    for (const { meta, messages } of ALL_RULES) {
      for (const text of [meta.what, meta.why, meta.cure, ...Object.values(messages)]) {
        expect(text).toMatch(/^\S.*\S$/s);
      }
      expect(meta.what.endsWith('.') && meta.why.endsWith('.') && meta.cure.endsWith('.')).toBe(true);
    }
  });
});

describe('a waiver', () => {
  const dangling = two([wire('mast.onGust', 'lost.x')]);
  const of = (waiver: Json): Finding[] =>
    audit(readProject({ ...dangling, waivers: [waiver] }).project, { today: '2026-11-24' }).findings;
  const [{ fingerprint }] = audit(readProject(dangling).project, { today: '2026-11-24' }).findings;
  const base = { fingerprint, reason: 'r', by: 'b' };
  const cases: [string, Json, boolean, string[]][] = [
    ['covers its finding', base, true, []],
    ['covers the places that it lists', { ...base, occurrences: ['ridge:.'] }, true, []],
    ['does not cover a place that it does not list', { ...base, occurrences: ['hut:.'] }, false, []],
    ['that has ended covers nothing', { ...base, until: '2026-11-23' }, false, ['stale-waiver']],
    ['of what is gone is idle', { ...base, fingerprint: 'ffff' }, false, ['idle-waiver']],
    [
      'of what is gone and past its end is stale alone',
      { ...base, fingerprint: 'ffff', until: '2026-01-01' },
      false,
      ['stale-waiver'],
    ],
  ];
  it.each(cases)('%s', (_name, waiver, waived, others) => {
    const found = of(waiver);
    expect(found.find((f) => f.fingerprint === fingerprint)!.waived === true).toBe(waived);
    expect(found.map((f) => f.rule).filter((r) => r.endsWith('waiver'))).toEqual(others);
  });
  it('for a rule that the policy has switched off is not idle', () => {
    const off = { ...dangling, policy: { severity: { 'dangling-target': 'off' } }, waivers: [base] };
    const { findings, summary } = audit(readProject(off).project, { today: '2026-11-24' });
    expect(findings.filter((f) => /waiver|dangling/.test(f.rule))).toEqual([]);
    expect(summary.waived).toBe(0);
  });
});

describe('a naming pattern', () => {
  it('that would backtrack for ever does not hold the audit up', () => {
    const name = 'a'.repeat(60);
    const evil = project([scene({ events: [event(`${name}_`)] })], {
      policy: { names: { event: '^(a+)+$' } },
    });
    const { findings } = audit(readProject(evil).project, { today: '2026-11-24' });
    expect(findings.map((f) => canonicalJson(f.subject))).toContain(
      canonicalJson({ asset: 'ridge', event: `${name}_` }),
    );
  });
  it.each(['(?=a)', '(a)\\1', '('])('that cannot be searched in linear time is refused: %s', (pattern) => {
    expect(() => readProject(project([], { policy: { names: { event: pattern } } }))).toThrow(
      /regular expression/,
    );
  });
});
