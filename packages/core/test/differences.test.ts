import { describe, expect, it } from '@jest/globals';
import { type Placement } from '../src/index.js';
import { asItsAsset, differencesOf, differs, muting } from '../src/edit/differences.js';
import { LAMP, lamp, indexOf } from './lamp-project.js';

describe('how a placement differs from its asset', () => {
  it.each<[string, Partial<Placement>, object, boolean]>([
    ['not at all', {}, {}, false],
    ['by a value', { properties: { lit: true } }, { values: [['lit', true, false, false]] }, true],
    ['not by the default', { properties: { lit: false } }, {}, false],
    ['by a key alone', { properties: { line: 'west' } }, { values: [['line', 'west', 'east', true]] }, false],
    ['by what is unique', { properties: { number: 7 } }, { values: [['number', 7, 0, true]] }, false],
    ['by an unknown name', { properties: { hue: 1 } }, { values: [['hue', 1, undefined, false]] }, true],
    [
      'inside',
      { inside: { bulb: { watts: 60, code: 'b' }, wick: { x: 1 } } },
      {
        values: [
          ['bulb.watts', 60, 40, false],
          ['bulb.code', 'b', '', true],
          ['wick.x', 1, undefined, false],
        ],
      },
      true,
    ],
    ['by one mute', { muted: ['own'] }, { muted: [['own', LAMP.bindings![0]]] }, true],
    ['by a mute of nothing', { muted: ['lost'] }, { muted: [['lost', undefined]] }, true],
    ['by its area', { area: { circle: 3 } }, { area: { circle: 3 } }, true],
    ['not by the same area', { area: { circle: 2 } }, {}, false],
  ])('%s', (_, more, expected, doesDiffer) => {
    const found = differencesOf(indexOf(lamp(more)), lamp(more));
    expect({
      values: found.values.map((v) => [v.property, v.value, v.usual, v.isKey]),
      muted: found.muted.map((m) => [m.id, m.binding]),
      area: found.area,
    }).toEqual({ values: [], muted: [], area: null, ...expected });
    expect(differs(found)).toBe(doesDiffer);
  });

  it('is taken back but for keys', () => {
    const at: [number, number] = [1, 2];
    const own = lamp({
      at,
      note: 'by the crane',
      muted: ['own'],
      area: { circle: 3 },
      properties: { line: 'west', number: 3, lit: true },
      inside: { bulb: { watts: 60, code: 'b' }, wick: { x: 1 } },
    });
    expect(asItsAsset(indexOf(own), own)).toEqual(
      lamp({
        at,
        note: 'by the crane',
        properties: { line: 'west', number: 3 },
        inside: { bulb: { code: 'b' } },
      }),
    );
    expect(asItsAsset(indexOf(), lamp({ properties: { lit: true } }))).toEqual(lamp());
  });

  it('mutes a binding once, and without any has no list', () => {
    const one = muting(lamp(), 'own', true);
    expect(one).toEqual(lamp({ muted: ['own'] }));
    expect(muting(one, 'own', true)).toEqual(one);
    const two = muting(one, 'b', true);
    expect(two.muted).toEqual(['own', 'b']);
    expect(muting(two, 'own', false).muted).toEqual(['b']);
    expect(muting(one, 'own', false)).toEqual(lamp());
  });
});
