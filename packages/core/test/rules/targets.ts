import type { Condition } from '../../src/index.js';
import { wire, event, place, asset, scene, project, horn, mast, two, type Row } from './write.js';

export const ROWS: Row[] = [
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
  ...(
    [
      ['a field that is not carried', [{ payload: 'lost', is: 1 }], 'condition'],
      ['a property that the sender lacks', [{ property: 'lost', is: { not: 1 } }], 'condition'],
      [
        'the same name asked twice',
        [
          { payload: 'lost', is: 1 },
          { property: 'lost', is: 1 },
        ],
        'condition',
      ],
      ['a value of another type', [{ payload: 'n', is: 'a' }], 'value'],
      ['an order of what is no number', [{ property: 'on', is: { over: 1 } }], 'value'],
      ['one of several values', [{ payload: 'n', is: { oneOf: [1, 'a'] } }], 'value'],
      [
        'what is there, and of its type',
        [
          { payload: 'n', is: { under: 2.5 } },
          { property: 'on', is: true },
        ],
        '',
      ],
      ['nothing', [], ''],
    ] as [string, Condition[], string][]
  ).map(([what, conditions, cls]): Row => {
    const wired = wire('mast.onGust', 'horn.sound', { if: conditions });
    const [asked] = conditions;
    const name = asked && 'payload' in asked ? asked.payload : asked?.property;
    return [
      'dangling-name',
      `a condition on ${what}`,
      project([
        scene({ placements: [place('mast', 'Mast'), place('horn', 'Horn')], bindings: [wired] }),
        asset('Mast', {
          properties: [{ name: 'on', type: 'bool', default: true }],
          events: [event('onGust', 'code', { payload: [{ name: 'n', type: 'int' }] })],
        }),
        horn,
      ]),
      cls === '' ? [] : [[cls, { asset: 'ridge', binding: wired.id, name }]],
    ];
  }),
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
    'unloaded-target',
    'when a channel is heard, the owner’s scene counts as the sender’s',
    project(
      [
        scene({
          actions: [{ name: 'x' }],
          bindings: [wire('#bell', 'hut:horn.sound')],
        }),
        scene({ placements: [place('horn', 'Horn')] }, 'hut'),
        horn,
      ],
      { channels: [{ name: 'bell' }], loadSets: [{ name: 'a', scenes: ['ridge'] }] },
    ),
    [['apart', { asset: 'ridge' }]],
  ],
  [
    'dangling-sender',
    'judged in each copy: an instance, and then its event, each with its own class',
    project([
      scene({ placements: [place('a', 'A'), place('b', 'A')] }),
      asset('A', { actions: [{ name: 'x' }], bindings: [wire('gone.onA', '..x'), wire('..onGone', '..x')] }),
    ]),
    [
      ['event', { asset: 'A' }],
      ['placement', { asset: 'A' }],
    ],
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
];
