import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  assetLines,
  audit,
  canonicalJson,
  chosenLines,
  indexProject,
  projectLines,
  readLines,
  readProjectText,
  type Asset,
  type NoteAsk,
  type Project,
  type ReadLines,
} from '../src/index.js';
import { seeds } from './random.js';
import { randomProject } from './random-project.js';
import { randomTables } from './random-tables.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;
const EMPTY: Project = { format: 'oquel.project/1', name: 'Empty', assets: [] };

function read(project: Project, text: string, owner = '', ask: NoteAsk = {}): ReadLines {
  return readLines(indexProject(project), owner, text, ask);
}
/** The project with everything that the lines say, as it is. */
function taken(project: Project, text: string, owner = ''): Project {
  const first = read(project, text, owner, { isMaking: false });
  const ticks = new Map(first.lines.filter((l) => l.binding).map((l) => [l.number, true]));
  const { changes, lines } = read(project, text, owner, { isMaking: false, ticks });
  expect(
    lines.filter((l) => l.state === 'broken').map((l) => `${l.number}: ${l.text} ${l.reasons.join()}`),
  ).toEqual([]);
  return changes ? applyChanges(project, changes).project : project;
}
/** What lines can say of a project, with the name of another. */
function sayable(project: Project): Project {
  const { policy: _policy, waivers: _waivers, rehearsals: _rehearsals, note: _note, ...rest } = project;
  return { ...rest, name: EMPTY.name };
}
function findings(project: Project): unknown[] {
  const result = audit(project, { today: '2026-01-01' });
  return result.findings.map(
    (f) => `${f.rule} ${f.class ?? ''} ${canonicalJson(f.subject)} ${f.message} ${f.fingerprint}`,
  );
}

describe('a project as lines', () => {
  const faulty = Array.from({ length: seeds(80) }, (_, i) => randomProject(i));
  const declared = Array.from({ length: seeds(40) }, (_, i) => randomTables(i));
  it.each([
    ['the demo', [DEMO]],
    ['projects that are full of faults', faulty],
    ['projects of declarations with texts that are hard to carry', declared],
  ])('gives the same wiring and the same audit in an empty project: %s', (_of, projects) => {
    for (const project of projects) {
      const { text } = projectLines(indexProject(project));
      const back = taken(EMPTY, text);
      const wiring = (p: Project): string[] =>
        p.assets.flatMap((a) => (a.bindings ?? []).map((b) => `${a.id} ${canonicalJson(b)}`));
      expect(wiring(back)).toEqual(wiring(project));
      expect(findings(back)).toEqual(findings(sayable(project)));
      // Once more, all of it is there.
      const again = read(back, text);
      expect([again.lines.filter((l) => l.state !== 'wired').map((l) => l.text), again.changes]).toEqual([
        [],
        null,
      ]);
    }
  });
  it('names what lines do not say', () => {
    const { left, text } = projectLines(indexProject(DEMO));
    expect(left).toEqual(['the note of the project', 'the policy', '3 waivers', '5 rehearsals']);
    expect(text.split('\n').slice(-6)).toEqual([
      '// Not in these lines:',
      '//   the note of the project',
      '//   the policy',
      '//   3 waivers',
      '//   5 rehearsals',
      '',
    ]);
    const area = { ...EMPTY, assets: [{ id: 'a', kind: 'prefab' as const, area: { circle: 0 } }] };
    expect(projectLines(indexProject(area)).left).toEqual(['the asset a']);
  });
});

describe('some of a project as lines', () => {
  const index = indexProject(DEMO);
  const asset = (project: Project, id: string): Asset | undefined => project.assets.find((a) => a.id === id);
  it('is a scene with all that it needs, and says to which scenes it leads', () => {
    const { text, left } = assetLines(index, ['summit-refuge']);
    const back = taken(EMPTY, text);
    expect(asset(back, 'summit-refuge')).toEqual(asset(DEMO, 'summit-refuge'));
    expect(asset(back, 'Heater')).toEqual(asset(DEMO, 'Heater'));
    expect(back.enums?.map((e) => e.name)).toEqual(['Line', 'Weather']);
    expect(asset(back, 'valley-station')).toBeUndefined();
    for (const scene of left) expect(scene).toMatch(/, to which lines lead$/);
  });
  it('is what is chosen with the bindings between it, for any scene', () => {
    const owner = index.assets[index.assetAt.get('valley-station')!];
    const { text } = chosenLines(index, owner, ['mat-1', 'horn-1', 'winch-1']);
    const yard: Project = { ...EMPTY, assets: [{ id: 'yard', kind: 'scene' }] };
    const back = taken(yard, text, 'yard');
    expect(asset(back, 'yard')!.placements!.map((p) => p.id)).toEqual(['winch-1', 'mat-1', 'horn-1']);
    expect(asset(back, 'StepMat')).toEqual(asset(DEMO, 'StepMat'));
  });
});

const LAMPS = `// lamps
enum Hue: red, blue
channel tension(speed: float) note "of the rope"
key table texts: hello
load set day: yard
peer host server

prefab Lamp area circle 2 #light
  property hue: enum:Hue = "red" key
  event onLit(speed: float) when raised at most 3 raised by all but others unreliable note "seldom"
  action light(speed: float) note "at once": set hue to "blue"; raise onLit with (speed = $speed)
scene yard 40 x 24 always loaded
  place lamp-1 of Lamp at 5, 3
  place lamp-2 of Lamp with (hue = "blue")
  when lamp-1.onLit do lamp-2.light(speed = $speed) once
tag bright: Lamp
`;

describe('lines that declare, place and wire', () => {
  it('make a project out of nothing, as one edit', () => {
    const { changes, declared, count, lines } = read(EMPTY, LAMPS);
    expect(lines.map((l) => l.state)).toEqual(lines.map(() => 'new'));
    expect([declared, count]).toEqual([13, 1]);
    const { project } = applyChanges(EMPTY, changes!);
    expect(project).toMatchObject({
      enums: [{ name: 'Hue', values: ['red', 'blue'] }],
      channels: [{ name: 'tension', note: 'of the rope' }],
      loadSets: [{ name: 'day', scenes: ['yard'] }],
      peers: [{ name: 'host', role: 'server' }],
      assets: [
        {
          id: 'Lamp',
          tags: ['light', 'bright'],
          events: [
            {
              name: 'onLit',
              limit: 3,
              delivery: { send: { except: ['others'] }, reliable: false },
              note: 'seldom',
            },
          ],
          actions: [{ name: 'light', note: 'at once' }],
        },
        { id: 'yard', size: [40, 24], persistent: true, bindings: [{ limit: 1 }] },
      ],
    });
    const [first, second] = project.assets[1].placements!;
    expect(first.at).toEqual([5, 3]);
    expect(second.at).toBeDefined();
    expect(second.at).not.toEqual(first.at);
  });
  it('make what their wire lines and placements need besides', () => {
    const note = read(
      EMPTY,
      'scene yard\nplace bell of Bell\nwhen bell.onRung do lamp-1.light\nscene quay\nwhen lamp-9.onLit do #lit\n',
    );
    expect(note.needs.map((n) => n.text)).toEqual(
      expect.arrayContaining(['prefab Bell', 'prefab Lamp', 'action light', 'channel lit']),
    );
    const { project } = applyChanges(EMPTY, note.changes!);
    expect(audit(project, { today: '2026-01-01' }).summary.error).toBe(0);
  });
  it('leave what is there as it is, until somebody ticks that it be changed; what a line does not say stays', () => {
    const lamps = applyChanges(EMPTY, read(EMPTY, LAMPS).changes!).project;
    const text = 'prefab Lamp\nevent onLit when used\n';
    const first = read(lamps, text);
    expect(first.lines.map((l) => l.state)).toEqual(['wired', 'faulty']);
    expect(first.lines[1].reasons[0]).toMatch(/^it exists as: event onLit\(speed: float\) when raised/);
    expect(first.changes).toBeNull();
    const { changes } = read(lamps, text, '', { ticks: new Map([[2, true]]) });
    expect(changes).toMatchObject([
      { asset: 'Lamp', part: 'events', value: [{ name: 'onLit', cause: { type: 'use' }, note: 'seldom' }] },
    ]);
  });
  it.each<[text: string, reason: string | RegExp]>([
    ['when a.onB do c.d', /^expected a line above it that names the scene or prefab/],
    ['scene yard\nevent', /^expected .*when/],
    ['scene yard 40', 'expected "x" and the depth, found the end of the line'],
    ['prefab 9', 'expected the name of the prefab, found "9"'],
    ['scene yard\nplace lamp', 'expected "of" and a prefab or widget, found the end of the line'],
    ['scene yard\nevent onA when sneezed', /^expected entered, left/],
    ['scene yard\nevent onA\nevent onA', 'onA already appears in line 2'],
    ['enum Hue red', 'expected ":" and a value, found "red"'],
    ['scene yard\nproperty hue', 'expected ":" and a type, or "=" and a value, found the end of the line'],
    ['tag loud: Bell', 'there is no Bell'],
    ['scene yard\naction open: explode', /^expected an effect/],
  ])('tell what is wrong: %j', (text, reason) => {
    const { lines } = read(EMPTY, text);
    const last = lines.at(-1)!;
    expect(last.isTicked).toBe(false);
    expect(last.reasons[0]).toEqual(typeof reason === 'string' ? reason : expect.stringMatching(reason));
  });
  it('a head that is not wanted leaves its lines without a home, and says so', () => {
    const { lines, changes } = read(EMPTY, 'scene yard\nwhen a-1.onB do c-1.d\n', '', {
      ticks: new Map([[1, false]]),
    });
    expect(lines.map((l) => [l.state, l.reasons])).toEqual([
      ['new', []],
      ['faulty', ['there is no scene, prefab or widget yard']],
    ]);
    expect(changes).toBeNull();
  });
});
