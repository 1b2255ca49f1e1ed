import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  canonicalJson,
  guessTableKind,
  guessTableMapping,
  indexProject,
  readCsvTable,
  readProjectText,
  readTable,
  TABLE_KINDS,
  tableCsv,
  type Asset,
  type Project,
  type TableKind,
  type TableRead,
  type Wish,
} from '../src/index.js';
import { seeds } from './random.js';
import { randomProject } from './random-project.js';
import { randomTables } from './random-tables.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;
const EMPTY: Project = { format: 'oquel.project/1', name: 'Empty', assets: [] };

function take(
  project: Project,
  kind: TableKind,
  text: string,
  ask: { owner?: string; wishes?: [string, Wish][]; isMaking?: boolean } = {},
): TableRead {
  const index = indexProject(project);
  const csv = readCsvTable(text);
  const mapping = guessTableMapping(kind, csv.columns);
  return readTable(index, kind, csv, {
    mapping,
    owner: ask.owner ?? '',
    wishes: new Map(ask.wishes ?? []),
    isMaking: ask.isMaking ?? true,
  });
}
function taken(project: Project, kind: TableKind, text: string): Project {
  const read = take(project, kind, text, { isMaking: false });
  expect(
    read.rows.flatMap((r) => r.faults.map((f) => `line ${r.line}: ${f.column ?? ''} ${f.text}`)),
  ).toEqual([]);
  return applyChanges(project, read.changes!).project;
}
/** What tables speak of, without what only the game and Oquel's other views know. */
function spokenOf(project: Project): unknown {
  const { enums = [], tables = [], channels = [], loadSets = [], peers = [], assets } = project;
  const bare = ({
    bindings: _b,
    properties = [],
    events = [],
    actions = [],
    placements = [],
    ...rest
  }: Asset): unknown => ({
    ...rest,
    properties,
    events,
    actions,
    placements,
  });
  return { enums, tables, channels, loadSets, peers, assets: assets.map(bare) };
}

describe('every kind as a table', () => {
  const projects = [DEMO, ...Array.from({ length: seeds(60) }, (_, i) => randomTables(i))];
  const faulty = Array.from({ length: seeds(60) }, (_, i) => randomProject(i));
  it('comes back unchanged where it is there: brought in again it changes nothing', () => {
    for (const project of [...projects, ...faulty]) {
      for (const kind of TABLE_KINDS) {
        const read = take(project, kind, tableCsv(indexProject(project), kind));
        const not = read.rows.filter((r) => r.state !== 'same');
        expect(not).toEqual([]);
        expect([read.needs, read.changes]).toEqual([[], []]);
      }
    }
  });
  it('comes back whole where nothing is there: assets first, then what they declare, then what is placed', () => {
    for (const project of projects) {
      let back = EMPTY;
      for (const kind of TABLE_KINDS) {
        if (kind !== 'placements') back = taken(back, kind, tableCsv(indexProject(project), kind));
      }
      back = taken(back, 'placements', tableCsv(indexProject(project), 'placements'));
      expect(
        canonicalJson(spokenOf(back)) === canonicalJson(spokenOf(project)) ? null : spokenOf(back),
      ).toEqual(null);
    }
  });
  it('is known by its headings, whatever separates them', () => {
    for (const project of projects.slice(0, 3)) {
      for (const kind of TABLE_KINDS) {
        const text = tableCsv(indexProject(project), kind);
        expect(guessTableKind(readCsvTable(text).columns)).toBe(kind);
      }
    }
  });
});

const YARD: Project = {
  format: 'oquel.project/1',
  name: 'Yard',
  enums: [{ name: 'Side', values: ['left', 'right'] }],
  assets: [
    {
      id: 'Gate',
      kind: 'prefab',
      properties: [
        { name: 'side', type: 'enum:Side', default: 'left' },
        { name: 'level', type: 'float', default: 0 },
        { name: 'isOpen', type: 'bool', default: false },
      ],
      actions: [{ name: 'open', effects: [{ set: 'isOpen', to: true }], note: 'slowly' }],
    },
    {
      id: 'yard',
      kind: 'scene',
      size: [40, 24],
      placements: [
        { id: 'gate-1', asset: 'Gate', at: [5, 3], note: 'by the wall', properties: { level: 2 } },
      ],
    },
  ],
};
const asset = (project: Project, id: string): Asset => project.assets.find((a) => a.id === id)!;

describe('a table brought in', () => {
  it('changes only what its columns speak of; an empty cell takes a part out', () => {
    const now = taken(YARD, 'placements', 'asset,id,x,y,isOpen,level\nyard,gate-1,7,"3,5",yes,\n');
    expect(asset(now, 'yard').placements).toEqual([
      { id: 'gate-1', asset: 'Gate', at: [7, 3.5], note: 'by the wall', properties: { isOpen: true } },
    ]);
    const acted = taken(
      YARD,
      'actions',
      'asset\taction\teffects\nGate\topen\tset level to 1; toggle isOpen\n',
    );
    expect(asset(acted, 'Gate').actions).toEqual([
      { name: 'open', note: 'slowly', effects: [{ set: 'level', to: 1 }, { toggle: 'isOpen' }] },
    ]);
  });
  it('makes scenes, prefabs and properties that it names, and lays out what has no place', () => {
    const text =
      'scene\tid\tof\t.line\tglow\tnote\n' +
      [1, 2, 3].map((i) => `quay\tlamp-${i}\tLamp\teast\t\tn${i}`).join('\n');
    const read = take(YARD, 'placements', text);
    expect(read.needs.map((n) => n.text)).toEqual([
      'scene quay',
      'prefab Lamp',
      'property line: string = ""',
    ]);
    const now = applyChanges(YARD, read.changes!).project;
    const { placements = [], size } = asset(now, 'quay');
    expect(placements.map((p) => [p.id, p.asset, p.properties])).toEqual(
      [1, 2, 3].map((i) => [`lamp-${i}`, 'Lamp', { line: 'east' }]),
    );
    expect(new Set(placements.map((p) => String(p.at))).size).toBe(3);
    expect(placements.every((p) => p.at![0] <= size![0] && p.at![1] <= size![1])).toBe(true);
    const wish: [string, Wish][] = [['property:Lamp/line', { text: 'property line: string = "north"' }]];
    expect(take(YARD, 'placements', text, { wishes: wish }).changes).toContainEqual(
      expect.objectContaining({
        part: 'properties',
        value: [{ name: 'line', type: 'string', default: 'north' }],
      }),
    );
    wish[0][1].text = 'property hue: int';
    expect(take(YARD, 'placements', text, { wishes: wish })).toMatchObject({
      changes: null,
      needs: [{}, {}, { fault: 'it must declare the property line, which is set' }],
    });
    expect(take(now, 'placements', text).rows.map((r) => r.state)).toEqual(['same', 'same', 'same']);
  });
  it('declares a property as others of its name are, if that holds the values', () => {
    const needs = take(
      YARD,
      'placements',
      'asset,id,of,side\nyard,lamp-1,Lamp,left\nyard,lamp-2,Lamp,right\n',
    ).needs;
    expect(needs.map((n) => n.text)).toEqual(['prefab Lamp', 'property side: enum:Side = "left"']);
    const other = take(
      YARD,
      'placements',
      'asset,id,of,side\nyard,lamp-1,Lamp,left\nyard,lamp-2,Lamp,up\n',
    ).needs;
    expect(other[1].text).toBe('property side: string = ""');
  });
  it('asks about what looks like a slip of the pen, and takes it as it is meant', () => {
    const text = 'asset,id,of\nyard,gate-2,Gaet\n';
    const asked = take(YARD, 'placements', text);
    expect(asked.needs).toMatchObject([{ name: 'Gaet', near: ['Gate'], isOpen: true }]);
    expect(asked.changes).toBeNull();
    const meant = take(YARD, 'placements', text, { wishes: [['asset:Gaet', { use: 'Gate' }]] });
    expect([meant.needs, meant.rows.map((r) => r.item)]).toMatchObject([
      [],
      [{ id: 'gate-2', asset: 'Gate' }],
    ]);
    const made = take(YARD, 'placements', text, { wishes: [['asset:Gaet', { make: true }]] });
    expect(made.changes).toMatchObject([{ op: 'add', item: { id: 'Gaet' } }, { op: 'insert' }]);
  });
  it('joins rows of one key table, enum or load set', () => {
    const now = taken(YARD, 'enums', 'enum,value\nSide,up\nSide,"down, below"\nHue,red\n');
    expect(now.enums).toEqual([
      { name: 'Side', values: ['up', 'down', 'below'] },
      { name: 'Hue', values: ['red'] },
    ]);
  });
  it('gives a new prefab an area where somebody comes in', () => {
    const read = take(YARD, 'events', 'asset,event,cause\nPlate,onStepped,\nGate,onOpened,raised\n');
    const now = applyChanges(YARD, read.changes!).project;
    expect(asset(now, 'Plate')).toMatchObject({
      area: { circle: 2 },
      events: [{ name: 'onStepped', cause: { type: 'area-enter' } }],
    });
  });

  const broken: [kind: TableKind, row: string, fault: string][] = [
    ['placements', 'asset,id,of\nyard,9gate,Gate', 'id: "9gate" is not a valid name'],
    ['placements', 'asset,id,of\nyard,,Gate', 'id: is empty'],
    ['placements', 'asset,id,of\nyard,gate-2,', 'row: does not say which prefab or widget is placed'],
    ['placements', 'asset,id,of\n,gate-2,Gate', 'asset: is empty, and no default asset is selected'],
    ['placements', 'asset,id,of,x,y\nyard,gate-2,Gate,5,', 'row: has x or y, but not both'],
    ['placements', 'asset,id,of,x,y\nyard,gate-2,Gate,5,high', 'y: "high" is not a number'],
    ['placements', 'asset,id,of\nyard,gate-2', 'row: has 2 cells, but there are 3 columns'],
    ['placements', 'asset,id,of,level\nyard,gate-2,Gate,much', 'level: "much" is not a number'],
    [
      'placements',
      'asset,id,of,area\nyard,gate-2,Gate,circle -1',
      'area: expected more than 0 metres, found "-1" at character 8',
    ],
    ['placements', 'asset,id,of,asleep\nyard,gate-2,Gate,perhaps', 'asleep: "perhaps" is not yes or no'],
    [
      'events',
      'asset,name,cause\nGate,onOpened,sneezed',
      'cause: expected entered, left, used, pressed, started, destroyed, raised, or a property and "changes", found "sneezed" at character 6',
    ],
    [
      'events',
      'asset,name,payload\nGate,onOpened,force',
      'payload: expected ":" and a type, found its end at character 6',
    ],
    ['events', 'asset,name,limit,payload\nGate,onOpened,-1,', 'limit: "-1" is not a whole number from 0'],
    [
      'actions',
      'asset,name,effects\nGate,shut,explode',
      'effects: expected an effect: set, toggle, add, raise, spawn, wake, sleep or destroy, found "explode" at character 1',
    ],
    [
      'actions',
      'asset,name,parameters\nLost Gate,shut,',
      'asset: there is no scene, prefab or widget "Lost Gate"',
    ],
    [
      'properties',
      'asset,name,type,default\nGate,hue,colour,red',
      'type: expected a type: bool, int, float, string, vec2, instance, enum:Name or key:Table, found "colour" at character 1',
    ],
    ['properties', 'asset,name,type,default\nGate,hue,,', 'row: has neither a type nor a default'],
    ['assets', 'id,kind\nGate,scene', 'kind: it is already a prefab, and that cannot change'],
    ['assets', 'id,kind\nHut,house', 'kind: "house" is not scene, prefab or widget'],
    ['peers', 'peer,role\nhost,king', 'role: "king" is not server or client'],
    [
      'tables',
      'key table,keys\ntexts,"a, a"',
      'keys: expected a key that does not exist yet, found its end at character 5',
    ],
  ];
  it.each(broken)('tells what is wrong in a row of %s: %j', (kind, text, fault) => {
    const read = take(YARD, kind, text);
    expect(read.rows).toMatchObject([{ line: 2, state: 'broken', item: null }]);
    expect(read.rows[0].faults.map((f) => `${f.column ?? 'row'}: ${f.text}`)).toContain(fault);
    const wiring = (read.changes ?? []).filter((c) => c.op !== 'add');
    expect(wiring).toEqual([]);
  });
  it('refuses a name that stands in a row before, and takes the others', () => {
    const read = take(YARD, 'channels', 'channel,payload\nc1,n: int\nc1,n: float\nc2,\n');
    expect(read.rows.map((r) => r.state)).toEqual(['new', 'broken', 'new']);
    expect(read.changes).toMatchObject([{ part: 'channels', value: [{ name: 'c1' }, { name: 'c2' }] }]);
  });
});
