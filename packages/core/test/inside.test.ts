import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  asItsAsset,
  audit,
  differencesOf,
  expand,
  indexProject,
  initialValue,
  proposeFixes,
  renameName,
  withInside,
  type Finding,
  type Placement,
  type Project,
} from '../src/index.js';

/** Two beacons, each with two lamps inside a mast. */
function pier(first: Partial<Placement> = {}, second: Partial<Placement> = {}): Project {
  return {
    format: 'oquel.project/1',
    name: 'Pier',
    enums: [{ name: 'Line', values: ['none', 'east', 'west', 'north', 'south'] }],
    assets: [
      {
        id: 'pier',
        kind: 'scene',
        placements: [
          { id: 'beacon-1', asset: 'Beacon', ...first },
          { id: 'beacon-2', asset: 'Beacon', ...second },
        ],
      },
      { id: 'Beacon', kind: 'prefab', placements: [{ id: 'mast', asset: 'Mast' }] },
      {
        id: 'Mast',
        kind: 'prefab',
        placements: [
          { id: 'left', asset: 'Lamp', properties: { n: 3 } },
          { id: 'right', asset: 'Lamp' },
        ],
      },
      {
        id: 'Lamp',
        kind: 'prefab',
        properties: [
          { name: 'line', type: 'enum:Line', default: 'none', isKey: true },
          { name: 'n', type: 'int', default: 0 },
        ],
      },
    ],
  };
}
function valueAt(project: Project, address: string, property: string): unknown {
  const x = expand(indexProject(project));
  for (let i = 0; i < x.count; i++) if (x.address(i) === address) return initialValue(x, i, property);
  throw new Error(`nothing is at ${address}`);
}
const found = (project: Project, rule: string): Finding[] =>
  audit(project, { today: '2026-11-01' }).findings.filter((f) => f.rule === rule);

describe('values of what stands inside a placement', () => {
  const cases: [string, Partial<Placement>, string, string, unknown][] = [
    ['the default where nobody says', {}, 'pier:beacon-1/mast/right', 'line', 'none'],
    ['what its own placement says', {}, 'pier:beacon-1/mast/left', 'n', 3],
    [
      'what the outer one says, over it',
      { inside: { 'mast/left': { n: 9 } } },
      'pier:beacon-1/mast/left',
      'n',
      9,
    ],
    ['nothing of another copy', { inside: { 'mast/left': { n: 9 } } }, 'pier:beacon-2/mast/left', 'n', 3],
    [
      'nothing of its neighbour',
      { inside: { 'mast/left': { line: 'east' } } },
      'pier:beacon-1/mast/right',
      'line',
      'none',
    ],
    [
      'nothing at a path that leads nowhere',
      { inside: { 'mast/lost': { n: 9 } } },
      'pier:beacon-1/mast/left',
      'n',
      3,
    ],
  ];
  it.each(cases)('are %s', (_name, first, address, property, value) => {
    expect(valueAt(pier(first), address, property)).toBe(value);
  });
  it('of two that say it, the outermost counts', () => {
    const project = pier({ inside: { 'mast/left': { n: 1 } } });
    project.assets[1].placements![0].inside = { left: { n: 2, line: 'west' } };
    expect(valueAt(project, 'pier:beacon-1/mast/left', 'n')).toBe(1);
    expect(valueAt(project, 'pier:beacon-1/mast/left', 'line')).toBe('west');
    expect(valueAt(project, 'pier:beacon-2/mast/left', 'n')).toBe(2);
  });

  const wrong: [string, Placement['inside'], string, object][] = [
    ['a path that leads nowhere', { 'mast/lost': { n: 1 } }, 'override', { name: 'mast/lost' }],
    ['a property that is none', { 'mast/left': { hue: 1 } }, 'override', { property: 'mast/left.hue' }],
    ['a value of another type', { 'mast/left': { n: 'x' } }, 'value', { property: 'mast/left.n' }],
  ];
  it.each(wrong)('%s is reported, and its fix takes it away', (_name, inside, cls, subject) => {
    const project = pier({ inside });
    const [finding, ...more] = found(project, 'dangling-name');
    expect(more).toEqual([]);
    expect(finding).toMatchObject({
      class: cls,
      subject: { asset: 'pier', placement: 'beacon-1', ...subject },
    });
    const [fix] = proposeFixes(project, finding, '2026-11-01');
    expect(applyChanges(project, fix.changes).project).toEqual(pier());
  });

  it('fix keys that nested copies keep as they are', () => {
    const project = pier({ inside: { 'mast/left': { line: 'east' } } });
    const [finding] = found(project, 'default-key');
    expect(finding.occurrences).toHaveLength(3);
    const [fix] = proposeFixes(project, finding, '2026-11-01');
    const fixed = applyChanges(project, fix.changes).project;
    expect(found(fixed, 'default-key')).toEqual([]);
    expect(fixed.assets[0].placements).toEqual([
      { id: 'beacon-1', asset: 'Beacon', inside: { 'mast/left': { line: 'east' } } },
      {
        id: 'beacon-2',
        asset: 'Beacon',
        inside: { 'mast/left': { line: 'west' }, 'mast/right': { line: 'north' } },
      },
    ]);
  });

  it('are carried along by renames of any part of them', () => {
    const project = pier({ inside: { 'mast/left': { line: 'east' } } });
    const renamed = [
      { kind: 'placement', asset: 'Mast', of: '', name: 'left', to: 'port' },
      { kind: 'property', asset: 'Lamp', of: '', name: 'line', to: 'route' },
      { kind: 'enumValue', asset: '', of: 'Line', name: 'east', to: 'dawn' },
    ] as const;
    const after = renamed.reduce(
      (p, { to, ...ref }) => applyChanges(p, renameName(indexProject(p), ref, to)).project,
      project,
    );
    expect(after.assets[0].placements![0].inside).toEqual({ 'mast/port': { route: 'dawn' } });
  });

  it('are reported as differences, and all but keys are taken back with them', () => {
    const project = pier({ inside: { 'mast/left': { line: 'east', n: 9 } } });
    const index = indexProject(project);
    const [placement] = project.assets[0].placements!;
    expect(differencesOf(index, placement).values).toEqual([
      { property: 'mast/left.line', value: 'east', usual: 'none', isKey: true },
      { property: 'mast/left.n', value: 9, usual: 0, isKey: false },
    ]);
    expect(asItsAsset(index, placement).inside).toEqual({ 'mast/left': { line: 'east' } });
  });
  it('are set and taken away one by one', () => {
    const one = withInside({ id: 'a', asset: 'B' }, 'x/y', '__proto__', 1);
    expect(Object.keys(one.inside!['x/y'])).toEqual(['__proto__']);
    const two = withInside(one, 'z', 'n', 2);
    expect(withInside(withInside(two, 'x/y', '__proto__', undefined), 'z', 'n', undefined)).toEqual({
      id: 'a',
      asset: 'B',
    });
  });
});
