import { describe, expect, it } from '@jest/globals';
import { actionLine, eventLine, placementLine, propertyLine } from '../src/compare/lines.js';
import { compareProjects, type Asset, type Binding, type Project } from '../src/index.js';

const project = (...assets: Asset[]): Project => ({ format: 'oquel.project/1', name: 'Quay', assets });
const reported = (before: Project, after: Project): string[] =>
  compareProjects(before, after).groups.flatMap((g) =>
    g.lines.map(
      (l) => `${g.asset} ${l.how} ${l.of} ${l.id}: ${l.text}${l.was === undefined ? '' : ` | ${l.was}`}`,
    ),
  );

describe('things as lines', () => {
  it.each([
    [eventLine({ name: 'onTide', cause: { type: 'raised' } }), 'event onTide, raised by its own actions'],
    [
      eventLine({ name: 'onTide', cause: { type: 'use' }, payload: [] }),
      'event onTide, when somebody uses it, carries nothing',
    ],
    [
      eventLine({
        name: 'onTide',
        cause: { type: 'use' },
        payload: [{ name: 'n', type: 'int' }],
        limit: 2,
        note: 'spring',
      }),
      'event onTide, when somebody uses it, carries n: int, at most 2, note "spring"',
    ],
    [
      eventLine({ name: 'onTide', cause: { type: 'press' }, raisedInPause: true, expectsListener: false }),
      'event onTide, when it is pressed, raisedInPause true, expectsListener false',
    ],
    [actionLine({ name: 'shut' }), 'action shut'],
    [actionLine({ name: 'shut', params: [], effects: [] }), 'action shut(), does nothing'],
    [
      actionLine({
        name: 'shut',
        params: [{ name: 'by', type: 'float' }],
        effects: [{ toggle: 'open' }, { raise: 'onTide' }],
        whileAsleep: true,
      }),
      'action shut(by: float), toggle open, then raise onTide, whileAsleep true',
    ],
    [propertyLine({ name: 'open', type: 'bool', default: true }), 'property open: bool = true'],
    [
      propertyLine({ name: 'berth', type: 'int', default: 3, isKey: true, unique: true }),
      'property berth: int = 3, a key, unique',
    ],
    [
      propertyLine({ name: 'berth', type: 'int', default: 3, isKey: false, unique: false }),
      'property berth: int = 3, no key, not unique',
    ],
    [placementLine({ id: 'gate', asset: 'Gate' }), 'gate: Gate'],
    [
      placementLine({
        id: 'gate',
        asset: 'Gate',
        at: [1, 2],
        asleep: true,
        properties: { berth: 4, side: 'east' },
        inside: { 'lock/lamp': { lit: true } },
        muted: ['b1', 'b2'],
        note: 'by the mole',
      }),
      'gate: Gate at 1, 2, asleep, berth = 4, side = "east", lock/lamp.lit = true, without b1, b2, note "by the mole"',
    ],
    [placementLine({ id: 'gate', asset: 'Gate', asleep: false, muted: [] }), 'gate: Gate'],
    [placementLine({ id: 'gate', asset: 'Gate', muted: ['b1'] }), 'gate: Gate, without b1'],
  ])('%s', (line, expected) => {
    expect(line).toBe(expected);
  });
});

describe('what came with a thing', () => {
  it('is reported with it', () => {
    const gate: Asset = {
      id: 'Gate',
      kind: 'prefab',
      properties: [{ name: 'open', type: 'bool', default: false }],
      events: [{ name: 'onShut', cause: { type: 'use' } }],
      actions: [{ name: 'shut' }],
      bindings: [{ id: 'b', from: { at: '.', event: 'onShut' }, to: { at: '.', action: 'shut' } }],
    };
    expect(reported(project(), project(gate))).toEqual([
      'Gate added declaration Gate: prefab Gate with 0 placements and 1 binding',
      'Gate added binding b: when .onShut do .shut',
    ]);
    expect(reported(project(gate), project())).toEqual([
      ' removed declaration Gate: prefab Gate with 0 placements and 1 binding',
    ]);
    expect(reported(project(gate), project({ ...gate, kind: 'widget' }))).toEqual([
      'Gate removed declaration Gate: prefab Gate with 0 placements and 1 binding',
      'Gate added declaration Gate: widget Gate with 0 placements and 1 binding',
      'Gate added binding b: when .onShut do .shut',
    ]);
  });
});

describe('two states of a binding', () => {
  const quay = (...bindings: Binding[]): Project => project({ id: 'quay', kind: 'scene', bindings });
  const b: Binding = { id: 'b', from: { at: 'a', event: 'onTide' }, to: { at: 'c', action: 'shut' } };
  it.each<[string, Binding, Binding, string]>([
    [
      'as sentences',
      b,
      { ...b, to: { at: 'd', action: 'shut' } },
      'quay changed binding b: when a.onTide do d.shut | when a.onTide do c.shut',
    ],
    [
      'spelt out where the sentences are the same',
      b,
      { ...b, enabled: true },
      'quay changed binding b: when a.onTide do c.shut on named b | when a.onTide do c.shut named b',
    ],
    [
      'as in the document where nothing else tells them apart',
      b,
      { ...b, later: 1 } as Binding,
      'quay changed binding b: {"from":{"at":"a","event":"onTide"},"id":"b","later":1,"to":{"action":"shut","at":"c"}} | {"from":{"at":"a","event":"onTide"},"id":"b","to":{"action":"shut","at":"c"}}',
    ],
    [
      'as a new name where one goes and the same comes',
      b,
      { ...b, id: 'c' },
      'quay renamed binding c: when a.onTide do c.shut | b',
    ],
  ])('are reported %s', (_, before, after, expected) => {
    expect(reported(quay(before), quay(after)).join('\n')).toBe(expected);
  });
  it('are no new name where one of two that say the same goes', () => {
    const twin = { ...b, id: 'twin' };
    expect(reported(quay(b, twin), quay(b))).toEqual(['quay removed binding twin: when a.onTide do c.shut']);
    expect(reported(quay(b), quay(b, twin))).toEqual(['quay added binding twin: when a.onTide do c.shut']);
  });
});
