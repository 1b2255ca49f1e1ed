import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  bindingsCsv,
  compareProjects,
  completeWireLine,
  conditionFaults,
  expand,
  holds,
  indexProject,
  oneForEachValue,
  parseConditions,
  parseEffect,
  parseWireLine,
  printConditions,
  printEffect,
  printWireLine,
  proposeFixes,
  readProject,
  recordText,
  rehearse,
  renameName,
  traceText,
  type Asked,
  type Binding,
  type Effect,
  type NameRef,
  type Project,
  type Rehearsal,
  type TraceRecord,
  type Value,
} from '../src/index.js';
import { buildGraph } from '../src/graph/build.js';
import { bindingOfEdge, EDGE_CLASSES } from '../src/graph/graph.js';

/** A player who acts, a narrator with a line for each action, a gate that counts and lets the count lapse. */
const project: Project = {
  format: 'oquel.project/1',
  name: 'Courtyard',
  enums: [{ name: 'Act', values: ['jump', 'duck', 'wave'] }],
  channels: [{ name: 'acts', payload: [{ name: 'act', type: 'enum:Act' }] }],
  assets: [
    {
      id: 'yard',
      kind: 'scene',
      placements: [
        { id: 'player', asset: 'Player' },
        { id: 'narrator', asset: 'Narrator' },
        { id: 'gate', asset: 'Gate' },
      ],
      bindings: [
        {
          id: 'jumped',
          from: { at: 'player', event: 'onActed' },
          to: { at: 'narrator', action: 'speak' },
          args: { line: 'up' },
          if: [
            { payload: 'act', is: 'jump' },
            { property: 'calm', is: false },
          ],
          limit: 1,
        },
        {
          id: 'counted',
          from: { at: 'player', event: 'onActed' },
          to: { at: 'gate', action: 'count' },
          if: [{ payload: 'act', is: { oneOf: ['jump', 'wave'] } }],
        },
        {
          id: 'told',
          from: { at: 'player', event: 'onActed' },
          to: { channel: 'acts' },
          args: { act: { payload: 'act' } },
        },
        {
          id: 'heard',
          from: { channel: 'acts' },
          to: { at: 'narrator', action: 'speak' },
          args: { line: 'heard' },
          if: [{ payload: 'act', is: { not: 'jump' } }],
        },
      ],
    },
    {
      id: 'Player',
      kind: 'prefab',
      properties: [{ name: 'calm', type: 'bool', default: false }],
      events: [{ name: 'onActed', cause: { type: 'code' }, payload: [{ name: 'act', type: 'enum:Act' }] }],
      actions: [{ name: 'rest', effects: [{ set: 'calm', to: true }] }],
    },
    {
      id: 'Narrator',
      kind: 'prefab',
      actions: [{ name: 'speak', params: [{ name: 'line', type: 'string' }] }],
    },
    {
      id: 'Gate',
      kind: 'prefab',
      properties: [
        { name: 'n', type: 'int', default: 0 },
        { name: 'isOpen', type: 'bool', default: false },
      ],
      events: [{ name: 'onLapsed', cause: { type: 'raised' } }],
      actions: [
        {
          name: 'count',
          effects: [
            { add: 'n', by: 1 },
            { raise: 'onLapsed', delay: 2, restart: true },
            { set: 'isOpen', to: true, when: { property: 'n', is: { atLeast: 3 } } },
          ],
        },
        { name: 'lapse', effects: [{ set: 'n', to: 0 }] },
      ],
      bindings: [{ id: 'lapse', from: { at: '.', event: 'onLapsed' }, to: { at: '.', action: 'lapse' } }],
    },
  ],
};
const index = indexProject(project);

describe('a test of a value', () => {
  const cases: [Asked, Value | undefined, boolean][] = [
    [3, 3, true],
    [3, '3', false],
    ['a', undefined, false],
    [[1, 2], [1, 2], true],
    [{ not: 3 }, 4, true],
    [{ not: 3 }, 3, false],
    [{ not: 3 }, undefined, true],
    [{ oneOf: ['a', 1] }, 1, true],
    [{ oneOf: ['a', 1] }, '1', false],
    [{ oneOf: [] }, 1, false],
    [{ under: 3 }, 2.5, true],
    [{ under: 3 }, 3, false],
    [{ atMost: 3 }, 3, true],
    [{ over: 3 }, 3, false],
    [{ atLeast: 3 }, 3, true],
    [{ atLeast: 3 }, '4', false],
    [{ over: 0 }, true, false],
    [{ under: 3 }, undefined, false],
  ];
  it.each(cases)('%j of %j: %s', (asked, value, expected) => {
    expect(holds(asked, value)).toBe(expected);
  });
});

describe('the format', () => {
  const withBinding = (part: object): Project => {
    const next = structuredClone(project);
    Object.assign(next.assets[0].bindings![1], part);
    return next;
  };
  it.each<[string, object, string]>([
    ['a condition of nothing', { if: [{ is: 3 }] }, '/assets/0/bindings/1/if/0'],
    ['a condition of both', { if: [{ payload: 'a', property: 'b', is: 3 }] }, '/assets/0/bindings/1/if/0'],
    ['no test', { if: [{ payload: 'a' }] }, '/assets/0/bindings/1/if/0'],
    ['an unknown test', { if: [{ payload: 'a', is: { near: 3 } }] }, '/assets/0/bindings/1/if/0/is'],
    [
      'an order of a text',
      { if: [{ payload: 'a', is: { over: 'b' } }] },
      '/assets/0/bindings/1/if/0/is/over',
    ],
    ['no list', { if: { payload: 'a', is: 3 } }, '/assets/0/bindings/1/if'],
  ])('%s is refused where it stands', (_, part, pointer) => {
    expect(() => readProject(withBinding(part))).toThrow(pointer);
  });
  it('an empty list is as good as none', () => {
    expect(() => readProject(withBinding({ if: [] }))).not.toThrow();
  });
  it.each([0, undefined])('a raise that begins again needs a delay, not %s', (delay) => {
    const next = structuredClone(project);
    const [count] = next.assets[3].actions!;
    count.effects![1] = { raise: 'onLapsed', restart: true, ...(delay === undefined ? {} : { delay }) };
    expect(() => readProject(next)).toThrow('/assets/3/actions/0/effects/1/delay');
  });
});

describe('conditions as text', () => {
  it.each([
    [
      '$act = "jump" and @calm = false',
      [
        { payload: 'act', is: 'jump' },
        { property: 'calm', is: false },
      ],
    ],
    ['$n != 3', [{ payload: 'n', is: { not: 3 } }]],
    ['$n in (1, "two", [3, 4])', [{ payload: 'n', is: { oneOf: [1, 'two', [3, 4]] } }]],
    [
      '$n < 1 and $n <= 2',
      [
        { payload: 'n', is: { under: 1 } },
        { payload: 'n', is: { atMost: 2 } },
      ],
    ],
    [
      '$n > -1 and $n >= 2.5',
      [
        { payload: 'n', is: { over: -1 } },
        { payload: 'n', is: { atLeast: 2.5 } },
      ],
    ],
  ] as const)('%s', (text, conditions) => {
    expect(parseConditions(text)).toEqual({ value: conditions });
    expect(printConditions(conditions as never)).toBe(`if ${text}`);
  });
  it.each([
    ['n = 3', 0, '$ and a field of what is carried, or @ and a property'],
    ['$n', 2, 'a test: =, !=, <, <=, >, >= or in (…)'],
    ['$n = ', 5, 'a value'],
    ['$n > east', 5, 'a number'],
    ['$n in 3', 6, '"("'],
    ['$n = 3 or $n = 4', 7, '"and", or the end'],
  ])('%s stops at %i', (text, at, expected) => {
    const read = parseConditions(text);
    expect('fault' in read && [read.fault.at, read.fault.expected]).toEqual([at, expected]);
  });
  it('stand in a wire line, with bare words for texts', () => {
    const line = 'when player.onActed do narrator.speak(line = up) if $act = jump and @calm = false once';
    const { id: _, ...wanted } = project.assets[0].bindings![0];
    expect(parseWireLine(line)).toEqual({ binding: wanted });
  });
  it.each<[Effect, string]>([
    [{ raise: 'onA', delay: 2, restart: true }, 'raise onA after 2s restarting'],
    [{ wake: true, when: { property: 'n', is: 3 } }, 'wake when n is 3'],
    [{ wake: true, when: { property: 'n', is: { atLeast: 3 } } }, 'wake when n >= 3'],
    [{ wake: true, when: { param: 'by', is: 'key' } }, 'wake when $by is "key"'],
    [{ wake: true, when: { param: 'by', is: { oneOf: ['a', 'b'] } } }, 'wake when $by in ("a", "b")'],
  ])('%j as %s', (effect, text) => {
    expect(printEffect(effect)).toBe(text);
    expect(parseEffect(text)).toEqual({ value: effect });
  });
  it('a raise at once does not begin again', () => {
    expect('fault' in parseEffect('raise onA restarting')).toBe(true);
  });
  it('are completed: what can be asked, tests that fit, values', () => {
    const offered = (text: string): string[] =>
      completeWireLine(
        index,
        index.assets[0],
        `when player.onActed do narrator.speak(line = up) ${text}`,
      ).options.map((o) => o.text);
    expect(offered('if ')).toEqual(
      expect.arrayContaining(['$act ', '@calm ', '$act = "jump"', '@calm = false']),
    );
    expect(offered('if $act ')).toEqual(['= ', '!= ', 'in (']);
    expect(offered('if $act = ')).toEqual(expect.arrayContaining(['jump', 'duck', 'wave']));
    expect(offered('if $act in (jump, w')).toEqual(['wave']);
  });
  it('out of a table as into it', () => {
    expect(bindingsCsv(project)).toContain(',"$act in (""jump"", ""wave"")",');
    for (const b of project.assets[0].bindings!) {
      expect(parseWireLine(printWireLine(b))).toEqual({ binding: b });
    }
  });
});

describe('what is wrong with a condition', () => {
  const scope = { index, payload: [{ name: 'act', type: 'enum:Act' as const }], reader: index.assets[1] };
  it.each([
    ['$lost = 3', ['nothing carries "lost"']],
    ['@lost = 3', ['the sender has no property "lost"']],
    ['$act = hop', ['act: "hop" is no value of Act']],
    ['$act in (jump, hop, 3)', ['act: "hop" is no value of Act', 'act: expected enum:Act, found int']],
    ['$act > 3', ['act is enum:Act, which has no order']],
    ['$act = jump and @calm != true', []],
  ])('%s', (text, words) => {
    const read = parseConditions(text);
    expect('value' in read && conditionFaults(scope, read.value).map((f) => f.words)).toEqual(words);
  });
});

describe('names in conditions', () => {
  const rename = (ref: Partial<NameRef>, to: string): Project =>
    applyChanges(project, renameName(index, { asset: '', of: '', ...ref } as NameRef, to)).project;
  const bindings = (p: Project): Binding[] => p.assets[0].bindings!;
  it('are carried along: a field, a property, a value of an enum, a field of a channel, a parameter', () => {
    expect(
      bindings(rename({ kind: 'eventField', asset: 'Player', of: 'onActed', name: 'act' }, 'deed'))[0].if![0],
    ).toEqual({ payload: 'deed', is: 'jump' });
    expect(bindings(rename({ kind: 'property', asset: 'Player', name: 'calm' }, 'quiet'))[0].if![1]).toEqual({
      property: 'quiet',
      is: false,
    });
    const leapt = bindings(rename({ kind: 'enumValue', of: 'Act', name: 'jump' }, 'leap'));
    expect(leapt.map((b) => b.if?.[0].is)).toEqual([
      'leap',
      { oneOf: ['leap', 'wave'] },
      undefined,
      { not: 'leap' },
    ]);
    expect(bindings(rename({ kind: 'channelField', of: 'acts', name: 'act' }, 'deed'))[3].if).toEqual([
      { payload: 'deed', is: { not: 'jump' } },
    ]);
    const gate = rename({ kind: 'property', asset: 'Gate', name: 'n' }, 'times').assets[3];
    expect(gate.actions![0].effects![2].when).toEqual({ property: 'times', is: { atLeast: 3 } });
  });
  it('a changed condition is a changed binding', () => {
    const next = structuredClone(project);
    next.assets[0].bindings![1].if = [{ payload: 'act', is: 'wave' }];
    const [{ asset, lines }] = compareProjects(project, next).groups;
    expect([asset, lines.map(({ id, how, text }) => [id, how, text])]).toEqual([
      'yard',
      [['counted', 'changed', 'when player.onActed do gate.count if $act = "wave"']],
    ]);
  });
});

describe('the graph', () => {
  it('says of a binding that asks that it is conditional; a limit is weaker still', () => {
    const g = buildGraph(expand(index));
    const classes = new Map<string, string>();
    for (let e = 0; e < g.head.length; e++) {
      const bound = bindingOfEdge(g, e);
      if (bound) classes.set(bound.binding.id, EDGE_CLASSES[g.meta[e] & 3]);
    }
    expect(Object.fromEntries(classes)).toEqual({
      jumped: 'limited',
      counted: 'conditional',
      told: 'instant',
      heard: 'conditional',
      lapse: 'instant',
    });
  });
  it('a question ends a cycle of instants, as the audit tells it', () => {
    const round = structuredClone(project);
    round.assets[3].bindings!.push({
      id: 'again',
      from: { at: '.', event: 'onLapsed' },
      to: { at: '.', action: 'count' },
    });
    const severity = (p: Project): string[] =>
      audit(p, { today: '2026-11-01' }).findings.flatMap((f) =>
        f.rule === 'relay-cycle' ? [f.class ?? ''] : [],
      );
    expect(severity(round)).toEqual(['delayed']);
    round.assets[3].bindings![1].if = [{ property: 'isOpen', is: true }];
    expect(severity(round)).toEqual(['conditional']);
  });
});

describe('fixes', () => {
  const with_ = (conditions: Binding['if']): Project => {
    const next = structuredClone(project);
    const [jumped] = next.assets[0].bindings!;
    next.assets[0].bindings = [{ ...jumped, if: conditions }];
    return next;
  };
  const fixes = (p: Project, rule: string): string[] => {
    const found = audit(p, { today: '2026-11-01' }).findings.filter((f) => f.rule === rule);
    expect(found).toHaveLength(1);
    return proposeFixes(p, found[0], '2026-11-01').map((c) => c.label);
  };
  it.each<[string, string, NonNullable<Binding['if']>, string[]]>([
    [
      'a field that is not carried',
      'dangling-name',
      [{ payload: 'acts', is: 'jump' }],
      ['Test act instead', 'Remove the condition on acts'],
    ],
    [
      'a property that is not there',
      'dangling-name',
      [{ property: 'clam', is: true }],
      ['Test calm instead', 'Remove the condition on clam'],
    ],
    [
      'no value of the enum',
      'dangling-name',
      [{ payload: 'act', is: { oneOf: ['jmp', 'wave', 'duck'] } }],
      ['Test for jump', 'Remove the condition on act'],
    ],
    [
      'what can never be',
      'never-true',
      [
        { payload: 'act', is: 'jump' },
        { payload: 'act', is: 'duck' },
      ],
      ['Remove: when player.onActed do narrator.speak'],
    ],
    [
      'values that nothing handles',
      'unhandled-value',
      [{ payload: 'act', is: 'jump' }],
      ['Add bindings for duck, wave, like: when player.onActed do narrator.speak'],
    ],
  ])('of %s', (_, rule, conditions, labels) => {
    expect(fixes(with_(conditions), rule)).toEqual(labels);
  });
  it('one binding becomes one for each value, and keeps what else it asks', () => {
    const owner = index.assets[0];
    const changes = oneForEachValue(owner, owner.bindings[0], 'act', ['jump', 'duck', 'wave']);
    const next = applyChanges(project, changes).project;
    expect(next.assets[0].bindings!.slice(0, 3).map((b) => [b.id, printConditions(b.if), b.limit])).toEqual([
      ['jumped', 'if $act = "jump" and @calm = false', 1],
      ['jumped-2', 'if $act = "duck" and @calm = false', 1],
      ['jumped-3', 'if $act = "wave" and @calm = false', 1],
    ]);
  });
});

describe('a rehearsal', () => {
  const act = (at: number, deed: string): Rehearsal['steps'][number] => ({
    at,
    raise: { at: 'yard:player', event: 'onActed', payload: { act: deed } },
  });
  const run = (steps: Rehearsal['steps']): TraceRecord[] => {
    const records: TraceRecord[] = [];
    rehearse(expand(index), [{ name: 'r', steps }], (line) => {
      if ('n' in line) records.push(structuredClone(line));
    });
    return records;
  };
  const told = (records: readonly TraceRecord[]): string[] =>
    records.flatMap((r) =>
      r.kind === 'stopped'
        ? [`${r.binding} ${r.reason}`]
        : r.kind === 'performed'
          ? [`${r.binding} at ${r.t / 1e6}`]
          : [],
    );
  it('lets through what holds, and says of the rest that its condition does not', () => {
    expect(told(run([act(1, 'duck')]))).toEqual(['jumped condition', 'counted condition', 'heard at 1']);
    expect(told(run([act(1, 'jump')]))).toEqual([
      'jumped at 1',
      'counted at 1',
      'heard condition',
      'lapse at 3',
    ]);
  });
  it('tells people what was found, and keeps that out of the written trace', () => {
    const stopped = run([act(1, 'duck')]).filter((r) => r.kind === 'stopped');
    expect(stopped.map((r) => recordText(r))).toEqual([
      'binding jumped of yard:. does not trigger: its condition does not hold, because act is "duck"',
      'binding counted of yard:. does not trigger: its condition does not hold, because act is "duck"',
    ]);
    expect(traceText(stopped[0])).toBe(
      '{"binding":"jumped","cause":1,"kind":"stopped","n":2,"owner":"yard:.","reason":"condition","t":1000000}\n',
    );
  });
  it('a binding that is refused by its condition spends nothing of its limit, which is looked at after it', () => {
    const records = told(run([act(1, 'duck'), act(2, 'jump'), act(3, 'duck'), act(4, 'jump')]));
    expect(records.filter((r) => r.startsWith('jumped'))).toEqual([
      'jumped condition',
      'jumped at 2',
      'jumped condition',
      'jumped limit',
    ]);
  });
  it('coverage tells what was refused by its conditions alone from what was never asked', () => {
    const { byBinding, coverage } = rehearse(expand(index), [
      { name: 'r', steps: [act(1, 'duck')] },
      { name: 's', steps: [act(1, 'wave')] },
    ]);
    expect(Object.fromEntries(byBinding.map((b) => [b.binding, [b.served, b.refused ?? 0]]))).toEqual({
      jumped: [0, 1],
      counted: [1, 0],
      told: [1, 0],
      heard: [1, 0],
      lapse: [1, 0],
    });
    expect(coverage.unserved.map((u) => u.binding)).toEqual(['jumped']);
    const none = rehearse(expand(index), [{ name: 'r', steps: [] }]).byBinding;
    expect(none.every((b) => b.refused === undefined)).toBe(true);
  });
  it('three within two seconds open the gate; a count that lapses does not', () => {
    const opens = (times: number[]): boolean =>
      run(times.map((t) => act(t, 'wave'))).some((r) => r.kind === 'change' && r.property === 'isOpen');
    expect(opens([1, 2.5, 4])).toBe(true);
    expect(opens([1, 2, 4.5])).toBe(false);
  });
  it('the raise that begins again takes the place of the one that waited: there is one lapse, and none is cut', () => {
    const records = run([act(1, 'wave'), act(2, 'wave'), act(3, 'wave')]);
    expect(told(records).filter((r) => r.startsWith('lapse'))).toEqual(['lapse at 5']);
    expect(records.some((r) => r.kind === 'cut')).toBe(false);
  });
});
