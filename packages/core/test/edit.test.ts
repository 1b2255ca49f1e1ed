import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  commonActions,
  freeBindingId,
  indexProject,
  overlap,
  reachableFrom,
  wiredActions,
  type Applied,
  type Change,
  type EditRefused,
  type Project,
} from '../src/index.js';
import { Random } from './random.js';
import { randomChange } from './random-change.js';
import { randomProject } from './random-project.js';

describe('change sets', () => {
  it('are taken back by their inverse, to the letter; and what they do not touch is shared', () => {
    for (let seed = 0; seed < 300; seed++) {
      const r = new Random(seed);
      const original = randomProject(seed);
      const text = JSON.stringify(original);
      let current = original;
      const changes: Change[] = [];
      for (let i = 0; i < 6; i++) {
        const change = randomChange(r, current);
        changes.push(change);
        current = applyChanges(current, [change]).project;
      }
      const { project, inverse } = applyChanges(original, changes);
      expect(JSON.stringify(original)).toBe(text);
      expect(project).toEqual(current);
      expect(JSON.stringify(applyChanges(project, inverse).project)).toBe(text);
      const touched = new Set(changes.map((c) => (c.op === 'add' ? c.item.id : c.asset)));
      for (const a of project.assets) {
        if (!touched.has(a.id)) expect(a).toBe(original.assets.find((o) => o.id === a.id));
      }
    }
  });

  it('of any mix, many at once, do what each alone does, and are refused where the first alone would be', () => {
    for (let seed = 0; seed < 120; seed++) {
      const r = new Random(seed);
      const project = randomProject(seed);
      const [first, second] = project.assets;
      const changes = Array.from({ length: 40 }, (): Change => {
        const item = {
          id: `n${r.int(1000)}`,
          from: { at: '.', event: 'onA' },
          to: { at: '.', action: 'doA' },
        };
        const { id: asset } = r.chance(0.5) ? first : (second ?? first);
        const head = { list: 'bindings' as const, asset };
        const index = r.chance(0.5) ? 1e9 : r.int(8);
        if (r.chance(0.7)) return { op: 'insert', ...head, index, item };
        if (r.chance(0.1)) return { op: 'set', asset, part: 'note', value: item.id };
        return r.chance(0.5)
          ? { op: 'remove', ...head, id: item.id }
          : { op: 'move', ...head, id: item.id, index };
      }).filter((c) => c.op === 'insert' || c.op === 'set' || r.chance(0.02));
      const single = (): Applied => {
        let current = project;
        const inverse: Change[] = [];
        changes.forEach((change, i) => {
          try {
            const step = applyChanges(current, [change]);
            current = step.project;
            inverse.unshift(...step.inverse);
          } catch (error) {
            throw Object.assign(error as Error, { change: i });
          }
        });
        return { project: current, inverse };
      };
      const outcome = (apply: () => Applied): unknown => {
        try {
          return JSON.stringify(apply());
        } catch (error) {
          const { change, message } = error as EditRefused;
          return { change, message };
        }
      };
      expect({ seed, is: outcome(() => applyChanges(project, changes)) }).toEqual({
        seed,
        is: outcome(single),
      });
    }
  });
  it('that touch nothing in common give the same in either order', () => {
    for (let seed = 0; seed < 200; seed++) {
      const r = new Random(seed);
      const project = randomProject(seed);
      const [a, b] = [randomChange(r, project), randomChange(r, project)];
      if (overlap([a], [b]).length > 0) continue;
      const there = applyChanges(applyChanges(project, [a]).project, [b]).project;
      const back = applyChanges(applyChanges(project, [b]).project, [a]).project;
      const ids = (p: Project): string[] =>
        p.assets
          .flatMap((x) => [...(x.bindings ?? []), ...(x.placements ?? [])].map((i) => JSON.stringify(i)))
          .sort();
      expect(ids(there)).toEqual(ids(back));
    }
  });

  it.each<[string, Change, string]>([
    [
      'an event without a cause',
      { op: 'set', asset: 'S0', part: 'events', value: [{ name: 'onA' }] } as unknown as Change,
      'the events is not valid: expected a property "cause", found none at /changes/0/events/0',
    ],
    [
      'two channels of one name',
      { op: 'set', part: 'channels', value: [{ name: 'a' }, { name: 'a' }] },
      'the channels is not valid',
    ],
    ['no name', { op: 'set', part: 'name' }, 'a project must have a name'],
    [
      'an asset that is not there',
      { op: 'drop', asset: 'none' },
      'there is no scene, prefab or widget "none"',
    ],
    [
      'an asset that already exists',
      { op: 'add', index: 0, item: { id: 'S0', kind: 'scene' } },
      'there already is a scene, prefab or widget "S0"',
    ],
    [
      'a broken asset',
      { op: 'add', index: 0, item: { id: 'S 1', kind: 'scene' } },
      'the scene S 1 is not valid: expected a name',
    ],
  ])('of declarations are refused with %s', (_what, change, message) => {
    expect(() => applyChanges(randomProject(3), [change])).toThrow(message);
  });

  it.each<[string, Change[], Change[], string[]]>([
    [
      'declarations of two assets',
      [{ op: 'set', asset: 'A', part: 'events', value: [] }],
      [{ op: 'set', asset: 'B', part: 'events', value: [] }],
      [],
    ],
    [
      'the same part of one asset',
      [{ op: 'set', asset: 'A', part: 'events', value: [] }],
      [{ op: 'set', asset: 'A', part: 'events' }],
      ['events/A'],
    ],
    ['the policy', [{ op: 'set', part: 'policy', value: {} }], [{ op: 'set', part: 'policy' }], ['policy']],
    [
      'an asset that goes and something in it',
      [{ op: 'drop', asset: 'A' }],
      [{ op: 'remove', list: 'bindings', asset: 'A', id: 'b' }],
      ['asset/A'],
    ],
    [
      'something in an asset and its going',
      [{ op: 'set', asset: 'A', part: 'note', value: 'n' }],
      [{ op: 'drop', asset: 'A' }],
      ['asset/A'],
    ],
  ])('meet, or do not, over %s', (_what, a, b, met) => {
    expect(overlap(a, b)).toEqual(met);
  });

  it('name what stands against them', () => {
    const project = randomProject(3);
    const remove: Change = { op: 'remove', list: 'bindings', asset: 'S0', id: 'none' };
    expect(() => applyChanges(project, [remove])).toThrow('S0 has no binding "none"');
    expect(() => applyChanges(project, [{ ...remove, asset: 'X' }])).toThrow(
      'no scene, prefab or widget "X"',
    );
  });
});

describe('what can be wired', () => {
  const veyra: Project = {
    format: 'oquel.project/1',
    name: 'Veyra',
    assets: [
      {
        id: 'ridge',
        kind: 'scene',
        placements: [
          { id: 'cabin-3', asset: 'Cabin', at: [10, 5], asleep: true },
          { id: 'lost', asset: 'Nobody' },
        ],
        bindings: [
          {
            id: 'g-1',
            from: { at: 'cabin-3', event: 'onDocked' },
            to: { at: 'cabin-3/heater', action: 'warm' },
          },
          {
            id: 'g-2',
            from: { at: 'cabin-3', event: 'onDocked' },
            to: { channel: 'tension' },
            enabled: false,
          },
        ],
      },
      {
        id: 'Cabin',
        kind: 'prefab',
        placements: [
          { id: 'heater', asset: 'Heater', at: [0, 1] },
          { id: 'self', asset: 'Cabin' },
        ],
        actions: [{ name: 'warm' }, { name: 'hold' }],
      },
      {
        id: 'Heater',
        kind: 'prefab',
        actions: [{ name: 'warm' }, { name: 'hold', params: [{ name: 's', type: 'int' }] }],
      },
    ],
  };
  const index = indexProject(veyra);
  const [ridge, cabin, heater] = index.assets;

  it('lists everything inside the owner with its place, and stops at loops and at what is not there', () => {
    const list = reachableFrom(index, ridge).map((t) => [t.path, t.at, t.depth, t.asleep]);
    expect(list).toEqual([
      ['.', [0, 0], 0, false],
      ['cabin-3', [10, 5], 1, true],
      ['cabin-3/heater', [10, 6], 2, true],
    ]);
  });
  it('offers the actions that all receivers have alike', () => {
    expect(commonActions([cabin, heater]).map((a) => a.name)).toEqual(['warm']);
    expect(commonActions([])).toEqual([]);
  });
  it('knows what is wired already', () => {
    expect([...wiredActions(ridge, 'cabin-3', 'onDocked')]).toEqual([['cabin-3/heater', new Set(['warm'])]]);
  });
  it('finds a free id that is a name', () => {
    expect(freeBindingId(ridge, 'g')).toBe('g-3');
    expect(freeBindingId(ridge, 'g', new Set(['g-3']))).toBe('g-4');
    expect(freeBindingId(ridge, '1 a/b')).toBe('_1-a-b-1'.replace('_1', '_'));
  });
});
