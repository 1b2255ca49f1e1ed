import { describe, expect, it } from '@jest/globals';
import { clustered } from '../src/parts/plan/clusters.js';
import { ScaledPath } from '../src/parts/plan/scaled-path.js';
import type { Thing } from '../src/parts/plan/thing.js';
import { clearOfEachOther } from '../src/views/rehearse/walk/clear-of-each-other.js';
import { crowded, type Rect } from '../src/parts/plan/viewport.js';
import { Random, seeds } from '../../../packages/core/test/random.js';

const thing = (path: string, at: [number, number]): Thing =>
  ({ path, at, asset: 'Lamp' }) as unknown as Thing;

describe('dots of things that stand too near', () => {
  it('touch no other dot, hold every thing once, and lie where their things are', () => {
    for (let seed = 0; seed < seeds(40); seed++) {
      const r = new Random(seed);
      const side = 100 + r.int(900);
      const radius = 8 + r.int(6);
      const things = Array.from({ length: 160 + r.int(1000) }, (_, i) =>
        thing(`lamp-${i}`, [r.int(side), r.int(side)]),
      );
      const { alone, clusters } = clustered(
        things,
        (t) => t.at,
        radius,
        (t) => t.path === 'lamp-3',
      );
      expect(alone.map((t) => t.path)).toContain('lamp-3');
      // One that is pointed out leaves its dot; the others keep their place in the drawing, and dots their names.
      const before = clustered(
        things,
        (t) => t.at,
        radius,
        () => false,
      );
      const order = (list: readonly Thing[]): Thing[] =>
        list.filter((t) => alone.includes(t) && before.alone.includes(t));
      expect(order(alone)).toEqual(order(before.alone));
      const names = new Set(before.clusters.map((c) => c.key));
      expect(clusters.filter((c) => !names.has(c.key))).toEqual([]);
      const held = [...alone, ...clusters.flatMap((c) => c.things)].map((t) => t.path).sort();
      expect(held).toEqual(things.map((t) => t.path).sort());
      let farthest = 0;
      let nearest = Infinity;
      for (const [i, a] of clusters.entries()) {
        for (const t of a.things) farthest = Math.max(farthest, Math.hypot(t.at[0] - a.x, t.at[1] - a.y));
        for (const b of clusters.slice(i + 1))
          nearest = Math.min(nearest, Math.hypot(a.x - b.x, a.y - b.y) - a.radius - b.radius);
      }
      expect(nearest).toBeGreaterThanOrEqual(-1e-6);
      expect(farthest).toBeLessThan(2 * (2 * radius + 6));
    }
  });
  it('are not made where few things stand', () => {
    const things = Array.from({ length: 100 }, (_, i) => thing(`lamp-${i}`, [1, 1]));
    expect(
      clustered(
        things,
        (t) => t.at,
        10,
        () => false,
      ),
    ).toEqual({ alone: things, clusters: [] });
  });
});

describe('the path of a mark', () => {
  /** Points that a path goes through, absolute, of capitals and small letters alike. */
  const pointsOf = (path: string): [number, number][] => {
    const points: [number, number][] = [];
    let [x, y, fromX, fromY] = [0, 0, 0, 0];
    for (const [, letter, rest] of path.matchAll(/([A-Za-z])([^A-Za-z]*)/g)) {
      const n = (rest.match(/-?\d*\.?\d+/g) ?? []).map(Number);
      const base = letter === letter.toLowerCase() ? [x, y] : [0, 0];
      const [dx, dy] = n.slice(-2);
      const way = letter.toUpperCase();
      if (way === 'Z') [x, y] = [fromX, fromY];
      else if (way === 'H') x = base[0] + n[0];
      else if (way === 'V') y = base[1] + n[0];
      else [x, y] = [base[0] + dx, base[1] + dy];
      if (way === 'M') [fromX, fromY] = [x, y];
      points.push([x, y]);
    }
    return points;
  };
  it.each([
    'M-.42 -1H.42L1 -.42V.42L.42 1H-.42L-1 .42V-.42Z',
    'M-.75 .7V-.2A.75 .8 0 0 1 .75 -.2V.7Z',
    'M0 -.95A.95 .95 0 1 1 -.01 -.95Z',
    'M-1.25 -.7V-1.25H-.7M.7 -1.25H1.25V-.7M1.25 .7V1.25H.7M-.7 1.25H-1.25V.7',
  ])('goes through the same points wherever it is put, in any size: %s', (path) => {
    const scaled = new ScaledPath(path);
    for (const [x, y, scale] of [
      [0, 0, 1],
      [100.5, 40.25, 13],
      [-3, 7, 4.8],
    ] as const) {
      const placed = scaled.at(x, y, scale);
      const wanted = pointsOf(path).map(([px, py]) => [x + px * scale, y + py * scale]);
      const got = pointsOf(placed);
      expect(got.length).toBe(wanted.length);
      for (const [i, [px, py]] of got.entries()) {
        expect(Math.abs(px - wanted[i][0])).toBeLessThan(0.06);
        expect(Math.abs(py - wanted[i][1])).toBeLessThan(0.06);
      }
    }
  });
  it('keeps the turn and flags of an arc, and scales its radii', () => {
    expect(new ScaledPath('M0 -.5A.5 .25 0 1 1 0 .5Z').at(10, 20, 10)).toBe('M10 15a5 2.5 0 1 1 0 10z');
  });
});

describe('what a plan is opened with', () => {
  const hall = (width: number, height: number): Rect => ({ x: 0, y: 0, width, height });
  const corners = (w: number, h: number): { at: [number, number] }[] => [{ at: [0, 0] }, { at: [w, h] }];
  const cases: [string, Rect, [number, number], boolean][] = [
    ['things all over it', hall(400, 300), [380, 290], false],
    ['things in a corner', hall(4000, 3000), [100, 100], true],
    ['a long hall whose things stand at one end', hall(500, 4000), [480, 700], true],
    ['a wide hall whose things stand at one end', hall(4000, 500), [700, 480], true],
    ['things in half of it', hall(400, 300), [200, 150], false],
  ];
  it.each(cases)('%s', (_, bounds, [w, h], isPart) => {
    const part = crowded(bounds, corners(w, h));
    expect(part !== null).toBe(isPart);
    if (!part) return;
    for (const { at } of corners(w, h)) {
      expect(at[0]).toBeGreaterThanOrEqual(part.x);
      expect(at[0]).toBeLessThanOrEqual(part.x + part.width);
      expect(at[1]).toBeGreaterThanOrEqual(part.y);
      expect(at[1]).toBeLessThanOrEqual(part.y + part.height);
    }
  });
  it('a single thing is no part', () => {
    expect(crowded(hall(400, 300), [{ at: [1, 1] }])).toBeNull();
  });
});

describe('values beside things', () => {
  it('touch no others, stay in their column, and move only where they must', () => {
    for (let seed = 0; seed < seeds(60); seed++) {
      const r = new Random(seed);
      const boxes = Array.from({ length: 1 + r.int(30) }, (_, i) => ({
        key: i,
        x: r.int(300),
        y: r.int(300),
        width: 10 + r.int(90),
        height: 13 * (1 + r.int(4)),
      }));
      const placed = clearOfEachOther(boxes);
      const meet = (a: Rect, b: Rect): boolean =>
        a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
      const hits = placed.flatMap((a, i) => placed.slice(i + 1).filter((b) => meet(a, b)));
      expect({ seed, hits }).toEqual({ seed, hits: [] });
      const moved = placed.filter((p) => p.y !== boxes[p.key].y);
      for (const p of placed) expect(p.x).toBe(boxes[p.key].x);
      // Whoever is moved lies right under another one.
      for (const p of moved) expect(placed.some((o) => o.y + o.height === p.y)).toBe(true);
    }
  });
});
