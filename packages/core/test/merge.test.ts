import { describe, expect, it } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import {
  applyChanges,
  BrokenDocument,
  changesBetween,
  indexProject,
  isManifestText,
  manifestJsonSchema,
  mergeManifest,
  MergeRefused,
  readManifestText,
  type Asset,
  type Manifest,
  type Project,
} from '../src/index.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

const MILL: Project = {
  format: 'oquel.project/1',
  name: 'Mill',
  policy: { maxChain: 4 },
  assets: [
    {
      id: 'yard',
      kind: 'scene',
      size: [40, 30],
      placements: [{ id: 'lamp-1', asset: 'Lamp', at: [10, 10], note: 'By the gate.' }],
      bindings: [
        {
          id: 'glow',
          from: { at: 'lamp-1', event: 'onLit' },
          to: { at: 'lamp-1', action: 'dim' },
          note: 'mine',
        },
      ],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      events: [{ name: 'onLit', cause: { type: 'raised' }, note: 'Says so.' }],
      actions: [{ name: 'dim', effects: [{ raise: 'onLit' }] }],
    },
  ],
};
function manifest(assets: Manifest['assets'], more: Partial<Manifest> = {}): Manifest {
  return { format: 'oquel.declarations/1', origin: 'game', assets, ...more };
}
const LAMP: NonNullable<Manifest['assets']>[number] = {
  id: 'Lamp',
  kind: 'prefab',
  source: { file: 'src/lamp.ts', line: 40 },
  events: [{ name: 'onLit', source: { file: 'src/lamp.ts', line: 44 } }],
  actions: [{ name: 'dim' }],
};
const YARD: NonNullable<Manifest['assets']>[number] = {
  id: 'yard',
  kind: 'scene',
  placements: [{ id: 'lamp-1', asset: 'Lamp' }],
};
/** What a game would print of a project. */
function printed(project: Project, origin = 'game'): Manifest {
  const text = JSON.stringify(project);
  return structuredClone(readManifestText(text, origin).manifest);
}
function asset(project: Project, id: string): Asset {
  return project.assets.find((a) => a.id === id)!;
}

describe('a merge', () => {
  const first = mergeManifest(MILL, manifest([LAMP, YARD])).project;

  it("adopts what is there, says where it is declared, and keeps what is Oquel's own", () => {
    expect(asset(first, 'Lamp')).toEqual({
      ...MILL.assets[1],
      origin: 'game',
      source: { file: 'src/lamp.ts', line: 40 },
      events: [{ ...MILL.assets[1].events![0], origin: 'game', source: { file: 'src/lamp.ts', line: 44 } }],
      actions: [{ ...MILL.assets[1].actions![0], origin: 'game' }],
    });
    expect(asset(first, 'yard').placements).toEqual([{ ...MILL.assets[0].placements![0], origin: 'game' }]);
    expect(asset(first, 'yard').bindings).toBe(MILL.assets[0].bindings);
    expect(first.policy).toBe(MILL.policy);
  });
  it.each<[string, Manifest, (p: Project) => unknown, unknown]>([
    [
      'what comes is put last, and placed where nothing stands',
      manifest([LAMP, { ...YARD, placements: [...YARD.placements!, { id: 'lamp-2', asset: 'Lamp' }] }]),
      (p) => asset(p, 'yard').placements!.map((q) => [q.id, q.at]),
      [
        ['lamp-1', [10, 10]],
        ['lamp-2', [2.5, 2]],
      ],
    ],
    [
      'what changes is as the manifest says',
      manifest([{ ...LAMP, events: [{ name: 'onLit', payload: [{ name: 'glow', type: 'int' }] }] }, YARD]),
      (p) => asset(p, 'Lamp').events,
      [
        {
          name: 'onLit',
          cause: { type: 'raised' },
          note: 'Says so.',
          origin: 'game',
          payload: [{ name: 'glow', type: 'int' }],
        },
      ],
    ],
    [
      'what goes is gone, and what is wired to it dangles',
      manifest([{ ...LAMP, actions: [] }, YARD]),
      (p) => [asset(p, 'Lamp').actions, asset(p, 'yard').bindings],
      [[], MILL.assets[0].bindings],
    ],
    [
      'an asset that is gone goes with all that came from there',
      manifest([YARD]),
      (p) => p.assets.map((a) => a.id),
      ['yard'],
    ],
    [
      "one that has something of Oquel's own stays",
      manifest([LAMP]),
      (p) => [asset(p, 'yard').placements, asset(p, 'yard').bindings, asset(p, 'yard').origin],
      [[], MILL.assets[0].bindings, undefined],
    ],
    [
      'a rename is found, and carried through the bindings',
      manifest([{ ...LAMP, events: [{ name: 'onShining' }] }, YARD]),
      (p) => [asset(p, 'Lamp').events!.map((e) => e.name), asset(p, 'yard').bindings![0].from],
      [['onShining'], { at: 'lamp-1', event: 'onShining' }],
    ],
    [
      'a renamed prefab as well',
      manifest([
        { ...LAMP, id: 'Torch' },
        { ...YARD, placements: [{ id: 'lamp-1', asset: 'Torch' }] },
      ]),
      (p) => [p.assets.map((a) => a.id), asset(p, 'yard').placements![0].note],
      [['yard', 'Torch'], 'By the gate.'],
    ],
    [
      'channels, enums, key tables, load sets and peers come by name',
      manifest([LAMP, YARD], {
        channels: [{ name: 'town', source: { file: 'a.ts' } }],
        enums: [{ name: 'Tone', values: ['deep'] }],
        tables: [{ name: 'lines', keys: ['bow'] }],
        loadSets: [{ name: 'day', scenes: ['yard'] }],
        peers: [{ name: 'host', role: 'server' }],
      }),
      ({ channels, enums, tables, loadSets, peers }) => ({ channels, enums, tables, loadSets, peers }),
      {
        channels: [{ name: 'town', source: { file: 'a.ts' }, origin: 'game' }],
        enums: [{ name: 'Tone', values: ['deep'], origin: 'game' }],
        tables: [{ name: 'lines', keys: ['bow'], origin: 'game' }],
        loadSets: [{ name: 'day', scenes: ['yard'] }],
        peers: [{ name: 'host', role: 'server' }],
      },
    ],
  ])('%s', (_, next, what, expected) => {
    const { project } = mergeManifest(first, next);
    expect(what(project)).toEqual(expected);
    expect(changesBetween(project, mergeManifest(project, next).project)).toEqual([]);
  });
  it('a plan that grew for what has no place stays as large the next time', () => {
    const many = Array.from({ length: 200 }, (_, i) => ({ id: `lamp-${i}`, asset: 'Lamp' }));
    const game = manifest([LAMP, { ...YARD, size: [40, 30], placements: many }]);
    const once = mergeManifest(MILL, game).project;
    expect(asset(once, 'yard').size![1]).toBeGreaterThan(30);
    expect(changesBetween(once, mergeManifest(once, game).project)).toEqual([]);
  });
  it('what nobody declared in the game stays', () => {
    const own: Asset = { id: 'Bench', kind: 'prefab', events: [{ name: 'onTaken', cause: { type: 'use' } }] };
    const { project } = mergeManifest({ ...first, assets: [...first.assets, own] }, manifest([LAMP, YARD]));
    expect(asset(project, 'Bench')).toEqual(own);
  });
  it('two manifests add to one asset, and neither takes away what is of the other', () => {
    const tools = {
      ...manifest([{ id: 'Lamp', kind: 'prefab', events: [{ name: 'onWorn' }] }]),
      origin: 'tools',
    };
    const both = mergeManifest(first, tools).project;
    expect(asset(both, 'Lamp').events!.map((e) => [e.name, e.origin])).toEqual([
      ['onLit', 'game'],
      ['onWorn', 'tools'],
    ]);
    expect(asset(both, 'Lamp').origin).toBe('game');
    const without = mergeManifest(both, manifest([YARD])).project;
    expect(asset(without, 'Lamp').events!.map((e) => e.name)).toEqual(['onWorn']);
  });
  it('is refused where two origins declare the same, with each place', () => {
    const other = { ...manifest([LAMP, YARD]), origin: 'tools' };
    expect(() => mergeManifest(first, other)).toThrow(MergeRefused);
    expect(() => mergeManifest(first, other)).toThrow(
      'Lamp.onLit is already declared by "game"; this manifest is from "tools"',
    );
  });
});

describe('a merge of any game', () => {
  it("changes nothing the second time, and keeps all that is Oquel's own, part by part", () => {
    for (let seed = 1; seed <= 60; seed++) {
      const project = randomProject(seed);
      const game = printed(project);
      const once = mergeManifest(project, game).project;
      expect(changesBetween(once, mergeManifest(once, game).project)).toEqual([]);
      for (const part of ['policy', 'waivers', 'rehearsals', 'note'] as const)
        expect(once[part]).toEqual(project[part]);
      once.assets.forEach((a, i) => expect(a.bindings).toEqual(project.assets[i].bindings));
      // But for its marks it is the same project.
      const bare = JSON.stringify(once).replaceAll(/,?"origin":"game"/g, '');
      const expected = applyChanges(project, changesBetween(project, JSON.parse(bare) as Project)).project;
      expect(JSON.parse(bare)).toEqual(expected);
    }
  });
  it('follows random changes of the game: what it declares is there, what it lost is gone, bindings stay', () => {
    const counts = { renamed: 0, gone: 0, came: 0 };
    for (let seed = 1; seed <= 80; seed++) {
      const r = new Random(seed + 7000);
      const project = randomProject(seed);
      const before = mergeManifest(project, printed(project)).project;
      const game = printed(project);
      for (let n = 0; n < 4; n++) {
        const a = r.pick(game.assets!);
        const kind = r.int(3);
        if (kind === 0) {
          (a.events ??= []).push({ name: `onFresh${n}` });
          counts.came++;
        } else if (kind === 1 && a.actions && a.actions.length > 0) {
          a.actions.splice(r.int(a.actions.length), 1);
          counts.gone++;
        } else if (a.events && a.events.length > 0) {
          const e = a.events[r.int(a.events.length)];
          e.name = `onRenamed${n}`;
        }
      }
      const { project: after, renames } = mergeManifest(before, game);
      counts.renamed += renames.length;
      for (const a of game.assets!) {
        const now = asset(after, a.id);
        const names = (list: readonly { name: string }[] | undefined): string[] =>
          (list ?? []).map((d) => d.name);
        expect(names(now.events).sort()).toEqual(names(a.events).sort());
        expect(names(now.actions).sort()).toEqual(names(a.actions).sort());
        expect(now.bindings?.length ?? 0).toBe(asset(before, a.id).bindings?.length ?? 0);
      }
      expect(changesBetween(after, mergeManifest(after, game).project)).toEqual([]);
      expect(indexProject(after).assets).toHaveLength(project.assets.length);
    }
    expect(counts.renamed).toBeGreaterThan(20);
    expect(counts.gone).toBeGreaterThan(20);
    expect(counts.came).toBeGreaterThan(20);
  });
});

describe('a manifest', () => {
  it('is valid by its own schema, and what is no manifest is not', () => {
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(manifestJsonSchema());
    for (let seed = 1; seed <= 40; seed++) {
      expect(validate(JSON.parse(JSON.stringify(printed(randomProject(seed)))))).toBe(true);
    }
    expect(validate(manifest([LAMP, YARD]))).toBe(true);
    expect(validate(MILL)).toBe(false);
    expect(validate({ ...manifest([]), origin: 7 })).toBe(false);
  });
  it('is reported from a project by its text; a whole project is one too', () => {
    expect(isManifestText(JSON.stringify(manifest([])))).toBe(true);
    expect(isManifestText(JSON.stringify(MILL))).toBe(false);
    const { manifest: whole } = readManifestText(JSON.stringify(MILL));
    expect([whole.format, whole.origin, whole.assets!.length]).toEqual(['oquel.declarations/1', 'Mill', 2]);
    expect(readManifestText(JSON.stringify(manifest([])), 'tools').manifest.origin).toBe('tools');
  });
  it.each<[string, unknown, string]>([
    [
      'another version',
      { ...manifest([]), format: 'oquel.declarations/2' },
      '"found":""oquel.declarations/2"',
    ],
    ['no origin', { format: 'oquel.declarations/1', assets: [] }, 'origin'],
    ['the same id twice', manifest([LAMP, LAMP]), 'Lamp'],
    [
      'the same event twice',
      manifest([{ ...LAMP, events: [{ name: 'onLit' }, { name: 'onLit' }] }]),
      'onLit',
    ],
    ['a name that is none', manifest([{ ...LAMP, id: 'a lamp' }]), '/assets/0/id'],
    [
      'a line before the first',
      manifest([{ ...LAMP, source: { file: 'a', line: 0 } }]),
      '/assets/0/source/line',
    ],
    [
      'a type that is none',
      manifest([{ ...LAMP, events: [{ name: 'onLit', payload: [{ name: 'x', type: 'number' as 'int' }] }] }]),
      '/payload/0/type',
    ],
    ['no list', { ...manifest([]), assets: {} }, '/assets'],
    ['no object', [], 'expected'],
    ['no JSON', '{"format": "oquel.declarations/1"', 'line 1'],
  ])('that is broken is refused with its place: %s', (_, bad, words) => {
    const text = typeof bad === 'string' ? bad : JSON.stringify(bad);
    let said = '';
    try {
      readManifestText(text);
    } catch (error) {
      expect(error).toBeInstanceOf(BrokenDocument);
      said = JSON.stringify((error as BrokenDocument).problems).replaceAll('\\"', '"');
    }
    expect(said).toContain(words);
  });
});
