import type { Condition } from '../../src/index.js';
import {
  wire,
  event,
  place,
  asset,
  scene,
  project,
  horn,
  mast,
  two,
  keyed,
  type Json,
  type Row,
} from './write.js';

export const ROWS: Row[] = [
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
    'each later one is reported with the first, here the direct one, and not with one another',
    two(
      [
        wire('mast.onGust', 'horn.sound'),
        wire('mast.onGust', '#c'),
        wire('#c', 'horn.sound'),
        wire('#c', 'horn.sound'),
      ],
      { channels: [{ name: 'c' }] },
    ),
    [
      [undefined, {}],
      [undefined, {}],
    ],
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
  ...(
    [
      ['two values of one field', [{ payload: 'x', is: 1 }], [{ payload: 'x', is: 2 }], 0],
      [
        'ranges that do not meet',
        [{ payload: 'x', is: { under: 3 } }],
        [{ payload: 'x', is: { over: 3 } }],
        0,
      ],
      ['ranges that meet', [{ payload: 'x', is: { atMost: 3 } }], [{ payload: 'x', is: { atLeast: 3 } }], 1],
      ['two fields', [{ payload: 'x', is: 1 }], [{ payload: 'y', is: 2 }], 1],
      ['one that asks and one that does not', [{ payload: 'x', is: 1 }], undefined, 1],
      ['a value and all but it', [{ payload: 'x', is: 1 }], [{ payload: 'x', is: { not: 1 } }], 0],
      ['a name that is not there decides nothing', [{ payload: 'z', is: 1 }], [{ payload: 'z', is: 2 }], 1],
      ['a value of another type decides nothing', [{ payload: 'x', is: 'a' }], [{ payload: 'x', is: 1 }], 1],
    ] as [string, Condition[] | undefined, Condition[] | undefined, number][]
  ).flatMap(([what, first, later, found]): Row[] => {
    const gusty = asset('Mast', {
      events: [
        event('onGust', 'code', {
          payload: [
            { name: 'x', type: 'int' },
            { name: 'y', type: 'int' },
          ],
        }),
      ],
    });
    const asks = (c: Condition[] | undefined): Json => (c ? { if: c } : {});
    const wired = (action: string): Json[] => [
      wire('mast.onGust', `b.${action}`, asks(first)),
      wire('mast.onGust', 'b.let', asks(later)),
    ];
    const placements = [place('mast', 'Mast'), place('b', 'B')];
    const brake = asset('B', {
      properties: [{ name: 'on', type: 'bool', default: true }],
      actions: [
        { name: 'let', effects: [{ set: 'on', to: false }] },
        { name: 'engage', effects: [{ set: 'on', to: true }] },
      ],
    });
    const of = (action: string): Json =>
      project([scene({ placements, bindings: wired(action) }), gusty, brake]);
    const findings = Array.from({ length: found }, (): [undefined, Json] => [undefined, {}]);
    return [
      ['duplicate-binding', `conditions: ${what}`, of('let'), findings],
      ['opposing-actions', `conditions: ${what}`, of('engage'), findings],
    ];
  }),
  ...(
    [
      [
        'two values of one field',
        [
          { payload: 'x', is: 1 },
          { payload: 'x', is: 2 },
        ],
        true,
      ],
      [
        'limits that are swapped',
        [
          { payload: 'x', is: { over: 9 } },
          { payload: 'x', is: { under: 4 } },
        ],
        true,
      ],
      [
        'no whole number between',
        [
          { payload: 'x', is: { over: 3 } },
          { payload: 'x', is: { under: 4 } },
        ],
        true,
      ],
      [
        'a number between',
        [
          { payload: 'f', is: { over: 3 } },
          { payload: 'f', is: { under: 4 } },
        ],
        false,
      ],
      [
        'one point alone',
        [
          { payload: 'x', is: { atLeast: 3 } },
          { payload: 'x', is: { atMost: 3 } },
        ],
        false,
      ],
      [
        'all values of a bool but both',
        [
          { property: 'on', is: { not: true } },
          { property: 'on', is: { not: false } },
        ],
        true,
      ],
      ['none of no values', [{ payload: 'x', is: { oneOf: [] } }], true],
      [
        'a value and its absence',
        [
          { payload: 'o', is: { not: 1 } },
          { payload: 'o', is: { oneOf: [1] } },
        ],
        true,
      ],
      [
        'a field that may be absent',
        [
          { payload: 'o', is: { not: 1 } },
          { payload: 'o', is: { not: 2 } },
        ],
        false,
      ],
      [
        'two fields',
        [
          { payload: 'x', is: 1 },
          { payload: 'f', is: 2 },
        ],
        false,
      ],
      [
        'a wrong value decides nothing',
        [
          { payload: 'x', is: 'a' },
          { payload: 'x', is: 1 },
        ],
        false,
      ],
    ] as [string, Condition[], boolean][]
  ).map(([what, conditions, never]): Row => {
    const wired = wire('mast.onGust', 'horn.sound', { if: conditions });
    const gusty = asset('Mast', {
      properties: [{ name: 'on', type: 'bool', default: true }],
      events: [
        event('onGust', 'code', {
          payload: [
            { name: 'x', type: 'int' },
            { name: 'f', type: 'float' },
            { name: 'o', type: 'int', optional: true },
          ],
        }),
      ],
    });
    const placements = [place('mast', 'Mast'), place('horn', 'Horn')];
    const found: [undefined, Json] = [undefined, { asset: 'ridge', binding: wired.id }];
    return [
      'never-true',
      what,
      project([scene({ placements, bindings: [wired] }), gusty, horn]),
      never ? [found] : [],
    ];
  }),
  [
    'never-true',
    'an effect that asks for none of no values',
    project([
      scene({ placements: [place('b', 'B')] }),
      asset('B', {
        properties: [{ name: 'on', type: 'bool', default: true }],
        actions: [{ name: 'x', effects: [{ toggle: 'on', when: { property: 'on', is: { oneOf: [] } } }] }],
      }),
    ]),
    [[undefined, { asset: 'B', action: 'x', effect: 'toggle:on' }]],
  ],
  ...(
    [
      ['one value of three', [[{ payload: 'act', is: 'a' }], [{ payload: 'act', is: 'b' }]], true],
      ['all values', [[{ payload: 'act', is: 'a' }], [{ payload: 'act', is: { not: 'a' } }]], false],
      ['one that does not ask', [[{ payload: 'act', is: 'a' }], []], false],
      ['one that asks another field', [[{ payload: 'act', is: 'a' }], [{ payload: 'n', is: 1 }]], false],
      [
        'one that asks more besides',
        [
          [
            { payload: 'act', is: 'a' },
            { payload: 'n', is: 1 },
          ],
        ],
        true,
      ],
      ['nobody', [], false],
    ] as [string, Condition[][], boolean][]
  ).flatMap(([what, asked, left]): Row[] => {
    const enums = [{ name: 'Act', values: ['a', 'b', 'c'] }];
    const fields = [
      { name: 'act', type: 'enum:Act' },
      { name: 'n', type: 'int' },
    ];
    const placements = [place('mast', 'Mast'), place('horn', 'Horn')];
    const actor = asset('Mast', { events: [event('onGust', 'code', { payload: fields })] });
    const of = (from: string, more: Json[] = []): Json =>
      project(
        [
          scene({
            placements,
            bindings: [...more, ...asked.map((c) => wire(from, 'horn.sound', c.length > 0 ? { if: c } : {}))],
          }),
          actor,
          horn,
        ],
        { enums, channels: [{ name: 'acts', payload: fields }] },
      );
    const args = { act: { payload: 'act' }, n: { payload: 'n' } };
    return [
      [
        'unhandled-value',
        `of an event: ${what}`,
        of('mast.onGust'),
        left ? [[undefined, { asset: 'Mast', event: 'onGust', name: 'act' }]] : [],
      ],
      [
        'unhandled-value',
        `of a channel: ${what}`,
        of('#acts', [wire('mast.onGust', '#acts', { args })]),
        left ? [[undefined, { channel: 'acts', name: 'act' }]] : [],
      ],
    ];
  }),
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
    'a value read from the payload cannot be reported',
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
    'published at a key, heard at any',
    project(
      [
        scene({
          placements: [place('a', 'A'), place('b', 'B')],
          bindings: [wire('a.onStart', '#c', { to: { channel: 'c', key: 1 } })],
        }),
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
    'start-race',
    'its own start, but another start leads to that one by waking it',
    project([
      scene({
        placements: [place('b', 'B', { asleep: true }), place('a', 'A')],
        bindings: [wire('a.onStart', 'b.rise')],
      }),
      asset('A', { events: [event('onStart', 'start')] }),
      asset('B', {
        events: [event('onStart', 'start')],
        actions: [{ name: 'x' }, { name: 'rise', whileAsleep: true, effects: [{ wake: true }] }],
        bindings: [wire('..onStart', '..x', { origin: 'code', bind: 'start' })],
      }),
    ]),
    [[undefined, { asset: 'B' }]],
  ],
  [
    'duplicate-binding',
    'delays are added in whole microseconds: a publication after 1 s and a hearing at once, beside one after 1 s',
    project(
      [
        scene({
          events: [event('onA')],
          actions: [{ name: 'x' }],
          bindings: [
            wire('..onA', '#bell', { delay: 0.4000001 }),
            wire('#bell', '..x', { delay: 0.6 }),
            wire('..onA', '..x', { delay: 1 }),
            wire('..onA', '..x', { delay: 1.1 }),
          ],
        }),
      ],
      { channels: [{ name: 'bell' }] },
    ),
    [[undefined, { bindings: [{ asset: 'ridge' }, { asset: 'ridge' }] }]],
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
];
