import { describe, expect, it } from '@jest/globals';
import { allRenames, findRenames } from '../src/compare/renames.js';
import {
  indexProject,
  type Action,
  type Asset,
  type Binding,
  type EventDecl,
  type Placement,
  type Project,
} from '../src/index.js';

const event = (name: string, more: Partial<EventDecl> = {}): EventDecl => ({
  name,
  cause: { type: 'use' },
  ...more,
});
const action = (name: string, more: Partial<Action> = {}): Action => ({ name, ...more });
const lamp = (id: string, more: Partial<Placement> = {}): Placement => ({ id, asset: 'Lamp', ...more });
const wired = (id: string, from: string, to: string): Binding => {
  const [at, name] = from.split('.');
  const [receiver, does] = to.split('.');
  return {
    id,
    from: at.startsWith('#') ? { channel: at.slice(1) } : { at, event: name },
    to: receiver.startsWith('every ')
      ? { every: receiver.slice(6), action: does }
      : { at: receiver, action: does },
  };
};
const LAMP: Asset = {
  id: 'Lamp',
  kind: 'prefab',
  events: [event('onLit'), event('onOut')],
  actions: [action('light'), action('dim')],
};
const quay = (more: Partial<Asset>): Asset => ({ id: 'quay', kind: 'scene', ...more });
const project = (assets: Asset[], more: Partial<Project> = {}): Project => ({
  format: 'oquel.project/1',
  name: 'Quay',
  assets,
  ...more,
});
/** Asset, kind, earlier and later name. */
function renames(before: Project, after: Project): string[] {
  return allRenames(findRenames(indexProject(before), indexProject(after))).map(
    ({ kind, asset, from, to }) => `${asset}${asset === '' ? '' : ' '}${kind}: ${from} > ${to}`,
  );
}

describe('what was renamed', () => {
  const events = (...list: EventDecl[]): Project => project([quay({ events: list })]);
  const bound = (list: EventDecl[], ...names: string[]): Project =>
    project([
      quay({
        events: list,
        actions: [action('shut')],
        bindings: names
          .map((n, i) => wired(`b${i}`, `.${n}`, '.'))
          .map((b, i) => ({
            ...b,
            from: { at: '.', event: names[i] },
            to: { at: '.', action: 'shut' },
          })),
      }),
    ]);
  const carrying = event('onHigh', { payload: [{ name: 'level', type: 'int' }] });
  const standing = (placements: Placement[], bindings: Binding[] = [], part: Asset = LAMP): Project =>
    project([quay({ placements, bindings }), part]);
  const parts = (...names: string[]): Partial<Asset> => ({ actions: names.map((n) => action(n)) });

  const cases: [string, Project, Project, string[]][] = [
    [
      'a declaration that is the same but for its name',
      events(event('onTide')),
      events(event('onHigh')),
      ['quay event: onTide > onHigh'],
    ],
    ['not one that carries something else', events(event('onTide')), events(carrying), []],
    [
      'not one that stands in another place, without a use that says so',
      events(event('onTide'), event('onLow')),
      events(event('onLow'), event('onHigh')),
      [],
    ],
    [
      'one that carries something else, where a binding uses it for the other',
      bound([event('onTide')], 'onTide'),
      bound([carrying], 'onHigh'),
      ['quay event: onTide > onHigh'],
    ],
    [
      'what most bindings use',
      bound([event('onTide')], 'onTide', 'onTide', 'onTide'),
      bound([event('onLow'), carrying], 'onLow', 'onHigh', 'onHigh'),
      ['quay event: onTide > onHigh'],
    ],
    [
      'what most bindings use, whichever stands first',
      bound([event('onTide')], 'onTide', 'onTide', 'onTide'),
      bound([event('onLow'), carrying], 'onLow', 'onLow', 'onHigh'),
      ['quay event: onTide > onLow'],
    ],
    [
      'two in one list, each by its own place',
      events(event('onTide'), event('onFlood', { limit: 1 })),
      events(event('onHigh'), event('onSpill', { limit: 1 })),
      ['quay event: onTide > onHigh', 'quay event: onFlood > onSpill'],
    ],
    [
      'an action that a selection names',
      standing([lamp('a')], [wired('b', '.onTide', 'every Lamp.dim')]),
      standing([lamp('a')], [wired('b', '.onTide', 'every Lamp.darken')], {
        ...LAMP,
        actions: [action('light'), action('darken', { note: 'slowly' })],
      }),
      ['Lamp action: dim > darken'],
    ],
    [
      'an event of what a path leads to, and not one of the same name elsewhere',
      project([
        quay({
          placements: [lamp('a')],
          events: [event('onLit')],
          bindings: [wired('b', 'a.onLit', 'a.dim')],
        }),
        LAMP,
      ]),
      project([
        quay({
          placements: [lamp('a')],
          events: [event('onLate', { limit: 2 })],
          bindings: [wired('b', 'a.onBright', 'a.dim')],
        }),
        { ...LAMP, events: [event('onBright', { limit: 3 }), event('onOut')] },
      ]),
      ['Lamp event: onLit > onBright'],
    ],
    [
      'a channel by who listens',
      project([quay({ bindings: [wired('b', '#fog', '..dim')] })], { channels: [{ name: 'fog' }] }),
      project([quay({ bindings: [wired('b', '#mist', '..dim')] })], {
        channels: [{ name: 'mist', payload: [{ name: 'n', type: 'int' }] }],
      }),
      ['channel: fog > mist'],
    ],
    [
      'an enum and a table by what they hold',
      project([quay({})], {
        enums: [{ name: 'Side', values: ['a'] }],
        tables: [{ name: 'Texts', keys: ['k'] }],
      }),
      project([quay({})], {
        enums: [{ name: 'Bank', values: ['a'] }],
        tables: [{ name: 'Words', keys: ['k'] }],
      }),
      ['enum: Side > Bank', 'table: Texts > Words'],
    ],
    [
      'an asset that has more than half of its names still',
      project([quay(parts('a', 'b', 'c'))]),
      project([{ ...quay(parts('a', 'b')), id: 'pier' }]),
      ['asset: quay > pier'],
    ],
    [
      'not one that has just half of them',
      project([quay(parts('a', 'b'))]),
      project([{ ...quay(parts('a')), id: 'pier' }]),
      [],
    ],
    [
      'not one of another kind',
      project([quay(parts('a'))]),
      project([{ ...quay(parts('a')), id: 'pier', kind: 'prefab' }]),
      [],
    ],
    ['not one that has nothing at all', project([quay({})]), project([{ ...quay({}), id: 'pier' }]), []],
    [
      'of two assets the one that is more alike',
      project([quay(parts('a', 'b', 'c', 'd'))]),
      project([
        { ...quay(parts('a', 'b', 'c')), id: 'pier' },
        { ...quay(parts('a', 'b', 'c', 'd')), id: 'dock' },
      ]),
      ['asset: quay > dock'],
    ],
    [
      'an asset that stands where another stood, whatever it has',
      project([quay({ placements: [lamp('a')] }), LAMP]),
      project([quay({ placements: [lamp('a', { asset: 'Torch' })] }), { id: 'Torch', kind: 'prefab' }]),
      ['asset: Lamp > Torch'],
    ],
    [
      'an asset that stands in more places of the other, though a rival is more alike',
      project([quay({ placements: [lamp('a'), lamp('b')] }), LAMP]),
      project([
        quay({ placements: [lamp('a', { asset: 'Torch' }), lamp('b', { asset: 'Torch' })] }),
        { id: 'Torch', kind: 'prefab' },
        { ...LAMP, id: 'Lantern' },
      ]),
      ['asset: Lamp > Torch'],
    ],
    [
      'a placement that is the same but for its id',
      standing([lamp('a')]),
      standing([lamp('z')]),
      ['quay placement: a > z'],
    ],
    [
      'several of them in their order',
      standing([lamp('a'), lamp('b'), lamp('c')]),
      standing([lamp('x'), lamp('y'), lamp('z')]),
      ['quay placement: a > x', 'quay placement: b > y', 'quay placement: c > z'],
    ],
    [
      'not a placement that was moved as well',
      standing([lamp('a', { at: [1, 1] })]),
      standing([lamp('z')]),
      [],
    ],
    [
      'one that was moved as well, where a binding speaks of it',
      standing([lamp('a', { at: [1, 1] })], [wired('b', 'a.onLit', 'a.dim')]),
      standing([lamp('z')], [wired('b', 'z.onLit', 'z.dim')]),
      ['quay placement: a > z'],
    ],
    [
      'the placement of which most bindings speak',
      standing(
        [lamp('a', { at: [1, 1] })],
        [wired('b', 'a.onLit', '..x'), wired('c', 'a.onLit', '..x'), wired('d', 'a.onOut', '..x')],
      ),
      standing(
        [lamp('y'), lamp('z')],
        [wired('b', 'y.onLit', '..x'), wired('c', 'z.onLit', '..x'), wired('d', 'z.onOut', '..x')],
      ),
      ['quay placement: a > z'],
    ],
    [
      'not one of another asset, though a binding speaks of it',
      standing([lamp('a')], [wired('b', 'a.onLit', 'a.dim')]),
      project([
        quay({ placements: [lamp('z', { asset: 'Bell' })], bindings: [wired('b', 'z.onLit', 'z.dim')] }),
        LAMP,
        { id: 'Bell', kind: 'prefab' },
      ]),
      [],
    ],
    [
      'a placement together with its asset',
      standing([lamp('a')]),
      project([quay({ placements: [lamp('z', { asset: 'Torch' })] }), { ...LAMP, id: 'Torch' }]),
      ['asset: Lamp > Torch', 'quay placement: a > z'],
    ],
  ];
  it.each(cases)('is %s', (_, before, after, expected) => {
    expect(renames(before, after)).toEqual(expected);
  });

  it('is found among so many assets that they cannot all be compared by their names', () => {
    const many = (prefix: string): Asset[] =>
      Array.from({ length: 201 }, (_, i) => ({
        id: `${prefix}${i}`,
        kind: 'prefab',
        ...parts(`a${i}`, `b${i}`),
      }));
    const found = renames(project(many('Old')), project(many('New').reverse()));
    expect(found).toHaveLength(201);
    expect(found[7]).toBe('asset: Old7 > New7');
  });
});
