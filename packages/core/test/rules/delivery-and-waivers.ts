import { wire, event, place, asset, scene, project, horn, two, type Row } from './write.js';

export const ROWS: Row[] = [
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
    'authority-gap',
    'where nobody may send',
    project(
      [
        scene({
          placements: [place('l', 'L')],
          events: [event('onA', 'use', { delivery: { send: 'nobody' } })],
          bindings: [wire('..onA', 'l.x')],
        }),
        asset('L', { existsOn: 'authority', actions: [{ name: 'x' }] }),
      ],
      { peers: [{ name: 'host', role: 'server' }] },
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
