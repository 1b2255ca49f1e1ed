import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import {
  applyChanges,
  audit,
  catalogueCsv,
  catalogueHtml,
  catalogueJson,
  catalogueOf,
  changeFields,
  compareFindings,
  indexProject,
  mergeEntries,
  moveEntry,
  noteEntry,
  readProject,
  readProjectText,
  nameOfEntry,
  renameName,
  retireEntry,
  usesOfEntry,
  type Change,
  type CatalogueEntry,
  type Finding,
  type Project,
} from '../src/index.js';
import { randomProject } from './random-project.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;

const RIDGE = readProject({
  format: 'oquel.project/1',
  name: 'Ridge',
  enums: [
    { name: 'Line', values: ['east', 'west'] },
    { name: 'Track', values: ['west', 'north'] },
    { name: 'Idle', values: [] },
  ],
  tables: [{ name: 'Words', keys: ['wind'] }],
  channels: [
    { name: 'tension', payload: [{ name: 'pull', type: 'float' }] },
    { name: 'strain', payload: [{ name: 'pull', type: 'float' }] },
    { name: 'silence' },
  ],
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast', asset: 'Mast' },
        { id: 'brake', asset: 'Brake' },
      ],
      bindings: [
        {
          id: 'gust',
          from: { at: 'mast', event: 'onGust' },
          to: { at: 'brake', action: 'engage' },
          args: { force: { payload: 'speed' } },
        },
        {
          id: 'tell',
          from: { at: 'mast', event: 'onGust' },
          to: { channel: 'tension', key: 'east' },
          args: { pull: { payload: 'speed' } },
          origin: 'code',
        },
        {
          id: 'hear',
          from: { channel: 'tension' },
          to: { at: 'brake', action: 'engage' },
          args: { force: { payload: 'pull' } },
        },
        { id: 'more', from: { channel: 'strain', key: 'east' }, to: { every: 'Brake', action: 'hold' } },
      ],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      properties: [{ name: 'line', type: 'enum:Line', default: 'east' }],
      events: [
        {
          name: 'onGust',
          cause: { type: 'code' },
          payload: [{ name: 'speed', type: 'float' }],
          note: 'Wind.',
        },
        { name: 'onBlow', cause: { type: 'raised' }, payload: [{ name: 'speed', type: 'float' }] },
        { name: 'calm', cause: { type: 'raised' } },
      ],
      actions: [
        {
          name: 'blow',
          params: [{ name: 'speed', type: 'float' }],
          effects: [{ raise: 'onBlow', payload: { speed: { payload: 'speed' } } }],
        },
      ],
    },
    {
      id: 'Brake',
      kind: 'prefab',
      properties: [{ name: 'force', type: 'float', default: 0 }],
      actions: [
        {
          name: 'engage',
          params: [
            { name: 'force', type: 'float' },
            { name: 'line', type: 'enum:Line', optional: true },
          ],
          effects: [{ set: 'force', to: { param: 'force' } }],
        },
        { name: 'hold' },
      ],
    },
  ],
  rehearsals: [{ name: 'r', steps: [{ at: 0, publish: { channel: 'tension' } }] }],
}).project;

const after = (project: Project, changes: Change[]): Project => applyChanges(project, changes).project;
const findings = (project: Project): Finding[] => audit(project, { today: '2026-11-25' }).findings;
type Ref = Pick<CatalogueEntry, 'kind' | 'asset' | 'name'>;
const ref = (kind: Ref['kind'], asset: string, name: string): Ref => ({ kind, asset, name });

describe('the catalogue', () => {
  const entries = catalogueOf(indexProject(RIDGE));
  const entry = (name: string): (typeof entries)[0] => entries.find((e) => e.name === name)!;
  it.each([
    ['onGust', 0, 2, ['in code']],
    ['onBlow', 1, 0, ['unheard', 'no note']],
    ['calm', 0, 0, ['unheard', 'never raised', 'no note', 'odd name']],
    ['engage', 2, 0, ['no note']],
    ['blow', 0, 0, ['never raised', 'no note']],
    ['tension', 1, 1, ['unkeyed', 'in code', 'no note']],
    ['strain', 0, 1, ['never raised', 'no note']],
    ['silence', 0, 0, ['unheard', 'never raised', 'no note']],
    ['Line', 2, 0, []],
    ['Words', 0, 0, ['unused']],
  ])('%s: brought about %i, heard %i, %j', (name, brings, hears, marks) => {
    const e = entry(name);
    expect([e.brings, e.hears, [...e.marks].sort()]).toEqual([brings, hears, [...marks].sort()]);
  });
  it('lists who uses an entry as often as it counts', () => {
    for (const project of [RIDGE, DEMO, ...Array.from({ length: 40 }, (_, i) => randomProject(i))]) {
      const index = indexProject(project);
      for (const e of catalogueOf(index)) {
        const uses = usesOfEntry(index, e);
        const count = (side: string): number => uses.filter((u) => u.side === side).length;
        expect([e.kind, e.asset, e.name, count('brings'), count('hears')]).toEqual([
          e.kind,
          e.asset,
          e.name,
          e.brings,
          e.hears,
        ]);
      }
    }
  });
});

describe('renaming', () => {
  it.each([
    ref('event', 'Mast', 'onGust'),
    ref('action', 'Brake', 'engage'),
    ref('channel', '', 'tension'),
    ref('enum', '', 'Line'),
    ref('table', '', 'Words'),
  ])('%j is carried along: nothing dangles, and back again is the very same project', (r) => {
    const index = indexProject(RIDGE);
    const next = after(RIDGE, renameName(index, nameOfEntry(r), 'onOther'));
    const { added } = compareFindings(findings(RIDGE), findings(next));
    expect(added.filter((f) => f.severity === 'error')).toEqual([]);
    const back = after(next, renameName(indexProject(next), nameOfEntry({ ...r, name: 'onOther' }), r.name));
    expect(back).toEqual(RIDGE);
    expect(usesOfEntry(indexProject(next), { ...r, name: 'onOther' }).length).toBe(
      usesOfEntry(index, r).length,
    );
  });
  it('a channel takes the steps of rehearsals along', () => {
    const next = after(
      RIDGE,
      renameName(indexProject(RIDGE), nameOfEntry(ref('channel', '', 'tension')), 'load'),
    );
    expect(next.rehearsals![0].steps[0]).toEqual({ at: 0, publish: { channel: 'load' } });
  });
  it('an event of the demo with many uses brings no new finding but by its name', () => {
    const r = ref('event', 'LineController', 'onHalt');
    const next = after(DEMO, renameName(indexProject(DEMO), nameOfEntry(r), 'onStandstill'));
    const said = (list: Finding[]): string[] => list.map((f) => `${f.rule} ${f.severity}`).sort();
    expect(said(findings(next))).toEqual(said(findings(DEMO)));
  });
});

describe('changing what an entry carries', () => {
  it('a field of an event under another name is read by its bindings under that name', () => {
    const changes = changeFields(indexProject(RIDGE), ref('event', 'Mast', 'onGust'), [
      { name: 'wind', type: 'float' },
    ]);
    const next = after(RIDGE, changes);
    expect(next.assets[0].bindings![0].args).toEqual({ force: { payload: 'wind' } });
    expect(next.assets[0].bindings![1].args).toEqual({ pull: { payload: 'wind' } });
    expect(findings(next).filter((f) => f.severity === 'error')).toEqual([]);
  });
  it('a field of a channel is filled and read under its new name', () => {
    const next = after(
      RIDGE,
      changeFields(indexProject(RIDGE), ref('channel', '', 'tension'), [{ name: 'load', type: 'float' }]),
    );
    expect(next.assets[0].bindings![1].args).toEqual({ load: { payload: 'speed' } });
    expect(next.assets[0].bindings![2].args).toEqual({ force: { payload: 'load' } });
    expect(findings(next).filter((f) => f.severity === 'error')).toEqual([]);
  });
  it('a parameter is filled by bindings and read by effects under its new name', () => {
    const fields = [
      { name: 'grip', type: 'float' as const },
      { name: 'line', type: 'enum:Line' as const, optional: true },
    ];
    const next = after(RIDGE, changeFields(indexProject(RIDGE), ref('action', 'Brake', 'engage'), fields));
    expect(next.assets[0].bindings![0].args).toEqual({ grip: { payload: 'speed' } });
    expect(next.assets[2].actions![0].effects).toEqual([{ set: 'force', to: { param: 'grip' } }]);
    expect(findings(next).filter((f) => f.severity === 'error')).toEqual([]);
  });
  it('the effects that raise an event fill its field under the new name', () => {
    const next = after(
      RIDGE,
      changeFields(indexProject(RIDGE), ref('event', 'Mast', 'onBlow'), [{ name: 'wind', type: 'float' }]),
    );
    expect(next.assets[1].actions![0].effects).toEqual([
      { raise: 'onBlow', payload: { wind: { payload: 'speed' } } },
    ]);
  });
  it('another type is not guessed at: the audit says what no longer fits', () => {
    const next = after(
      RIDGE,
      changeFields(indexProject(RIDGE), ref('event', 'Mast', 'onGust'), [{ name: 'speed', type: 'string' }]),
    );
    expect(findings(next).filter((f) => f.rule === 'payload-mismatch')).toHaveLength(2);
  });
});

describe('retiring, merging, moving, noting', () => {
  it('a retired event goes with its bindings and the effects that raise it', () => {
    const next = after(RIDGE, retireEntry(indexProject(RIDGE), ref('event', 'Mast', 'onGust')));
    expect(next.assets[0].bindings!.map((b) => b.id)).toEqual(['hear', 'more']);
    const blown = after(RIDGE, retireEntry(indexProject(RIDGE), ref('event', 'Mast', 'onBlow')));
    expect(blown.assets[1].actions![0].effects).toEqual([]);
  });
  it('a retired channel goes with what tells and hears it', () => {
    const next = after(RIDGE, retireEntry(indexProject(RIDGE), ref('channel', '', 'tension')));
    expect(next.assets[0].bindings!.map((b) => b.id)).toEqual(['gust', 'more']);
    expect(next.channels!.map((c) => c.name)).toEqual(['strain', 'silence']);
  });
  it('two channels become one', () => {
    const next = after(
      RIDGE,
      mergeEntries(indexProject(RIDGE), ref('channel', '', 'strain'), ref('channel', '', 'tension')),
    );
    expect(next.channels!.map((c) => c.name)).toEqual(['tension', 'silence']);
    expect(next.assets[0].bindings![3].from).toEqual({ channel: 'tension', key: 'east' });
  });
  it('two events become one, and no name stands twice', () => {
    const next = after(
      RIDGE,
      mergeEntries(indexProject(RIDGE), ref('event', 'Mast', 'onBlow'), ref('event', 'Mast', 'onGust')),
    );
    expect(next.assets[1].events!.map((e) => e.name)).toEqual(['onGust', 'calm']);
    expect(next.assets[1].events![0].cause).toEqual({ type: 'code' });
    expect(next.assets[1].actions![0].effects).toMatchObject([{ raise: 'onGust' }]);
    expect(() => readProject(structuredClone(next))).not.toThrow();
  });
  it('two enums become one with the values of both', () => {
    const next = after(
      RIDGE,
      mergeEntries(indexProject(RIDGE), ref('enum', '', 'Line'), ref('enum', '', 'Track')),
    );
    expect(next.enums).toEqual([
      { name: 'Track', values: ['west', 'north', 'east'] },
      { name: 'Idle', values: [] },
    ]);
    expect(next.assets[1].properties![0].type).toBe('enum:Track');
  });
  it('a moved event is declared there and gone here; what used it dangles and is found', () => {
    const next = after(RIDGE, moveEntry(indexProject(RIDGE), ref('event', 'Mast', 'onGust'), 'Brake'));
    expect(next.assets[2].events!.map((e) => e.name)).toEqual(['onGust']);
    const { added } = compareFindings(findings(RIDGE), findings(next));
    expect(added.filter((f) => f.rule === 'dangling-sender')).toHaveLength(2);
  });
  it('a note is written', () => {
    const next = after(
      RIDGE,
      noteEntry(indexProject(RIDGE), ref('channel', '', 'silence'), 'For the night.'),
    );
    expect(next.channels![2].note).toBe('For the night.');
  });
});

describe('the catalogue for others', () => {
  it('as CSV has a row for each entry; as JSON the entries; as a page every name, with nothing to run', () => {
    const index = indexProject({ ...RIDGE, name: 'Ridge <b>' });
    const rows = parse(catalogueCsv(index));
    expect(rows.length).toBe(catalogueOf(index).length + 1);
    expect(rows.find((r) => r[2] === 'onGust')).toEqual([
      'event',
      'Mast',
      'onGust',
      'speed: float',
      'the game’s code',
      '0',
      '2',
      'in code',
      'Wind.',
    ]);
    expect((JSON.parse(catalogueJson(index)) as { entries: unknown[] }).entries).toHaveLength(
      rows.length - 1,
    );
    const page = catalogueHtml(index);
    for (const e of catalogueOf(index)) expect(page).toContain(`<b>${e.name}</b>`);
    expect(page).toContain('Ridge &lt;b&gt;');
    expect(page).not.toMatch(/<script|https?:/);
  });
});
