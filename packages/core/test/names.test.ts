import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  audit,
  countUses,
  indexProject,
  nameFault,
  namesLike,
  renameName,
  usesOfName,
  type NameRef,
  type Project,
} from '../src/index.js';
import { nameKey, type NameKind } from '../src/names/name.js';
import { walkNames } from '../src/names/walk.js';
import { randomProject } from './random-project.js';

const DEMO = JSON.parse(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
) as Project;
const TODAY = { today: '2026-11-01' };

/** Every name of a project that is declared, once. */
function allNames(project: Project): NameRef[] {
  const index = indexProject(project);
  const names = new Map<string, NameRef>();
  walkNames(index, (kind, asset, of, name) => {
    const ref = { kind, asset, of, name };
    if (namesLike(index, ref).includes(name)) names.set(nameKey(ref), ref);
    return name;
  });
  return [...names.values()];
}
const renamed = (project: Project, ref: NameRef, to: string): Project =>
  applyChanges(project, renameName(indexProject(project), ref, to, audit(project, TODAY).findings)).project;

/** A game in which every kind of name is used wherever it can be. */
function everyName(): Project {
  return {
    format: 'oquel.project/1',
    name: 'Quay',
    enums: [{ name: 'Side', values: ['port', 'starboard'] }],
    tables: [{ name: 'lines', keys: ['bow', 'stern'] }],
    channels: [
      {
        name: 'harbour',
        payload: [
          { name: 'side', type: 'enum:Side' },
          { name: 'rope', type: 'key:lines' },
        ],
      },
    ],
    peers: [
      { name: 'host', role: 'server' },
      { name: 'mate', role: 'client' },
    ],
    loadSets: [{ name: 'day', scenes: ['quay'] }],
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        placements: [
          { id: 'bell-1', asset: 'Bell', properties: { side: 'port', rope: 'bow' }, authority: 'host' },
          { id: 'boat-1', asset: 'Boat', muted: ['inner'], operator: 'mate' },
        ],
        bindings: [
          {
            id: 'ring',
            from: { at: 'bell-1', event: 'onRung' },
            to: { at: 'boat-1/horn', action: 'turn' },
            args: { side: { payload: 'side' } },
          },
          {
            id: 'fixed',
            from: { at: 'bell-1', event: 'onRung' },
            to: { at: 'boat-1/horn', action: 'turn' },
            args: { side: 'port' },
          },
          {
            id: 'tell',
            from: { at: 'bell-1', event: 'onRung' },
            to: { channel: 'harbour', key: { property: 'rope' } },
            args: { side: 'starboard', rope: { property: 'rope' } },
          },
          { id: 'tell-bow', from: { at: 'bell-1', event: 'onRung' }, to: { channel: 'harbour', key: 'bow' } },
          {
            id: 'hear',
            from: { channel: 'harbour', key: { property: 'rope' } },
            to: { at: 'bell-1', action: 'ring' },
            args: { side: { payload: 'side' } },
          },
          {
            id: 'all',
            from: { at: 'bell-1', event: 'onRung' },
            to: {
              every: 'Bell',
              action: 'ring',
              match: { property: 'rope', equals: 'stern' },
            },
            args: { side: { property: 'side' } },
          },
        ],
      },
      {
        id: 'Bell',
        kind: 'prefab',
        tags: ['loud'],
        properties: [
          { name: 'side', type: 'enum:Side', default: 'port' },
          { name: 'rope', type: 'key:lines', default: 'bow', isKey: true },
          { name: 'count', type: 'int', default: 0 },
        ],
        events: [
          {
            name: 'onRung',
            cause: { type: 'use', activators: ['Boat', '#loud'] },
            payload: [{ name: 'side', type: 'enum:Side' }],
          },
          { name: 'onTurned', cause: { type: 'change', property: 'side' } },
        ],
        actions: [
          {
            name: 'ring',
            params: [{ name: 'side', type: 'enum:Side' }],
            effects: [
              { set: 'side', to: { param: 'side' }, when: { property: 'side', is: 'starboard' } },
              { raise: 'onRung', payload: { side: { payload: 'side' } } },
              { raise: 'onRung', payload: { side: { property: 'side' } } },
              { spawn: 'Boat' },
              { set: 'rope', to: 'stern' },
            ],
          },
        ],
      },
      {
        id: 'Boat',
        kind: 'prefab',
        placements: [{ id: 'horn', asset: 'Horn' }],
        bindings: [
          {
            id: 'inner',
            from: { at: 'horn', event: 'onBlown' },
            to: { at: 'horn', action: 'turn' },
            args: { side: 'port' },
          },
        ],
      },
      {
        id: 'Horn',
        kind: 'prefab',
        events: [{ name: 'onBlown', cause: { type: 'code' } }],
        actions: [{ name: 'turn', params: [{ name: 'side', type: 'enum:Side' }] }],
      },
    ],
    rehearsals: [
      {
        name: 'a bell',
        loadSet: 'day',
        steps: [
          {
            at: 0,
            raise: {
              at: 'quay:bell-1',
              event: 'onRung',
              payload: { side: 'port' },
              activator: 'Boat',
              by: 'host',
            },
          },
          { at: 1, publish: { channel: 'harbour', key: 'bow', payload: { side: 'port', rope: 'bow' } } },
          { at: 2, expect: { at: 'quay:bell-1', property: 'side', is: 'starboard' } },
          { at: 3, expect: { at: 'quay:boat-1/horn', action: 'turn', times: 2 } },
        ],
      },
    ],
  };
}

describe('renaming anything', () => {
  const base = everyName();
  it('reaches every kind of name there is', () => {
    const kinds = new Set(allNames(base).map((r) => r.kind));
    const all: NameKind[] = [
      'asset',
      'event',
      'action',
      'property',
      'placement',
      'binding',
      'param',
      'eventField',
      'channelField',
      'channel',
      'enum',
      'enumValue',
      'table',
      'tableKey',
      'loadSet',
      'peer',
      'tag',
      'rehearsal',
    ];
    expect([...kinds].sort()).toEqual(all.sort());
  });
  it.each(
    allNames(base).map((ref): [string, NameRef] => [`${ref.kind} ${ref.asset} ${ref.of} ${ref.name}`, ref]),
  )('%s: not one use of the old name is left, and there and back gives the same bytes', (_title, ref) => {
    const there = renamed(base, ref, 'quite-another');
    const left = allNames(there).filter((n) => nameKey(n) === nameKey(ref));
    expect(left).toEqual([]);
    expect(countUses(usesOfName(indexProject(there), { ...ref, name: 'quite-another' }))).toBe(
      countUses(usesOfName(indexProject(base), ref)),
    );
    expect(JSON.stringify(renamed(there, { ...ref, name: 'quite-another' }, ref.name))).toBe(
      JSON.stringify(base),
    );
  });

  /** Names that are text alike for different things are told apart by what they stand for. */
  it('leaves other things of the same name alone', () => {
    const there = renamed(base, { kind: 'property', asset: 'Bell', of: '', name: 'side' }, 'flank');
    const [quay, bell] = there.assets;
    expect(bell.events![0].payload).toEqual([{ name: 'side', type: 'enum:Side' }]);
    expect(bell.actions![0].params).toEqual([{ name: 'side', type: 'enum:Side' }]);
    expect(quay.placements![0].properties).toEqual({ flank: 'port', rope: 'bow' });
    expect(quay.bindings!.at(-1)!.args).toEqual({ side: { property: 'flank' } });
  });
  it('a key of a table is carried into the keys of a channel whose listeners use that table', () => {
    const there = renamed(base, { kind: 'tableKey', asset: '', of: 'lines', name: 'bow' }, 'prow');
    expect(there.assets[0].bindings![3].to).toEqual({ channel: 'harbour', key: 'prow' });
    expect(there.rehearsals![0].steps[1]).toMatchObject({
      publish: { key: 'prow', payload: { rope: 'prow' } },
    });
  });

  const faults: [string, NameRef, string, string | null][] = [
    ['a name that is taken', { kind: 'property', asset: 'Bell', of: '', name: 'side' }, 'rope', 'is taken'],
    [
      'a name with a blank',
      { kind: 'asset', asset: '', of: '', name: 'Bell' },
      'Big Bell',
      'must begin with a letter or _, and have only letters, digits, _ and - after it',
    ],
    ['no name', { kind: 'enumValue', asset: '', of: 'Side', name: 'port' }, ' ', 'is empty'],
    ['a value with a blank', { kind: 'enumValue', asset: '', of: 'Side', name: 'port' }, 'far left', null],
    ['its own name', { kind: 'event', asset: 'Bell', of: '', name: 'onRung' }, 'onRung', null],
    ['a name of another kind', { kind: 'event', asset: 'Bell', of: '', name: 'onRung' }, 'side', null],
  ];
  it.each(faults)('%s', (_title, ref, to, fault) => {
    expect(nameFault(indexProject(base), ref, to)).toBe(fault);
  });
});

describe('after a rename', () => {
  /** The audit without names: how many findings of each kind there are, and how many are waived. */
  function shape(project: Project): unknown {
    const found = audit(project, TODAY);
    const counts = new Map<string, number>();
    for (const f of found.findings) {
      const kind = `${f.rule} ${f.class ?? ''} ${f.severity} ${f.occurrences.length} ${'waived' in f}`;
      counts.set(kind, (counts.get(kind) ?? 0) + 1);
    }
    return { counts: [...counts].sort(), gate: found.gate, waived: found.summary.waived };
  }
  const raisesSeveral = (project: Project, asset: string): boolean =>
    project.assets
      .find((a) => a.id === asset)!
      .actions!.some((a) => new Set(a.effects?.map((e) => 'raise' in e && e.raise)).size > 1);
  /** All findings waived, so that one whose waiver were lost would show. */
  function waived(project: Project): Project {
    // Whether a new name follows a pattern is another matter.
    const { names: _patterns, ...policy } = project.policy ?? {};
    const { findings } = audit({ ...project, policy }, TODAY);
    const waivers = findings.map((f) => ({
      fingerprint: f.fingerprint,
      reason: 'known',
      by: 'me',
      occurrences: f.occurrences,
    }));
    return {
      ...project,
      policy: { ...policy, severity: { ...policy.severity, 'name-style': 'off' } },
      waivers,
    };
  }
  it.each(Array.from({ length: 12 }, (_, i) => i + 1))(
    'the audit is the same but for names, waivers hold, and there and back gives the same bytes (random project %i)',
    (seed) => {
      const project = waived(randomProject(seed));
      const before = shape(project);
      for (const ref of allNames(project)) {
        // A finding about a field that an action fills does not say of which event.
        if (ref.kind === 'eventField' && raisesSeveral(project, ref.asset)) continue;
        const there = renamed(project, ref, 'zzOther');
        expect({ ref, shape: shape(there) }).toEqual({ ref, shape: before });
        expect(JSON.stringify(renamed(there, { ...ref, name: 'zzOther' }, ref.name))).toBe(
          JSON.stringify(project),
        );
      }
    },
    120_000,
  );
  it('the demo, each of its names of the project', () => {
    const before = shape(DEMO);
    for (const ref of allNames(DEMO).filter((r) => r.asset === '' && r.kind !== 'tag')) {
      const there = renamed(DEMO, ref, 'zz-other');
      const now = shape(there);
      if (!['enumValue', 'tableKey', 'asset', 'channel'].includes(ref.kind))
        expect({ ref, now }).toEqual({ ref, now: before });
      expect(JSON.stringify(renamed(there, { ...ref, name: 'zz-other' }, ref.name))).toBe(
        JSON.stringify(DEMO),
      );
    }
  }, 120_000);
});
