import { describe, expect, it } from '@jest/globals';
import {
  guessArg,
  indexProject,
  parseArg,
  printArg,
  printBinding,
  suggestArgs,
  type Arg,
  type ArgScope,
  type Binding,
  type Type,
} from '../src/index.js';

const index = indexProject({
  format: 'oquel.project/1',
  name: 'Veyra',
  enums: [{ name: 'Line', values: ['east', 'west'] }],
  tables: [{ name: 'Spoken', keys: ['announce.storm'] }],
  assets: [
    {
      id: 'WindMast',
      kind: 'prefab',
      properties: [
        { name: 'line', type: 'enum:Line', default: 'east' },
        { name: 'limit', type: 'int', default: 18 },
      ],
    },
  ],
});
const scope: ArgScope = {
  index,
  payload: [
    { name: 'speed', type: 'float' },
    { name: 'count', type: 'int' },
  ],
  reader: index.assets[0],
};

describe('sentences', () => {
  const from = { at: 'mast-2', event: 'onGust' };
  const to = { at: 'brake-1', action: 'engage' };
  const cases: [string, Binding][] = [
    ['when mast-2.onGust do brake-1.engage', { id: 'b', from, to }],
    [
      'when mast-2.onGust do brake-1.engage(force = $speed, who = sender) once after 0.5s',
      {
        id: 'b',
        from,
        to,
        args: { force: { payload: 'speed' }, who: { sender: true } },
        limit: 1,
        delay: 0.5,
      },
    ],
    [
      'when mast-2.onGust do every TrackBrake [in project, line = @line].release at most 3 off',
      {
        id: 'b',
        from,
        to: {
          every: 'TrackBrake',
          action: 'release',
          within: 'project',
          match: { property: 'line', equals: { property: 'line' } },
        },
        limit: 3,
        enabled: false,
      },
    ],
    [
      'when mast-2.onGust do #tension["east"](tension = 4) in code bound at start releases all',
      {
        id: 'b',
        from,
        to: { channel: 'tension', key: 'east' },
        args: { tension: 4 },
        origin: 'code',
        bind: 'start',
        release: 'all',
      },
    ],
    [
      'when #tension[@line] do .show',
      { id: 'b', from: { channel: 'tension', key: { property: 'line' } }, to: { at: '.', action: 'show' } },
    ],
  ];
  it.each(cases)('%s', (text, binding) => {
    expect(printBinding(binding)).toBe(text);
  });
});

describe('arguments', () => {
  const good: [string, Type, Arg][] = [
    ['$speed', 'float', { payload: 'speed' }],
    ['$count', 'float', { payload: 'count' }],
    ['$speed as string', 'string', { payload: 'speed', as: 'string' }],
    ['@line', 'enum:Line', { property: 'line' }],
    ['sender', 'instance', { sender: true }],
    [' 2.5 ', 'float', 2.5],
    ['3', 'int', 3],
    ['true', 'bool', true],
    ['[1, 2]', 'vec2', [1, 2]],
    ['1,2', 'vec2', [1, 2]],
    ['Cabin 4 is held.', 'string', 'Cabin 4 is held.'],
    ['"$speed"', 'string', '$speed'],
    ['west', 'enum:Line', 'west'],
    ['announce.storm', 'key:Spoken', 'announce.storm'],
  ];
  it.each(good)('%s for %s', (text, type, arg) => {
    expect(parseArg(text, type, scope)).toEqual({ arg });
  });
  it.each(good)('what is printed for %s (%s) reads back', (_text, type, arg) => {
    expect(parseArg(printArg(arg), type, scope)).toEqual({ arg });
  });
  const bad: [string, Type, RegExp][] = [
    ['$speed', 'int', /expected int, found float/],
    ['$speed', 'string', /expected string, found float/],
    ['$gone', 'float', /carries no "gone"/],
    ['@gone', 'float', /no property "gone"/],
    ['2.5', 'int', /expected int, found float/],
    ['fast', 'float', /expected float, found "fast"/],
    ['', 'float', /expected float/],
    ['north', 'enum:Line', /no value of Line/],
    ['announce.sun', 'key:Spoken', /no key of Spoken/],
    ['yes', 'bool', /expected bool/],
    ['"open', 'string', /expected string/],
  ];
  it.each(bad)('%s is refused for %s', (text, type, message) => {
    const parsed = parseArg(text, type, scope);
    expect('error' in parsed ? parsed.error : parsed).toMatch(message);
  });
  it('are suggested by what fits, best first', () => {
    expect(suggestArgs('float', scope)).toEqual(['$speed', '$count', '@limit']);
    expect(suggestArgs('enum:Line', scope)).toEqual(['@line', 'east', 'west']);
    expect(suggestArgs('string', scope)).toEqual(['$speed as string', '$count as string']);
  });
  it('are guessed by name, or where only one field fits', () => {
    expect(guessArg({ name: 'speed', type: 'float' }, scope)).toBe('$speed');
    expect(guessArg({ name: 'n', type: 'int' }, scope)).toBe('$count');
    expect(guessArg({ name: 'force', type: 'float' }, scope)).toBe('');
    expect(guessArg({ name: 'n', type: 'int', optional: true }, scope)).toBe('');
  });
});
