import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  arrangeDeclaration,
  changeItems,
  completeProjectLine,
  declareInProject,
  indexProject,
  mergeEntries,
  moveEntry,
  parseProjectLine,
  readProject,
  type Change,
  type Project,
  type ProjectDeclaration,
} from '../src/index.js';

const project: Project = {
  format: 'oquel.project/1',
  name: 'Harbour',
  channels: [{ name: 'tide' }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [{ id: 'bell-1', asset: 'Bell', properties: { tone: 'deep' } }],
      bindings: [
        {
          id: 'b',
          from: { at: 'bell-1', event: 'onRung' },
          to: { every: 'Bell', action: 'ring', match: { property: 'tone', equals: { property: 'tone' } } },
        },
      ],
    },
    {
      id: 'Bell',
      kind: 'prefab',
      tags: ['loud'],
      properties: [
        { name: 'tone', type: 'string', default: 'high' },
        { name: 'pitch', type: 'string', default: 'low' },
      ],
      events: [{ name: 'onRung', cause: { type: 'use' } }],
      actions: [{ name: 'ring' }, { name: 'hush' }],
    },
    { id: 'Horn', kind: 'prefab' },
  ],
};
const index = indexProject(project);
const after = (changes: Change[]): Project => {
  const next = applyChanges(project, changes).project;
  expect(() => readProject(structuredClone(next))).not.toThrow();
  return next;
};

describe('a line that declares something of the project', () => {
  const cases: [string, ProjectDeclaration][] = [
    ['channel water', { kind: 'channel', value: { name: 'water' } }],
    [
      'channel water(side: enum:Side, n?: int)',
      {
        kind: 'channel',
        value: {
          name: 'water',
          payload: [
            { name: 'side', type: 'enum:Side' },
            { name: 'n', type: 'int', optional: true },
          ],
        },
      },
    ],
    ['enum Side: left, right', { kind: 'enum', value: { name: 'Side', values: ['left', 'right'] } }],
    ['enum Side: "a, b", c d', { kind: 'enum', value: { name: 'Side', values: ['a, b', 'c d'] } }],
    ['key table lines: bow, stern', { kind: 'table', value: { name: 'lines', keys: ['bow', 'stern'] } }],
    ['table lines: bow', { kind: 'table', value: { name: 'lines', keys: ['bow'] } }],
    ['load set day: quay', { kind: 'loadSet', value: { name: 'day', scenes: ['quay'] } }],
    ['load set day', { kind: 'loadSet', value: { name: 'day', scenes: [] } }],
    ['peer host server', { kind: 'peer', value: { name: 'host', role: 'server' } }],
    ['tag heavy: Bell, Horn', { kind: 'tag', value: { name: 'heavy', assets: ['Bell', 'Horn'] } }],
  ];
  it.each(cases)('%s', (line, declaration) => {
    expect(parseProjectLine(line)).toEqual({ value: declaration });
  });

  it.each([
    ['', 0, 'channel, enum, key table, load set, peer or tag'],
    ['harbour tide', 0, 'channel, enum, key table, load set, peer or tag'],
    ['enum Side', 9, '":" and a value'],
    ['enum Side: left, left', 21, 'a value that does not exist yet'],
    ['channel water(side', 18, '":" and a type'],
    ['channel water(side: int', 23, '")"'],
    ['peer host king', 10, 'server or client'],
    ['peer host server now', 17, 'the end'],
  ])('%j stops at %i', (line, at, expected) => {
    const read = parseProjectLine(line);
    expect('fault' in read && [read.fault.at, read.fault.expected]).toEqual([at, expected]);
  });

  it.each([
    ['channel tide', false],
    ['channel water', true],
    ['tag loud: Horn', false],
    ['tag heavy: Nowhere', false],
    ['tag heavy: Horn', true],
  ])('%s can be declared: %s', (line, can) => {
    const read = parseProjectLine(line);
    const changes = declareInProject(index, (read as { value: ProjectDeclaration }).value);
    expect(changes !== null).toBe(can);
    if (changes) after(changes);
  });
});

describe('completion of such a line', () => {
  it.each<[string, string[]]>([
    ['', ['channel ', 'enum ', 'key table ', 'load set ', 'peer ', 'tag ']],
    ['ke', ['key table ']],
    ['peer host ', ['server', 'client']],
    ['peer host s', ['server']],
    ['load set day: ', ['quay']],
    ['load set day: quay, ', []],
    ['tag heavy: Bell, ', ['quay', 'Horn']],
    ['channel water(side: ', ['bool', 'int', 'float', 'string', 'vec2', 'instance']],
    ['enum Side: ', []],
  ])('%j goes on with %j', (beginning, wanted) => {
    expect(completeProjectLine(index, beginning).options.map((o) => o.text)).toEqual(wanted);
  });
});

describe('what is declared is arranged', () => {
  it('a tag goes to other assets', () => {
    const next = after(changeItems(index, { kind: 'tag', asset: '', name: 'loud' }, ['Horn', 'quay']));
    expect(next.assets.map((a) => a.tags)).toEqual([['loud'], undefined, ['loud']]);
  });
  it('two properties become one, with what is set and read of them', () => {
    const next = after(
      mergeEntries(
        index,
        { kind: 'property', asset: 'Bell', name: 'tone' },
        { kind: 'property', asset: 'Bell', name: 'pitch' },
      ),
    );
    expect(next.assets[1].properties!.map((p) => p.name)).toEqual(['pitch']);
    expect(next.assets[0].placements![0].properties).toEqual({ pitch: 'deep' });
    expect(next.assets[0].bindings![0].to).toMatchObject({
      match: { property: 'pitch', equals: { property: 'pitch' } },
    });
  });
  it.each(['property', 'action', 'event'] as const)('a moved %s is declared there and gone here', (kind) => {
    const name = { property: 'tone', action: 'ring', event: 'onRung' }[kind];
    const part = { property: 'properties', action: 'actions', event: 'events' }[kind] as 'actions';
    const next = after(moveEntry(index, { kind, asset: 'Bell', name }, 'Horn'));
    expect(next.assets[2][part]!.map((d) => d.name)).toEqual([name]);
    expect(next.assets[1][part]!.map((d) => d.name)).not.toContain(name);
  });
  it.each<[string, Parameters<typeof arrangeDeclaration>[2], string[]]>([
    ['ring', { by: 1 }, ['hush', 'ring']],
    ['hush', { by: -1 }, ['hush', 'ring']],
    ['ring', { by: -1 }, ['ring', 'hush']],
    ['ring', { copyAs: 'ring2' }, ['ring', 'ring2', 'hush']],
    ['gone', { by: 1 }, ['ring', 'hush']],
  ])('%s %j', (name, how, names) => {
    const next = after(arrangeDeclaration(index, { kind: 'action', asset: 'Bell', name }, how));
    expect(next.assets[1].actions!.map((a) => a.name)).toEqual(names);
  });
});
