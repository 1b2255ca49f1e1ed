import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  indexProject,
  readNote,
  type Project,
  type Vec2,
  type Wish,
} from '../src/index.js';
import { Random } from './random.js';
import { EMPTY, LIT, declared } from './declare-lines.js';

describe('what somebody writes instead', () => {
  it.each<[string, string, string, (p: Project) => unknown, unknown]>([
    [
      'another prefab and place',
      'placement:lamp-2',
      'place lamp-2 of Lamp at 5, 5 asleep',
      (p) => p.assets[0].placements?.at(-1),
      { id: 'lamp-2', asset: 'Lamp', at: [5, 5], asleep: true },
    ],
    [
      'another cause',
      'event:Lamp/onWorn',
      'event onWorn every 30s',
      (p) => p.assets[1].events?.at(-1),
      { name: 'onWorn', cause: { type: 'timer', every: 30 } },
    ],
    [
      'effects',
      'action:Lamp/dim',
      'action dim(by: float): set side to "west"',
      (p) => p.assets[1].actions?.at(-1)?.effects,
      [{ set: 'side', to: 'west' }],
    ],
    [
      'other fields',
      'channel:town',
      'channel town(glow: float)',
      (p) => p.channels?.at(-1),
      { name: 'town', payload: [{ name: 'glow', type: 'float' }] },
    ],
  ])('%s', (_, key, text, made, expected) => {
    const { needs, changes } = declared(
      LIT,
      ['when lamp-1.onWorn do lamp-2.dim', 'when lamp-1.onLit do #town(glow = $glow)'],
      [[key, { text }]],
    );
    expect(needs.every((n) => n.fault === null)).toBe(true);
    expect(made(applyChanges(LIT, changes).project)).toEqual(expected);
  });
  it.each([
    ['placement:lamp-2', 'place lamp-2 of', 'at character 16'],
    ['placement:lamp-2', 'place lamp-9 of Lamp', 'it must declare the placement lamp-2'],
    ['placement:lamp-2', 'place lamp-2 of yard', 'yard cannot be placed here'],
    ['event:Lamp/onWorn', 'action onWorn', 'it must declare the event onWorn'],
    ['event:Lamp/onWorn', 'event onWorn(', 'at character'],
    ['channel:town', 'channel city', 'it must declare the channel town'],
  ])('what cannot be taken is reported: %s as %s', (key, text, words) => {
    const { needs } = declared(
      LIT,
      ['when lamp-1.onWorn do lamp-2.light(colour = red)', 'when lamp-1.onLit do #town'],
      [[key, { text }]],
    );
    expect(needs.find((n) => n.key === key)!.fault).toContain(words);
  });
});

describe('any lines', () => {
  const WORDS = ['plate', 'lamp', 'gate', 'horn', 'bell', 'crane', 'ferry', 'winch'];
  const EVENTS = ['onStepped', 'onLit', 'onOpened', 'onRung', 'onMoved'];
  const ACTIONS = ['light', 'open', 'ring', 'move', 'rest'];
  function randomLine(r: Random): string {
    const thing = (): string => `${r.pick(WORDS)}-${1 + r.int(6)}`;
    const arg = r.pick(['3', '2.5', 'true', '"red"', '$force', '@weight', 'sender']);
    const to = r.pick([
      `${thing()}.${r.pick(ACTIONS)}(how = ${arg})`,
      `${thing()}.${r.pick(ACTIONS)}`,
      `every ${r.pick(['Lamp', 'Gate'])}[row = ${r.pick(['1', '@row'])}].${r.pick(ACTIONS)}`,
      `#${r.pick(['town', 'yard'])}(how = ${arg})`,
    ]);
    const from = to.startsWith('#') || r.chance(0.8) ? `${thing()}.${r.pick(EVENTS)}` : '#town';
    return `when ${from} do ${to}${r.chance(0.3) ? ' if $force > 2' : ''}`;
  }
  it('have all that they name afterwards, each thing in a place of its own inside the plan, the same each time', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const r = new Random(seed);
      const project = r.chance(0.5) ? EMPTY : LIT;
      const lines = Array.from({ length: 1 + r.int(50) }, () => randomLine(r));
      const first = declared(project, lines);
      // Names that look alike are not the point here.
      const wishes = first.needs.map((n): [string, Wish] => [n.key, { make: true }]);
      const { needs, changes } = declared(project, lines, wishes);
      expect(declared(project, lines, wishes)).toEqual({ ...declared(project, lines, wishes), needs });
      const { project: after, inverse } = applyChanges(project, changes);
      expect(applyChanges(after, inverse).project).toEqual(project);
      const { findings } = audit(after, { today: '2026-11-28' });
      expect(findings.filter((f) => /^dangling-(target|sender)$/.test(f.rule))).toEqual([]);
      const [yard] = after.assets;
      const at = yard.placements!.map((p) => p.at!);
      for (const [i, [x, y]] of at.entries()) {
        expect(x >= 0 && y >= 0 && x <= yard.size![0] && y <= yard.size![1]).toBe(true);
        for (const b of at.slice(i + 1)) expect(apart([x, y], b)).toBeGreaterThanOrEqual(2);
      }
      expect(yard.bindings).toHaveLength(lines.length);
    }
  });
  function apart([x, y]: Vec2, [a, b]: Vec2): number {
    return Math.hypot(x - a, y - b);
  }
});

describe('a note', () => {
  const index = indexProject(LIT);
  const text = [
    '// At night',
    'when plate-1.onStepped do lamp-1.light(colour = red)',
    '',
    'when plate-1.onStepped lamp-1.light',
    'when lamp-1.onLit do bay:door.open',
    'when plate-2.onStepped do lamp-1.light(tint = red)',
  ].join('\n');
  it('ticks what is new or can be made so, and leaves what stays at fault', () => {
    const { lines, needs, changes, count } = readNote(index, index.assets[0], text);
    expect(lines.map((l) => [l.number, l.state, l.isTicked])).toEqual([
      [2, 'new', true],
      [4, 'broken', false],
      [5, 'faulty', false],
      [6, 'faulty', false],
    ]);
    expect(needs.map((n) => n.name)).toEqual(['plate-1', 'Plate', 'onStepped']);
    expect(count).toBe(1);
    expect(applyChanges(LIT, changes!).project.assets[0].bindings).toHaveLength(1);
  });
  it('makes for the lines that are ticked alone, and nothing where nobody wants it', () => {
    const ticks = new Map([
      [2, false],
      [6, true],
    ]);
    expect(readNote(index, index.assets[0], text, { ticks }).needs.map((n) => n.name)).toContain('plate-2');
    const bare = readNote(index, index.assets[0], text, { isMaking: false, ticks: new Map([[2, true]]) });
    expect(bare.needs).toEqual([]);
    expect(bare.changes).toHaveLength(1);
  });
  it('waits for answers', () => {
    const slip = 'when lamp-1.onLti do lamp-1.light(colour = red)';
    const { lines, changes } = readNote(index, index.assets[0], slip);
    expect([lines[0].state, lines[0].isTicked, changes]).toEqual(['asked', true, null]);
    const wishes = new Map([['event:Lamp/onLti', { use: 'onLit' }]]);
    expect(readNote(index, index.assets[0], slip, { wishes }).changes).toHaveLength(1);
  });
});
