import { describe, expect, it } from '@jest/globals';
import { applyChanges, audit, isMisspelt, printWireLine, type Project } from '../src/index.js';
import { EMPTY, LIT, declared } from './declare-lines.js';

describe('what lines need', () => {
  it.each<[string, Project, string[], string[]]>([
    [
      'everything',
      EMPTY,
      ['when plate-1.onStepped do lamp-1.light(colour = "red") once'],
      [
        'place plate-1 of Plate at 4, 2.5',
        'prefab Plate',
        'event onStepped when entered',
        'place lamp-1 of Lamp at 11.5, 2.5',
        'prefab Lamp',
        'action light(colour: string)',
      ],
    ],
    ['nothing', LIT, ['when lamp-1.onLit do lamp-1.light(colour = red) if $glow > 2'], []],
    [
      'another of a prefab that is there, near what it talks to',
      LIT,
      ['when lamp-1.onLit do lamp-2.light(colour = red)'],
      ['place lamp-2 of Lamp at 26.5, 22.5'],
    ],
    [
      'another of what its siblings are, whatever that is called',
      {
        ...LIT,
        assets: [{ ...LIT.assets[0], placements: [{ id: 'torch-3', asset: 'Lamp' }] }, LIT.assets[1]],
      },
      ['when torch-3.onLit do torch-4.light(colour = red)'],
      ['place torch-4 of Lamp at 4, 2.5'],
    ],
    [
      'a prefab that is written otherwise is the same',
      { ...LIT, assets: [...LIT.assets, { id: 'RopeGauge', kind: 'prefab', actions: [{ name: 'read' }] }] },
      ['when lamp-1.onLit do rope-gauge-2.read'],
      ['place rope-gauge-2 of RopeGauge at 26.5, 22.5'],
    ],
    [
      'fields that are typed by what they are given to, and by what is asked of them',
      LIT,
      [
        'when lamp-1.onWorn(x) do'.replace(
          '(x) do',
          ' do lamp-1.light(colour = $tint) if $age >= 2.5 and $hours in (1, 2)',
        ),
      ],
      ['event onWorn(tint: string, age: float, hours: int) from code'],
    ],
    [
      'parameters that are typed by what they are given; what is left out once is optional',
      LIT,
      [
        'when lamp-1.onLit do lamp-1.dim(by = $glow, who = sender)',
        'when lamp-1.onLit do lamp-1.dim(by = 2.5)',
      ],
      ['action dim(by: int, who?: instance)'],
    ],
    [
      'numbers of which one is not whole',
      LIT,
      ['when lamp-1.onLit do lamp-1.dim(by = 1)', 'when lamp-1.onLit do lamp-1.dim(by = 2.5)'],
      ['action dim(by: float)'],
    ],
    [
      'a channel with what is reported and heard',
      LIT,
      [
        'when lamp-1.onLit do #town(glow = $glow)',
        'when #town do lamp-1.light(colour = $tint) if $late = true',
      ],
      ['channel town(glow: int, tint?: string, late?: bool)'],
    ],
    [
      'a key that a selection, and one that a channel, is reported by',
      LIT,
      [
        'when lamp-1.onLit do every Lamp[row = 3].light(colour = red)',
        'when lamp-1.onLit do #night[@street](by = me)',
      ],
      ['property row: int = 0 key', 'property street: string = "" key'],
    ],
    [
      'properties that are read',
      LIT,
      ['when lamp-1.onLit do lamp-1.light(colour = @tint) if @broken = false'],
      ['property tint: string = ""', 'property broken: bool = false'],
    ],
    [
      'an event of a new thing is raised by the action that it is named after',
      EMPTY,
      ['when lever-1.onPulled do gate-1.open', 'when gate-1.onOpened do lever-1.lock'],
      [
        'place lever-1 of Lever at 4, 2.5',
        'prefab Lever',
        'event onPulled when used',
        'place gate-1 of Gate at 11.5, 2.5',
        'prefab Gate',
        'action open: raise onOpened',
        'event onOpened when raised',
        'action lock',
      ],
    ],
    [
      'nothing for what cannot be a name',
      LIT,
      [
        'when lamp-1.onLit do "a lamp".light(colour = red)',
        'when lamp-1."on lit" do lamp-1.light(colour = red)',
        'when lamp-1.onLit do every "a lamp".light(colour = red)',
        'when lamp-1.onLit do #"the town"(by = me)',
      ],
      [],
    ],
    [
      'a widget holds widgets',
      { ...EMPTY, assets: [{ id: 'Board', kind: 'widget' }] },
      ['when button-1.onPressed do lamp-1.glow'],
      [
        'place button-1 of Button at 5, 3',
        'widget Button',
        'event onPressed when pressed',
        'place lamp-1 of Lamp at 15, 3',
        'widget Lamp',
        'action glow',
      ],
    ],
    [
      'nothing for paths that lead elsewhere',
      LIT,
      [
        'when lamp-1.onLit do bay:door-1.open',
        'when lamp-1.onLit do lamp-1/bulb.glow',
        'when hub/~Sled.onGone do lamp-1.light',
      ],
      [],
    ],
  ])('%s', (_, project, lines, texts) => {
    const { needs, changes } = declared(project, lines);
    expect(needs.map((n) => n.text)).toEqual(texts);
    expect(needs.every((n) => !n.isOpen && n.fault === null)).toBe(true);
    const { project: after, inverse } = applyChanges(project, changes);
    expect(applyChanges(after, inverse).project).toEqual(project);
  });

  it('are reported with the lines that need them', () => {
    const { needs } = declared(EMPTY, ['when a-1.onA do b-1.x', 'when a-2.onA do b-1.y', 'when #c do b-1.x']);
    expect(Object.fromEntries(needs.map((n) => [n.key, n.lines]))).toEqual({
      'placement:a-1': [0],
      'asset:A': [0, 1],
      'event:A/onA': [0, 1],
      'placement:b-1': [0, 1, 2],
      'asset:B': [0, 1, 2],
      'action:B/x': [0, 2],
      'placement:a-2': [1],
      'action:B/y': [1],
      'channel:c': [2],
    });
  });
  it('a thing that senses has an area, so that the audit has nothing to say', () => {
    const { changes } = declared(EMPTY, [
      'when plate-1.onStepped do lamp-1.light',
      'when plate-1.onLeft do lamp-1.dim',
    ]);
    const { project } = applyChanges(EMPTY, changes);
    expect(project.assets.find((a) => a.id === 'Plate')?.area).toEqual({ circle: 2 });
    expect(audit(project, { today: '2026-11-28' }).findings).toEqual([]);
  });
});

describe('names that look like others', () => {
  it.each([
    ['lmap', 'lamp', true],
    ['lamps', 'lamp', true],
    ['lam', 'lamp', true],
    ['onOpend', 'onOpened', true],
    ['Beacn', 'Beacon', true],
    ['lamp', 'lamp', false],
    ['lamp-2', 'lamp-1', false],
    ['onLevel2', 'onLevel1', false],
    ['rope-gauge', 'RopeGauge', false],
    ['open', 'shut', false],
    ['on', 'of', false],
    ['onLeft', 'onLit', false],
    ['gate', 'lamp', false],
  ])('%s for %s: %s', (name, known, expected) => {
    expect(isMisspelt(name, known)).toBe(expected);
  });

  const slip = ['when lamp-1.onLti do lmap-2.light(colour = red)'];
  it('are asked about, and nothing of them is made', () => {
    const { needs, changes } = declared(LIT, slip);
    expect(needs.filter((n) => n.isOpen).map((n) => [n.key, n.near])).toEqual([
      ['event:Lamp/onLti', ['onLit']],
      ['placement:lmap-2', ['lamp-2']],
    ]);
    const { project } = applyChanges(LIT, changes);
    expect(project.assets[0].placements).toEqual(LIT.assets[0].placements);
    expect(project.assets.find((a) => a.id === 'Lamp')).toEqual(LIT.assets[1]);
  });
  it('are what was meant when somebody says so', () => {
    const { needs, bindings: made } = declared(LIT, slip, [
      ['event:Lamp/onLti', { use: 'onLit' }],
      ['placement:lmap-2', { use: 'lamp-2' }],
    ]);
    expect(made.map(printWireLine)).toEqual([
      'when lamp-1.onLit do lamp-2.light(colour = "red") named onLit-1',
    ]);
    expect(needs.map((n) => n.key)).toEqual(['placement:lamp-2']);
  });
  it('are made when somebody says so', () => {
    const { needs } = declared(LIT, slip, [
      ['event:Lamp/onLti', { make: true }],
      ['placement:lmap-2', { make: true }],
    ]);
    expect(needs.some((n) => n.isOpen)).toBe(false);
    expect(needs.map((n) => n.text)).toContain('place lmap-2 of Lmap at 26.5, 22.5');
  });
  it('two that are meant for each other come to an end', () => {
    const { bindings: made } = declared(
      LIT,
      ['when aa-1.onA do bb-1.x'],
      [
        ['placement:aa-1', { use: 'bb-1' }],
        ['placement:bb-1', { use: 'aa-1' }],
      ],
    );
    expect(made).toHaveLength(1);
  });
  it('a slip within one text is asked about where it comes later', () => {
    const { needs } = declared(EMPTY, [
      'when plate-1.onStepped do lamp-1.light',
      'when plate-2.onSteped do lamp-2.light',
      'when plaet-3.onStepped do lamp-3.light',
    ]);
    expect(needs.filter((n) => n.isOpen).map((n) => [n.name, ...n.near])).toEqual([
      ['onSteped', 'onStepped'],
      ['plaet-3', 'plate-3'],
    ]);
  });
});
