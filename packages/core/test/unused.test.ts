import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  countUses,
  indexProject,
  unusedDeclarations,
  usesOfName,
  withoutUnused,
  type Project,
} from '../src/index.js';
import { seeds } from './random.js';
import { randomProject } from './random-project.js';

const YARD: Project = {
  format: 'oquel.project/1',
  name: 'Yard',
  enums: [
    { name: 'Side', values: ['left', 'right'] },
    { name: 'Hue', values: ['red'] },
  ],
  tables: [{ name: 'texts', keys: ['hello'], origin: 'game' }],
  channels: [{ name: 'wind' }, { name: 'rain' }],
  assets: [
    {
      id: 'Gate',
      kind: 'prefab',
      properties: [
        { name: 'side', type: 'enum:Side', default: 'left' },
        { name: 'isOpen', type: 'bool', default: false },
      ],
      events: [
        { name: 'onOpened', cause: { type: 'raised' } },
        { name: 'onShut', cause: { type: 'code' } },
      ],
      actions: [
        { name: 'open', effects: [{ set: 'isOpen', to: true }, { raise: 'onOpened' }] },
        { name: 'shut' },
      ],
    },
    { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
    {
      id: 'yard',
      kind: 'scene',
      events: [{ name: 'onDawn', cause: { type: 'code' } }],
      placements: [{ id: 'gate-1', asset: 'Gate' }],
      bindings: [{ id: 'b', from: { channel: 'wind' }, to: { at: 'gate-1', action: 'open' } }],
    },
  ],
};

describe('unused declarations', () => {
  const list = (project: Project): string[] =>
    unusedDeclarations(indexProject(project)).map(
      (u) => `${u.kind} ${u.asset === '' ? '' : `${u.asset}.`}${u.name}${u.isOfGame ? ' (game)' : ''}`,
    );
  it('are listed, but not what stands in an asset that is unused itself', () => {
    expect(list(YARD)).toEqual([
      'property Gate.side',
      'event Gate.onShut',
      'action Gate.shut',
      'asset Bell',
      'event yard.onDawn',
      'channel rain',
      'enum Hue',
      'table texts (game)',
    ]);
  });
  it('are removed in one go; what only they used is unused then', () => {
    const index = indexProject(YARD);
    const { project } = applyChanges(YARD, withoutUnused(index, unusedDeclarations(index)));
    expect(list(project)).toEqual(['enum Side']);
    expect(project.assets.map((a) => a.id)).toEqual(['Gate', 'yard']);
    expect(project.tables).toBeUndefined();
  });
  it('are what no name leads to, on random projects, and their removal brings no finding of what dangles', () => {
    for (let seed = 0; seed < seeds(60); seed++) {
      const project = randomProject(seed);
      const index = indexProject(project);
      const unused = unusedDeclarations(index);
      for (const { kind, asset, name } of unused) {
        expect(countUses(usesOfName(index, { kind, asset, of: '', name }))).toBe(0);
      }
      const dangling = (p: Project): number =>
        audit(p, { today: '2026-01-01' }).findings.filter((f) => f.rule.startsWith('dangling')).length;
      const { project: rest } = applyChanges(project, withoutUnused(index, unused));
      expect(dangling(rest)).toBeLessThanOrEqual(dangling(project));
    }
  });
});
