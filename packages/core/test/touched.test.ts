import { describe, expect, it } from '@jest/globals';
import { applyChanges, type Change, type Project } from '../src/index.js';
import { touchedBy } from '../src/audit/touched.js';

const PROJECT: Project = {
  format: 'oquel.project/1',
  name: 'Quay',
  channels: [{ name: 'tide' }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'gong', asset: 'Bell', properties: { tone: [1, 2] }, muted: ['x'] },
        { id: 'buoy', asset: 'Bell', at: [1, 2] },
      ],
      bindings: [{ id: 'b', from: { at: 'bell', event: 'onRung' }, to: { at: 'buoy', action: 'ring' } }],
    },
    {
      id: 'Bell',
      kind: 'prefab',
      events: [{ name: 'onRung', cause: { type: 'use' } }],
      actions: [{ name: 'ring' }],
    },
  ],
};
const bell = { list: 'placements', asset: 'quay' } as const;
const wired = { list: 'bindings', asset: 'quay' } as const;
const [binding] = PROJECT.assets[0].bindings!;
const replaced = (item: object): Change => ({
  op: 'replace',
  ...bell,
  id: 'bell',
  item: { id: 'bell', asset: 'Bell', ...item },
});
const set = (asset: string | null, part: string, value: unknown): Change =>
  ({ op: 'set', ...(asset === null ? {} : { asset }), part, value }) as Change;

describe('what an edit touches', () => {
  it.each<[string, Change[], string[]]>([
    ['a thing is moved', [replaced({ at: [3, 4] })], ['plan']],
    [
      'a thing is moved, and what else it says is a copy',
      [
        {
          op: 'replace',
          ...bell,
          id: 'gong',
          item: { id: 'gong', asset: 'Bell', properties: { tone: [1, 2] }, muted: ['x'], at: [3, 4] },
        },
      ],
      ['plan'],
    ],
    [
      'another tone',
      [
        {
          op: 'replace',
          ...bell,
          id: 'gong',
          item: { id: 'gong', asset: 'Bell', properties: { tone: [1, 3] }, muted: ['x'] },
        },
      ],
      ['values'],
    ],
    [
      'a copy',
      [
        {
          op: 'replace',
          ...bell,
          id: 'gong',
          item: { id: 'gong', asset: 'Bell', properties: { tone: [1, 2] }, muted: ['x'] },
        },
      ],
      [],
    ],
    ['a thing gets an area', [replaced({ area: { circle: 2 } })], ['plan']],
    ['an asset gets an area', [set('Bell', 'area', { circle: 2 })], ['plan']],
    ['a thing gets a note', [replaced({ note: 'old' })], []],
    ['a thing falls asleep', [replaced({ asleep: true })], ['sleep']],
    ['a thing gets a value', [replaced({ properties: { tone: 1 } })], ['values']],
    [
      'a thing is another one',
      [{ op: 'replace', ...bell, id: 'bell', item: { id: 'bell', asset: 'quay' } }],
      ['things'],
    ],
    ['a thing mutes a binding', [replaced({ muted: ['b'] })], ['mutes']],
    ['a thing is kept by another peer', [replaced({ authority: 'guest' })], ['roles']],
    ['players start at a thing', [replaced({ entry: true })], ['plan']],
    ['a thing is gone', [{ op: 'remove', ...bell, id: 'bell' }], ['things']],
    ['things change places in the list', [{ op: 'move', ...bell, id: 'bell', index: 1 }], ['things']],
    [
      'a binding is muted',
      [{ op: 'replace', ...wired, id: 'b', item: { ...binding, enabled: false } }],
      ['bindings'],
    ],
    [
      'a thing is moved and a binding goes',
      [replaced({ at: [3, 4] }), { op: 'remove', ...wired, id: 'b' }],
      ['bindings', 'plan'],
    ],
    ['a note of an event', [set('Bell', 'events', [{ ...PROJECT.assets[1].events![0], note: 'loud' }])], []],
    [
      'what an event carries',
      [
        set('Bell', 'events', [
          { ...PROJECT.assets[1].events![0], payload: [{ name: 'loud', type: 'bool' }] },
        ]),
      ],
      ['payload'],
    ],
    [
      'a limit of an event',
      [set('Bell', 'events', [{ ...PROJECT.assets[1].events![0], limit: 1 }])],
      ['nodes'],
    ],
    [
      'a mark, a size, a note',
      [set('Bell', 'mark', 'press'), set('quay', 'size', [9, 9]), set('quay', 'note', 'x')],
      [],
    ],
    ['an event more', [set('quay', 'events', [{ name: 'onHour', cause: { type: 'use' } }])], ['nodes']],
    [
      'an action that does something',
      [set('Bell', 'actions', [{ name: 'ring', effects: [{ wake: true }] }])],
      ['nodes'],
    ],
    ['properties', [set('Bell', 'properties', [{ name: 'tone', type: 'int', default: 1 }])], ['properties']],
    ['a note of a channel', [set(null, 'channels', [{ name: 'tide', note: 'slow' }])], []],
    ['a channel', [set(null, 'channels', [{ name: 'tide' }, { name: 'wind' }])], ['all']],
    ['limits', [set(null, 'policy', { maxChain: 2 })], ['policy']],
    [
      'waivers, rehearsals, the name',
      [set(null, 'waivers', []), set(null, 'rehearsals', []), set(null, 'name', 'Pier')],
      [],
    ],
    ['a new asset', [{ op: 'add', index: 2, item: { id: 'deck', kind: 'scene' } }], ['all']],
    ['nothing', [], []],
  ])('%s', (_, changes, touched) => {
    const after = applyChanges(PROJECT, changes).project;
    expect([...touchedBy(PROJECT, after).keys()].sort()).toEqual(touched);
  });
});
