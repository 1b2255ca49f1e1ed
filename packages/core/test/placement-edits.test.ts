import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  bindingsNaming,
  duplicationOf,
  expand,
  indexProject,
  printBinding,
  removalOf,
  renameName,
  placementEditsOf,
  type AssetIndex,
  type Binding,
  type Project,
} from '../src/index.js';
import { ref } from './refs.js';
import { buildGraph } from '../src/graph/build.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

const bind = (id: string, from: string, to: string): Binding => ({
  id,
  from: { at: from, event: 'onA' },
  to: { at: to, action: 'doA' },
});
const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast-1', asset: 'Mast', at: [1, 2] },
        { id: 'mast-2', asset: 'Mast', at: [5, 5], properties: { line: 'east' } },
        { id: 'lamp', asset: 'Lamp' },
      ],
      bindings: [
        bind('gust-1', 'mast-1', 'lamp'),
        bind('gust-2', 'mast-2', 'mast-1/top'),
        bind('gust-3', 'mast-2', 'ridge:mast-1'),
        bind('self-1', 'lamp', 'lamp'),
        { id: 'c', from: { channel: 'weather' }, to: { at: 'mast-1', action: 'doA' } },
      ],
    },
    {
      id: 'refuge',
      kind: 'scene',
      placements: [{ id: 'mast-1', asset: 'Mast' }],
      bindings: [bind('far', 'mast-1', 'ridge:mast-1/top'), bind('near', 'mast-1', 'mast-1/top')],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      placements: [{ id: 'top', asset: 'Lamp' }],
      events: [{ name: 'onA', cause: { type: 'code' } }],
      actions: [{ name: 'doA' }],
      bindings: [bind('own', '.', 'top')],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      events: [{ name: 'onA', cause: { type: 'code' } }],
      actions: [{ name: 'doA' }],
    },
  ],
};
const index = indexProject(project);
const [ridge, , mast] = index.assets;
const after = (changes: Parameters<typeof applyChanges>[1]): AssetIndex[] => [
  ...indexProject(applyChanges(project, changes).project).assets,
];
const lines = (a: AssetIndex): string[] => a.bindings.map((b) => `${b.id}: ${printBinding(b)}`);

describe('setting the stage', () => {
  it.each<[string, AssetIndex, string[], string[]]>([
    [
      'a placement of a scene, also from afar and inside',
      ridge,
      ['mast-1'],
      ['gust-1', 'gust-2', 'gust-3', 'c', 'far'],
    ],
    ['what stands in a prefab, by all its placements', mast, ['top'], ['gust-2', 'far', 'near', 'own']],
    ['something that nothing names', ridge, ['nothing'], []],
  ])('finds the bindings that name %s', (_what, owner, ids, expected) => {
    expect(bindingsNaming(index, owner, new Set(ids)).map((n) => n.binding.id)).toEqual(expected);
  });

  it('takes placements away alone, or with what names them', () => {
    expect(lines(after(removalOf(index, ridge, ['mast-1'], false))[0])).toHaveLength(5);
    const [scene, other] = after(removalOf(index, ridge, ['mast-1'], true));
    expect(scene.placements.map((p) => p.id)).toEqual(['mast-2', 'lamp']);
    expect(scene.bindings.map((b) => b.id)).toEqual(['self-1']);
    expect(other.bindings.map((b) => b.id)).toEqual(['near']);
  });

  it('renames a placement everywhere', () => {
    const [scene, other, prefab] = after(renameName(index, ref('placement', ridge, 'mast-1'), 'pylon'));
    expect(lines(scene)).toEqual([
      'gust-1: when pylon.onA do lamp.doA',
      'gust-2: when mast-2.onA do pylon/top.doA',
      'gust-3: when mast-2.onA do ridge:pylon.doA',
      'self-1: when lamp.onA do lamp.doA',
      'c: when #weather do pylon.doA',
    ]);
    expect(lines(other)).toEqual([
      'far: when mast-1.onA do ridge:pylon/top.doA',
      'near: when mast-1.onA do mast-1/top.doA',
    ]);
    expect(lines(prefab)).toEqual(['own: when .onA do top.doA']);
    const [inScene, , inPrefab] = after(renameName(index, ref('placement', mast, 'top'), 'tip'));
    expect(lines(inScene)[1]).toBe('gust-2: when mast-2.onA do mast-1/tip.doA');
    expect(lines(inPrefab)).toEqual(['own: when .onA do tip.doA']);
  });

  it('copies a group with its wiring: inside the group to the copies, outside as it was', () => {
    const { changes, copies } = duplicationOf(ridge, ['mast-1', 'mast-2'], [10, 0], true);
    expect([...copies]).toEqual([
      ['mast-1', 'mast-3'],
      ['mast-2', 'mast-4'],
    ]);
    const [scene] = after(changes);
    expect(scene.placements.slice(3)).toEqual([
      { id: 'mast-3', asset: 'Mast', at: [11, 2] },
      { id: 'mast-4', asset: 'Mast', at: [15, 5], properties: { line: 'east' } },
    ]);
    expect(lines(scene).slice(5)).toEqual([
      'gust-4: when mast-3.onA do lamp.doA',
      'gust-5: when mast-4.onA do mast-3/top.doA',
      'gust-6: when mast-4.onA do ridge:mast-3.doA',
      'c-1: when #weather do mast-3.doA',
    ]);
    expect(after(duplicationOf(ridge, ['mast-1'], [0, 1], false).changes)[0].bindings).toHaveLength(5);
  });

  it('changes only what comes out different, to the millimetre', () => {
    const changes = placementEditsOf(ridge, ['mast-1', 'lamp'], (p) => ({ ...p, at: [1, 2] }));
    expect(changes.map((c) => ('id' in c ? c.id : ''))).toEqual(['lamp']);
  });

  it('leaves a renamed project with the same graph and the same faults, in random projects', () => {
    let renamed = 0;
    for (let seed = 0; seed < 150; seed++) {
      const before = randomProject(seed);
      const r = new Random(seed);
      const own = indexProject(before);
      const placing = own.assets.filter((a) => a.placements.length > 0);
      if (placing.length === 0) continue;
      const owner = r.pick(placing);
      const { id } = r.pick(owner.placements);
      const now = applyChanges(before, renameName(own, ref('placement', owner, id), 'renamed')).project;
      const [a, b] = [before, now].map((p) => buildGraph(expand(indexProject(p))));
      expect({ seed, head: b.head, first: b.first, meta: b.meta }).toEqual({
        seed,
        head: a.head,
        first: a.first,
        meta: a.meta,
      });
      const rules = (p: Project): string[] => audit(p, { today: '2026-11-25' }).findings.map((f) => f.rule);
      expect({ seed, rules: rules(now) }).toEqual({ seed, rules: rules(before) });
      renamed++;
    }
    expect(renamed).toBeGreaterThan(100);
  });
});
