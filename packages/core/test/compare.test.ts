import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  applyChanges,
  audit,
  canonicalJson,
  compareFindings,
  changesBetween,
  compareProjects,
  indexProject,
  readProjectText,
  renameName,
  nameOfEntry,
  usesOfName,
  withLaterNames,
  type Binding,
  type Change,
  type Difference,
  type DifferenceLine,
  type Project,
} from '../src/index.js';
import { ref } from './refs.js';
import { Random } from './random.js';
import { randomChange } from './random-change.js';
import { randomProject } from './random-project.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;

function lines({ groups }: Difference): DifferenceLine[] {
  return groups.flatMap((g) => g.lines);
}
/** An absent list and an empty one mean the same. */
function plain(project: Project): string {
  const assets = project.assets.map((a) => {
    const bare = { ...a };
    for (const list of ['placements', 'bindings'] as const) if (bare[list]?.length === 0) delete bare[list];
    return bare;
  });
  return canonicalJson({ ...project, assets });
}
function changed(project: Project, r: Random, times: number): Project {
  let now = project;
  for (let i = 0; i < times; i++) now = applyChanges(now, [randomChange(r, now)]).project;
  return now;
}
const inRidge = (bindings: (old: Binding[]) => Binding[]): Project => ({
  ...DEMO,
  assets: DEMO.assets.map((a) =>
    a.id === 'pylon-ridge' ? { ...a, bindings: bindings(a.bindings ?? []) } : a,
  ),
});

describe('the changes between two projects', () => {
  it('make one into the other, whatever was done in between, and take it back', () => {
    for (let seed = 0; seed < 400; seed++) {
      const r = new Random(seed);
      const a = randomProject(seed);
      const b = seed % 5 === 0 ? randomProject(seed + 1e5) : changed(a, r, 1 + r.int(12));
      const { project, inverse } = applyChanges(a, changesBetween(a, b));
      expect({ seed, is: plain(project) }).toEqual({ seed, is: plain(b) });
      expect({ seed, is: plain(applyChanges(project, inverse).project) }).toEqual({ seed, is: plain(a) });
    }
  });
  it('carry properties that the format does not know', () => {
    const from = { ...DEMO, tool: { version: 1 }, gone: true };
    const to = { ...DEMO, mood: 'stormy', tool: { version: 2 } };
    to.assets = DEMO.assets.map((a, i) => (i === 0 ? { ...a, colour: 'slate' } : a));
    expect(plain(applyChanges(from, changesBetween(from, to)).project)).toBe(plain(to));
  });
  it('are none between a project and its copy, and only what differs otherwise', () => {
    expect(changesBetween(DEMO, JSON.parse(JSON.stringify(DEMO)) as Project)).toEqual([]);
    const muted = inRidge(([first, ...rest]) => [{ ...first, enabled: false }, ...rest]);
    expect(changesBetween(DEMO, muted)).toMatchObject([
      { op: 'replace', list: 'bindings', asset: 'pylon-ridge' },
    ]);
  });
  it('say before which part another one stands only where it is new', () => {
    const [yard, later] = [
      { note: 'one', policy: {} },
      { note: 'two', policy: {} },
    ].map((more): Project => ({ format: 'oquel.project/1', name: 'Yard', ...more, assets: [] }));
    expect(changesBetween(yard, later)).toEqual([{ op: 'set', part: 'note', value: 'two' }]);
    const { note: _, ...bare } = yard;
    expect(changesBetween(bare, later)).toEqual([
      { op: 'set', part: 'note', value: 'two', before: 'policy' },
    ]);
  });
  it('put an asset in anew of which most items differ', () => {
    const many = (n: number, delay: number): Project => ({
      format: 'oquel.project/1',
      name: 'Ridge',
      assets: [
        {
          id: 'ridge',
          kind: 'scene',
          bindings: Array.from({ length: n }, (_, i) => ({
            id: `b-${i}`,
            from: { at: '.', event: 'onGust' },
            to: { at: '.', action: 'engage' },
            delay,
          })),
        },
      ],
    });
    expect(changesBetween(many(300, 0), many(300, 1)).map((c) => c.op)).toEqual(['drop', 'add']);
    expect(changesBetween(many(90, 0), many(90, 1))).toHaveLength(90);
  });
});

describe('two states of a project compared', () => {
  it('say nothing of what is the same, and something of everything that is not', () => {
    for (let seed = 0; seed < 300; seed++) {
      const r = new Random(seed);
      const a = randomProject(seed);
      expect(lines(compareProjects(a, JSON.parse(JSON.stringify(a)) as Project))).toEqual([]);
      const b = changed(a, r, 1 + r.int(6));
      const reported = lines(compareProjects(a, b)).length > 0;
      expect({ seed, reported }).toEqual({ seed, reported: plain(a) !== plain(b) });
    }
  });
  it('count bindings that came and went as they are counted one by one', () => {
    const ids = (p: Project): Map<string, string> =>
      new Map(
        p.assets.flatMap((a) =>
          (a.bindings ?? []).map((b) => [`${a.id}/${b.id}`, canonicalJson({ ...b, id: '' })]),
        ),
      );
    for (let seed = 0; seed < 200; seed++) {
      const a = randomProject(seed);
      const r = new Random(seed);
      let b = a;
      for (let i = 0; i < 5; i++) {
        const change = randomChange(r, b);
        if (change.op === 'insert' || change.op === 'remove') b = applyChanges(b, [change]).project;
      }
      const { binding } = compareProjects(a, b).counts;
      const [old, now] = [ids(a), ids(b)];
      const came = [...now.keys()].filter((id) => !old.has(id)).length;
      const gone = [...old.keys()].filter((id) => !now.has(id)).length;
      // Those that came with the very words of one that went are reported as renamed.
      expect({ seed, n: binding.added + binding.renamed }).toEqual({ seed, n: came });
      expect({ seed, n: binding.removed + binding.renamed }).toEqual({ seed, n: gone });
    }
  });

  const kinds = ['event', 'action', 'property'] as const;
  it.each(kinds)('a renamed %s is one line, with the number of bindings that were carried along', (kind) => {
    let tried = 0;
    for (const { decl, at } of indexProject(DEMO).assets) {
      const index = indexProject(DEMO);
      const list = { event: 'eventAt', action: 'actionAt', property: 'propertyAt' } as const;
      for (const name of index.assets[at][list[kind]].keys()) {
        const changes = renameName(index, ref(kind, index.assets[at], name), `${name}Anew`);
        const difference = compareProjects(DEMO, applyChanges(DEMO, changes).project);
        const carried = usesOfName(index, ref(kind, index.assets[at], name)).bindings.length;
        expect(lines(difference)).toEqual([
          {
            of: 'declaration',
            how: 'renamed',
            id: `${name}Anew`,
            text: `${kind} ${name} is now ${name}Anew`,
            carried,
          },
        ]);
        expect(difference.groups[0].asset).toBe(decl.id);
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(20);
  });
  it('several renames at once are as many lines, whichever they are', () => {
    const lists = { event: 'events', action: 'actions', property: 'properties' } as const;
    for (let seed = 0; seed < 60; seed++) {
      const r = new Random(seed);
      let now = DEMO;
      const reported = new Set<string>();
      for (let k = 0; k < 4; k++) {
        const index = indexProject(now);
        const kind = r.pick(['event', 'action', 'property', 'placement', 'channel'] as const);
        const fresh = <T extends { name: string }>(list: readonly T[]): T[] =>
          list.filter((d) => !d.name.endsWith('Anew'));
        let changes: Change[];
        let name: string;
        if (kind === 'channel') {
          ({ name } = r.pick(fresh(now.channels!)));
          changes = renameName(index, nameOfEntry({ kind, asset: '', name }), `${name}Anew`);
        } else if (kind === 'placement') {
          const owner = r.pick(index.assets.filter((a) => a.placements.length > 0));
          name = r.pick(owner.placements).id;
          if (name.endsWith('Anew')) continue;
          changes = renameName(index, ref('placement', owner, name), `${name}Anew`);
        } else {
          const asset = r.pick(
            index.assets.filter((a) => fresh<{ name: string }>(a[lists[kind]]).length > 0),
          );
          ({ name } = r.pick(fresh<{ name: string }>(asset[lists[kind]])));
          changes = renameName(index, ref(kind, asset, name), `${name}Anew`);
        }
        now = applyChanges(now, changes).project;
        reported.add(`${kind} ${name} is now ${name}Anew`);
      }
      const found = lines(compareProjects(DEMO, now));
      expect({ seed, how: new Set(found.map((l) => l.how)) }).toEqual({ seed, how: new Set(['renamed']) });
      expect({ seed, reported: new Set(found.map((l) => l.text)) }).toEqual({ seed, reported });
    }
  });
  it('are judged alike when an earlier one has the later names: no finding comes or goes by a rename', () => {
    const index = indexProject(DEMO);
    const today = '2026-11-25';
    let judged = 0;
    for (const asset of index.assets) {
      for (const { name } of asset.events) {
        const to = `${name}Anew`;
        const renamed = applyChanges(DEMO, renameName(index, ref('event', asset, name), to)).project;
        const later = withLaterNames(DEMO, renamed)!;
        const change = compareFindings(audit(later, { today }).findings, audit(renamed, { today }).findings);
        expect({ name, change }).toEqual({ name, change: { added: [], gone: [] } });
        judged++;
      }
    }
    expect(judged).toBeGreaterThan(40);
    expect(
      withLaterNames(
        DEMO,
        inRidge((bindings) => bindings.slice(1)),
      ),
    ).toBeNull();
  });
  it('a renamed channel, placement, scene and binding are one line each', () => {
    const index = indexProject(DEMO);
    const reported = (changes: Change[]): unknown[] =>
      lines(compareProjects(DEMO, applyChanges(DEMO, changes).project)).map(({ how, text }) => [how, text]);
    expect(
      reported(renameName(index, nameOfEntry({ kind: 'channel', asset: '', name: 'tension' }), 'pull')),
    ).toEqual([['renamed', 'channel tension is now pull']]);
    for (const owner of index.assets) {
      for (const { id } of owner.placements) {
        expect(reported(renameName(index, ref('placement', owner, id), 'some-other-name'))).toEqual([
          ['renamed', `placement ${id} is now some-other-name`],
        ]);
      }
    }
    const text = JSON.stringify(DEMO)
      .replaceAll('"pylon-ridge"', '"pylon-crest"')
      .replaceAll('"pylon-ridge:', '"pylon-crest:');
    // Findings are waived by fingerprints, which have the name in them.
    const crest = { ...(JSON.parse(text) as Project), waivers: DEMO.waivers };
    expect(lines(compareProjects(DEMO, crest)).map((l) => l.text)).toEqual([
      'asset pylon-ridge is now pylon-crest',
    ]);
    const named = inRidge(([first, ...rest]) => [{ ...first, id: 'another-id' }, ...rest]);
    expect(lines(compareProjects(DEMO, named))).toMatchObject([{ of: 'binding', how: 'renamed' }]);
  });
  it('a name that went and another that came, and mean other things, are no rename', () => {
    const mast = (events: object[]): Project => ({
      format: 'oquel.project/1',
      name: 'Ridge',
      assets: [{ id: 'Mast', kind: 'prefab', events: events as never }],
    });
    const was = mast([{ name: 'onGust', cause: { type: 'timer', every: 2 } }]);
    const now = mast([{ name: 'onStill', cause: { type: 'code' } }]);
    expect(lines(compareProjects(was, now)).map((l) => [l.how, l.text])).toEqual([
      ['added', 'event onStill, when the game’s code'],
      ['removed', 'event onGust, when every 2 s'],
    ]);
  });
  it('bindings are reported as sentences: changed, moved in the running order, gone', () => {
    const [a, b, ...rest] = DEMO.assets.find((x) => x.id === 'pylon-ridge')!.bindings!;
    const order = compareProjects(
      DEMO,
      inRidge(() => [b, a, ...rest]),
    );
    expect(order.counts.binding).toMatchObject({ moved: 1, added: 0, removed: 0, changed: 0 });
    expect(lines(order)[0].place?.slice().sort()).toEqual([1, 2]);
    const later = compareProjects(
      DEMO,
      inRidge(() => [{ ...a, delay: 4.5 }, b, ...rest]),
    );
    expect(lines(later)).toMatchObject([{ how: 'changed', id: a.id }]);
    expect(lines(later)[0].text).toMatch(/^when .* do .* after 4\.5s/);
    expect(lines(later)[0].was).not.toMatch(/4\.5s/);
    const gone = compareProjects(
      DEMO,
      inRidge(() => rest),
    );
    expect(lines(gone).map((l) => [l.of, l.how, l.id])).toEqual([
      ['binding', 'removed', a.id],
      ['binding', 'removed', b.id],
    ]);
  });
});
