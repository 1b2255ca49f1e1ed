import { describe, expect, it } from '@jest/globals';
import {
  indexProject,
  markOf,
  MARKS,
  monograms,
  sightLines,
  type Asset,
  type Mark,
  type Project,
} from '../src/index.js';

describe('the mark of a thing', () => {
  const prefab = (id: string, more: Partial<Asset> = {}): Asset => ({ id, kind: 'prefab', ...more });
  const event = (type: 'use' | 'press' | 'area-enter' | 'start' | 'code'): Partial<Asset> => ({
    events: [{ name: 'onA', cause: { type } }],
  });
  const cases: [Mark, Asset][] = [
    ['light', prefab('Lantern')],
    ['sound', prefab('StormHorn')],
    ['person', prefab('NightKeeper')],
    ['mover', prefab('FerryCart')],
    ['text', prefab('SignPost')],
    ['switch', prefab('LockGate')],
    ['gauge', prefab('RopeGauge')],
    ['timer', prefab('TowerClock')],
    ['area', prefab('Plate')],
    ['area', prefab('Stone', event('area-enter'))],
    ['handle', prefab('Stone', event('use'))],
    ['press', prefab('Stone', event('press'))],
    ['start', prefab('Stone', event('start'))],
    ['gauge', prefab('Stone', event('code'))],
    ['timer', prefab('Stone', { events: [{ name: 'onA', cause: { type: 'timer', every: 2 } }] })],
    ['spawner', prefab('Lamp', { actions: [{ name: 'a', effects: [{ spawn: 'Moth' }] }] })],
    ['hub', prefab('Stone', { actions: ['a', 'b'].map((name) => ({ name, effects: [{ raise: 'onA' }] })) })],
    ['switch', prefab('Stone', { actions: [{ name: 'a', effects: [{ toggle: 'on' }] }] })],
    ['thing', prefab('Stone')],
    ['sound', prefab('Lantern', { mark: 'sound' })],
  ];
  it.each(cases)('is %s', (mark, asset) => {
    expect(markOf(asset)).toBe(mark);
  });
  it('is one of those that are drawn', () => {
    expect(new Set(cases.map(([mark]) => mark))).toEqual(new Set(MARKS));
  });
});

describe('the letters of assets', () => {
  it('are those of the words of a name, and never the same', () => {
    const ids = [
      'WindMast',
      'Cabin',
      'rope-gauge',
      'deicer_cart_2',
      'Beacon',
      'Bell',
      'Bench',
      'WaterMill',
      'x',
      '_',
    ];
    expect(Object.fromEntries(monograms(ids))).toEqual({
      WindMast: 'WM',
      Cabin: 'Ca',
      'rope-gauge': 'RG',
      deicer_cart_2: 'DC',
      Beacon: 'Be',
      Bell: 'Bl',
      Bench: 'Bn',
      WaterMill: 'Wa',
      x: 'X2',
      _: '_2',
    });
  });
  it('tell ninety of one name apart', () => {
    const ids = Array.from({ length: 90 }, (_, i) => `L${'a'.repeat(i + 1)}`);
    expect(new Set(monograms(ids).values()).size).toBe(90);
  });
});

describe('sight lines', () => {
  const project: Project = {
    format: 'oquel.project/1',
    name: 'Yard',
    channels: [{ name: 'night' }],
    assets: [
      { id: 'Bell', kind: 'prefab' },
      {
        id: 'yard',
        kind: 'scene',
        placements: ['bell-1', 'bell-2', 'gate'].map((id) => ({
          id,
          asset: id === 'gate' ? 'Gate' : 'Bell',
        })),
        bindings: [
          { id: 'a', from: { at: 'bell-1', event: 'onRung' }, to: { at: 'gate', action: 'open' } },
          { id: 'b', from: { at: 'bell-1', event: 'onRung' }, to: { every: 'Bell', action: 'ring' } },
          { id: 'c', from: { at: 'bell-1', event: 'onRung' }, to: { channel: 'night', key: 'east' } },
          { id: 'd', from: { at: 'gate/hinge', event: 'onMoved' }, to: { at: 'bell-1', action: 'ring' } },
          { id: 'e', from: { channel: 'night' }, to: { at: 'bell-1', action: 'ring' } },
          { id: 'f', from: { at: 'bell-2', event: 'onRung' }, to: { at: 'quay:horn-1', action: 'sound' } },
        ],
      },
    ],
  };
  const index = indexProject(project);
  const owner = index.assets[1];
  const reported = (...chosen: string[]): string[] =>
    sightLines(owner, new Set(chosen), (id) => (id === 'Bell' ? ['bell-1', 'bell-2'] : [])).map(
      ({ binding, thing, isIncoming, end, order, key }) =>
        `${binding.id}${order}: ${thing} ${isIncoming ? '<' : '>'} ${'path' in end ? end.path : `(${end.beyond})`}${key === undefined ? '' : ` [${JSON.stringify(key)}]`}`,
    );
  it('run from what is chosen to what it reaches, and from what reaches it, in running order', () => {
    expect(reported('bell-1')).toEqual([
      'a1: bell-1 > gate',
      'b2: bell-1 > bell-1',
      'b2: bell-1 > bell-2',
      'c3: bell-1 > (#night) ["east"]',
      'd1: bell-1 < gate',
      'e1: bell-1 < (#night)',
    ]);
  });
  it('leave the plan with a name, and are reported once between two that are chosen', () => {
    expect(reported('bell-2')).toEqual(['b2: bell-2 < bell-1', 'f1: bell-2 > (quay:horn-1)']);
    expect(reported('gate', 'bell-1').filter((line) => line.startsWith('a'))).toEqual(['a1: bell-1 > gate']);
  });
});
