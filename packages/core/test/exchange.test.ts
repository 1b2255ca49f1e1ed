import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  audit,
  bindingsCsv,
  makeForRows,
  canonicalJson,
  CsvFault,
  csvChanges,
  guessMapping,
  indexProject,
  readCsvBindings,
  readCsvTable,
  readProjectText,
  type CsvRow,
  type Project,
} from '../src/index.js';
import { randomProject } from './random-project.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;
const WITHOUT = (project: Project): Project => ({
  ...project,
  assets: project.assets.map((a) => (a.bindings ? { ...a, bindings: [] } : a)),
});
function read(project: Project, text: string, owner = ''): CsvRow[] {
  const table = readCsvTable(text);
  return readCsvBindings(indexProject(project), table, guessMapping(table.columns), owner);
}

describe('bindings as a table', () => {
  it('come back as the very same bindings, in the same order', () => {
    for (const project of [DEMO, ...Array.from({ length: 200 }, (_, i) => randomProject(i))]) {
      const bare = WITHOUT(project);
      const rows = read(bare, bindingsCsv(project));
      expect(rows.flatMap((r) => r.faults)).toEqual([]);
      const back = applyChanges(bare, csvChanges(indexProject(bare), rows)).project;
      const bindings = (p: Project): string[] =>
        p.assets.flatMap((a) => (a.bindings ?? []).map((b) => `${a.id} ${canonicalJson(b)}`));
      const [is, was] = [bindings(back), bindings(project)];
      expect(is.filter((b, i) => b !== was[i])).toEqual([]);
      expect(is).toHaveLength(was.length);
    }
  });
  it('keep notes and texts of any kind: blanks at their ends, empty, like a formula, with line ends', () => {
    const texts = [
      '',
      ' ',
      ' a',
      'b ',
      '=1+1',
      '+a',
      '-b',
      '@c',
      "'=d",
      "''",
      '\t=e',
      '-5',
      '"',
      'a,b;c',
      'one\ntwo',
      '\r\n',
    ];
    const bindings = texts.map((note, i) => ({
      id: `b${i}`,
      from: { at: '.', event: 'onA' },
      to: { at: '.', action: 'a' },
      args: { text: note },
      note,
    }));
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Notes',
      assets: [
        {
          id: 'hut',
          kind: 'scene',
          events: [{ name: 'onA', cause: { type: 'use' } }],
          actions: [{ name: 'a', params: [{ name: 'text', type: 'string' }] }],
          bindings,
        },
      ],
    };
    const bare = WITHOUT(project);
    const text = bindingsCsv(project);
    expect(text).not.toMatch(/(^|,)"?[=+@]/m);
    const rows = read(bare, text);
    expect(rows.flatMap((r) => r.faults)).toEqual([]);
    const back = applyChanges(bare, csvChanges(indexProject(bare), rows)).project;
    expect(back.assets[0].bindings).toEqual(bindings);
  });
  it('change nothing where they are there already, and what was edited in between', () => {
    const text = bindingsCsv(DEMO);
    expect(new Set(read(DEMO, text).map((r) => r.state))).toEqual(new Set(['same']));
    const rows = read(DEMO, text.replace(/(,brake-1,engage,[^,\r]*,[^,\r]*),/, '$1,after 2s '));
    const changed = rows.filter((r) => r.state === 'changed');
    expect(changed).toHaveLength(1);
    expect(csvChanges(indexProject(DEMO), rows)).toMatchObject([{ op: 'replace', item: { delay: 2 } }]);
  });
});

describe('a table from elsewhere', () => {
  const HEAD = 'scene,from,event,to,action,args,times,delay,on,origin,binding,remark,only if';
  const GOOD =
    'pylon-ridge,mast-2,onGust,brake-4,engage,force = $speed,2,0.5,yes,authored,gust-x,from the table,$speed > 12';

  it('is read by what its columns are called, whatever separates them', () => {
    for (const d of [',', ';', '\t']) {
      const text = `\ufeff${HEAD.replaceAll(',', d)}\r\n${GOOD.replaceAll(',', d)}\r\n\r\n`;
      expect(read(DEMO, text)).toMatchObject([
        {
          line: 2,
          asset: 'pylon-ridge',
          state: 'new',
          binding: {
            id: 'gust-x',
            from: { at: 'mast-2', event: 'onGust' },
            to: { at: 'brake-4', action: 'engage' },
            args: { force: { payload: 'speed' } },
            limit: 2,
            delay: 0.5,
            enabled: true,
            origin: 'authored',
            note: 'from the table',
            if: [{ payload: 'speed', is: { over: 12 } }],
          },
        },
      ]);
    }
  });
  it('may leave out ids, the scene and options; a name is found for each', () => {
    const text =
      'sender,event,receiver,action\nmast-2,onGust,brake-4,release\nmast-2,onGust,every Beacon,light\n';
    const rows = read(DEMO, text, 'pylon-ridge');
    expect(rows.map((r) => r.state)).toEqual(['new', 'new']);
    const now = applyChanges(DEMO, csvChanges(indexProject(DEMO), rows)).project;
    const ids = now.assets
      .find((a) => a.id === 'pylon-ridge')!
      .bindings!.slice(-2)
      .map((b) => b.id);
    expect(new Set(ids).size).toBe(2);
    // Read once more, they are there.
    expect(read(now, text, 'pylon-ridge').map((r) => r.state)).toEqual(['same', 'same']);
  });
  it('may be wire lines', () => {
    const text = 'asset,line\npylon-ridge,"when mast-2.onGust do brake-4.engage(force = $speed) once"\n';
    expect(read(DEMO, text)).toMatchObject([{ state: 'new', binding: { limit: 1 } }]);
  });

  const cell = (column: number, text: string): string =>
    GOOD.split(',')
      .map((c, i) => (i === column ? text : c))
      .join(',');
  it.each([
    ['too few cells', 'pylon-ridge,mast-2,onGust', null, 'has 3 cells, but there are 13 columns'],
    ['too many cells', `${GOOD},more`, null, 'has 14 cells, but there are 13 columns'],
    [
      'an asset that is not there',
      cell(0, 'pylon-rigde'),
      'scene',
      'no scene, prefab or widget "pylon-rigde"',
    ],
    ['no asset', cell(0, ''), 'scene', 'is empty, and no default asset'],
    ['no sender', cell(1, ''), 'from', 'is empty'],
    ['no event', cell(2, ''), 'event', 'is empty'],
    ['no receiver', cell(3, ''), 'to', 'is empty'],
    ['no action', cell(4, ''), 'action', 'is empty'],
    ['an event that is not a valid name', cell(2, 'on Gust'), 'event', 'at character 4'],
    ['arguments that cannot be read', cell(5, 'force = = 3'), 'args', 'at character 9'],
    ['a limit of nothing', cell(6, '0'), 'times', '"0" is not a whole number from 1'],
    ['a delay before its time', cell(7, '-1'), 'delay', '"-1" is not a number of seconds'],
    ['a delay in words', cell(7, 'soon'), 'delay', '"soon" is not a number of seconds'],
    [
      'a condition that cannot be read',
      cell(12, '$speed > fast'),
      'only if',
      'expected a number, found "fast" at character 10',
    ],
    ['neither yes nor no', cell(8, 'perhaps'), 'on', '"perhaps" is not yes or no'],
    ['an origin that is none', cell(9, 'magic'), 'origin', '"magic" is not code or authored'],
    ['an id that is not a valid name', cell(10, 'gust x'), 'binding', '"gust x" is not a valid name'],
    ['an id that is too long', cell(10, 'x'.repeat(65)), 'binding', 'is not a valid name'],
    [
      'from a channel to a channel',
      'pylon-ridge,#tension,,#weather,,,,,,,gust-x,,',
      'to',
      'what is heard on a channel cannot be published again',
    ],
  ])('tells of %s in its row and column, and takes nothing of it', (_, bad, column, text) => {
    const rows = read(DEMO, `${HEAD}\n${GOOD.replace('gust-x', 'gust-y')}\n${bad}\n`);
    expect(rows[0]).toMatchObject({ state: 'new', faults: [] });
    expect(rows[1]).toMatchObject({ line: 3, state: 'broken', binding: null });
    expect(rows[1].faults.map((f) => f.column)).toContain(column);
    expect(rows[1].faults.map((f) => f.text).join('; ')).toContain(text);
    expect(csvChanges(indexProject(DEMO), rows)).toHaveLength(1);
  });
  it('may have quotes inside of a cell as they are typed by hand', () => {
    const rows = read(
      DEMO,
      `${HEAD}\npylon-ridge,mast-2,onStruck,horn-2,sound,announcement = "announce.wind",,,,,,,\n`,
    );
    expect(rows[0]).toMatchObject({ state: 'new', binding: { args: { announcement: 'announce.wind' } } });
  });
  it('tells every fault of a row at once', () => {
    const [row] = read(
      DEMO,
      `${HEAD}\nnowhere,mast-2,onGust,brake-4,engage,force = = 3,0,soon,perhaps,magic,a b,,\n`,
    );
    expect(row.faults.map((f) => f.column)).toEqual([
      'scene',
      'args',
      'times',
      'delay',
      'on',
      'origin',
      'binding',
    ]);
  });
  it('tells of an id that stands twice, and of lines as they stand in the file', () => {
    const noted = GOOD.replace('from the table', '"a note\nof two lines"').replace('gust-x', 'gust-y');
    const rows = read(DEMO, `${HEAD}\n${noted}\n\n${GOOD}\n${GOOD}\n`);
    expect(rows.map((r) => [r.line, r.state])).toEqual([
      [3, 'new'],
      [5, 'new'],
      [6, 'broken'],
    ]);
    expect(rows[2].faults).toEqual([
      { column: 'binding', text: '"gust-x" already appears in an earlier row' },
    ]);
  });
  it('tells what the audit would say of a row that can be taken', () => {
    const [row] = read(DEMO, `${HEAD}\n${cell(3, 'brake-99')}\n`);
    expect(row.state).toBe('new');
    expect(row.doubts.join()).toMatch(/brake-99/);
  });
  it.each([
    ['', 'the file is empty'],
    ['a,b\n"open,1\n', 'cannot be read as a table'],
  ])('that is no table is refused: %j', (text, message) => {
    expect(() => readCsvTable(text)).toThrow(CsvFault);
    expect(() => readCsvTable(text)).toThrow(message);
  });
});

describe('a table that names what is not there', () => {
  const text = [
    'asset,sender,event,receiver,action,arguments',
    'valley-station,bell-1,onRung,lamp-1,light,colour = red',
    'valley-station,bell-2,onRung,lamp-2,light,colour = red',
    'pylon-ridge,bell-1,onRung,mast-2,chime,',
    'pylon-ridge,mast-2,onGsut,brake-2,engage,force = 3',
  ].join('\n');
  const index = indexProject(DEMO);
  const rows = read(DEMO, text);
  it('makes it, owner by owner, each thing once; a slip of the pen is asked about', () => {
    const asked = makeForRows(index, rows);
    expect(asked.changes).toBeNull();
    expect(asked.needs.filter((n) => n.isOpen).map((n) => [n.name, n.near])).toEqual([
      ['onGsut', ['onGust']],
    ]);
    const made = makeForRows(index, rows, new Map([['event:WindMast/onGsut', { use: 'onGust' }]]));
    expect(made.rows.flatMap((r) => r.doubts)).toEqual([]);
    const { project } = applyChanges(DEMO, made.changes!);
    const { findings } = audit(project, { today: '2026-11-25' });
    const before = new Set(audit(DEMO, { today: '2026-11-25' }).findings.map((f) => f.fingerprint));
    expect(findings.filter((f) => f.severity === 'error' && !before.has(f.fingerprint))).toEqual([]);
    expect(project.assets.filter((a) => ['Bell', 'Lamp'].includes(a.id))).toHaveLength(2);
    expect(project.assets.find((a) => a.id === 'pylon-ridge')!.placements!.at(-1)).toMatchObject({
      id: 'bell-1',
      asset: 'Bell',
    });
  });
  it('makes nothing where everything is there', () => {
    const all = read(DEMO, bindingsCsv(DEMO));
    expect(makeForRows(index, all)).toMatchObject({ needs: [], changes: [] });
  });
});
