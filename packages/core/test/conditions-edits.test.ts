import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  compareProjects,
  expand,
  oneForEachValue,
  printConditions,
  proposeFixes,
  renameName,
  type Binding,
  type NameRef,
  type Project,
} from '../src/index.js';
import { buildGraph } from '../src/graph/build.js';
import { bindingOfEdge, EDGE_CLASSES } from '../src/graph/graph.js';
import { project, index } from './conditions-project.js';

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
