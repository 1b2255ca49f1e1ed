import { wire, event, place, asset, scene, project, horn, mast, two, type Row } from './write.js';

export const ROWS: Row[] = [
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
];
