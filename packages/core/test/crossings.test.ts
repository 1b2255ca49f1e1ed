import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import {
  buildGraph,
  CROSSING_ORDERS,
  crossingsOf,
  expand,
  indexProject,
  NO_TAG,
  orderGroups,
  readProjectText,
  type CrossingGroup,
  type Crossings,
  type Project,
} from '../src/index.js';
import { Naive, type NaiveInstance } from './naive.js';
import { randomProject } from './random-project.js';

const DEMO = readProjectText(
  readFileSync(new URL('../../../demo/storm-over-veyra.json', import.meta.url), 'utf8'),
).project;
const of = (project: Project, by: CrossingGroup): Crossings =>
  crossingsOf(buildGraph(expand(indexProject(project))), by);

/** A second reading: every pair of things between which something is delivered, gathered one by one. */
function naive(project: Project, by: 'scene' | 'asset' | 'tag'): Map<string, number> {
  const n = new Naive(project);
  const edges = n.edges();
  const instance = new Map<string, NaiveInstance>(n.instances.map((i) => [i.address, i]));
  const at = (node: string): NaiveInstance => instance.get(node.slice(0, node.lastIndexOf(' ')))!;
  const groups = (i: NaiveInstance): string[] => {
    if (by === 'scene') return [i.address.split(':')[0]];
    if (by === 'asset') return [i.asset.id];
    return i.asset.tags && i.asset.tags.length > 0 ? [...new Set(i.asset.tags)] : [NO_TAG];
  };
  const found = new Map<string, number>();
  const add = (from: string, to: string): void => {
    for (const f of groups(at(from))) {
      for (const t of groups(at(to))) found.set(`${f}>${t}`, (found.get(`${f}>${t}`) ?? 0) + 1);
    }
  };
  for (const e of edges) {
    if (e.kind === 'bind') add(e.tail, e.head);
    if (e.kind !== 'publish') continue;
    for (const h of edges) if (h.kind === 'hear' && h.tail === e.head) add(e.tail, h.head);
  }
  return found;
}
function counts({ groups, cells }: Crossings): Map<string, number> {
  return new Map(cells.map((c) => [`${groups[c.from]}>${groups[c.to]}`, c.deliveries]));
}
const sorted = (m: Map<string, number>): [string, number][] => [...m].sort(([a], [b]) => (a < b ? -1 : 1));

describe('crossings', () => {
  it.each(['scene', 'asset', 'tag'] as const)('by %s: as counted one by one on random projects', (by) => {
    let pairs = 0;
    for (let seed = 0; seed < 120; seed++) {
      const project = randomProject(seed);
      const ours = counts(of(project, by));
      expect({ seed, cells: sorted(ours) }).toEqual({ seed, cells: sorted(naive(project, by)) });
      pairs += ours.size;
    }
    expect(pairs).toBeGreaterThan(50);
  });
  it('by channel: channels stand between those who tell and those who hear', () => {
    const { groups, cells } = of(DEMO, 'channel');
    const said = (from: string, to: string): unknown =>
      cells.find((c) => groups[c.from] === from && groups[c.to] === to)?.deliveries;
    expect(said('RopeGauge', '#tension')).toBeGreaterThan(0);
    expect(said('#crewAlert', 'AlertRibbon')).toBeGreaterThan(0);
    for (const c of cells)
      if (groups[c.from].startsWith('#')) expect(groups[c.to].startsWith('#')).toBe(false);
  });
  it('tells what crosses scenes, goes through channels and is made in code, and by which bindings', () => {
    const { groups, cells } = of(DEMO, 'scene');
    for (const c of cells) {
      expect(c.acrossScenes).toBe(c.from === c.to ? 0 : c.deliveries);
      expect(c.bindings.length).toBe(c.of);
    }
    const cell = cells.find((c) => groups[c.from] === 'valley-station' && groups[c.to] === 'summit-refuge')!;
    expect(cell.bindings).toContainEqual({ asset: 'valley-station', binding: 'fire-sled' });
  });
  it.each(CROSSING_ORDERS)('ordered by %s every group stands once', (order) => {
    for (const by of ['scene', 'asset', 'tag', 'channel'] as const) {
      const crossings = of(DEMO, by);
      expect([...orderGroups(crossings, order)].sort((a, b) => a - b)).toEqual(
        crossings.groups.map((_, i) => i),
      );
    }
  });
  it('clusters stand together: two groups of pairs that were dealt out in turn are apart afterwards', () => {
    const groups = Array.from({ length: 12 }, (_, i) => `g${i}`);
    const cells = groups.slice(2).map((_, i) => ({
      from: i,
      to: i + 2,
      deliveries: 1,
      throughChannel: 0,
      inCode: 0,
      acrossScenes: 0,
      bindings: [],
      of: 1,
    }));
    const order = orderGroups({ by: 'asset', groups, cells }, 'clusters');
    const place = (g: number): number => order.indexOf(g);
    for (const c of cells) expect(Math.abs(place(c.from) - place(c.to))).toBe(1);
    const heavy = orderGroups({ by: 'asset', groups, cells: [{ ...cells[5], deliveries: 9 }] }, 'weight');
    expect(heavy.slice(0, 2).sort()).toEqual([5, 7]);
  });
});
