import type { Area, Vec2 } from '../project/types.js';
import { areaContains } from './area.js';

/** From where to where along a way something is inside, in metres walked; both ends inside. */
export interface Stay {
  from: number;
  to: number;
}

/**
 * Where a way, walked from point to point, is inside an area that stands at a place. A border counts as inside, so a
 * way that only touches one stays there for no length. Stays come in order and do not touch. Exact for circles,
 * rectangles and polygons up to rounding: each leg is cut where it meets the border, and what lies between two cuts is
 * judged by its middle. Cost: legs × corners, sorted for each leg.
 */
export function staysInside(area: Area, at: Vec2, points: readonly Vec2[]): Stay[] {
  const stays: Stay[] = [];
  let walked = 0;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length === 0) continue;
    for (const [from, to] of partsInside(area, at, a, b)) {
      addStay(stays, { from: walked + from * length, to: walked + to * length });
    }
    walked += length;
  }
  if (walked === 0 && points.length > 0 && areaContains(area, at, points[0])) stays.push({ from: 0, to: 0 });
  return stays;
}

/** How long a way is, in metres. */
export function wayLength(points: readonly Vec2[]): number {
  return points.reduce((sum, [x, y], i) => {
    return i === 0 ? 0 : sum + Math.hypot(x - points[i - 1][0], y - points[i - 1][1]);
  }, 0);
}

/** Where two cuts are nearer than this they are one: what they leave between them is rounding. Parts of a leg. */
const SAME = 1e-12;

function addStay(stays: Stay[], next: Stay): void {
  const last = stays.at(-1);
  if (last && next.from <= last.to + SAME * Math.max(1, last.to)) last.to = Math.max(last.to, next.to);
  else stays.push(next);
}

/** Parts of one leg (0 to 1) that are inside, in order; single points where it only touches. */
function partsInside(area: Area, at: Vec2, a: Vec2, b: Vec2): [number, number][] {
  const cuts = [0, ...cutsOf(area, at, a, b).filter((t) => t > 0 && t < 1), 1].sort((s, t) => s - t);
  const point = (t: number): Vec2 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
  const parts: [number, number][] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i], cuts[i + 1]];
    // What meets the border there is inside, however the point itself is rounded.
    const border = i > 0 || areaContains(area, at, point(from));
    if (border) parts.push([from, from]);
    if (to - from > SAME && areaContains(area, at, point((from + to) / 2))) parts.push([from, to]);
  }
  if (areaContains(area, at, b)) parts.push([1, 1]);
  return joined(parts);
}
function joined(parts: [number, number][]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of parts) {
    const last = out.at(-1);
    if (last && from <= last[1] + SAME) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** Where the line through a leg meets the border, as parts of the leg. */
function cutsOf(area: Area, [cx, cy]: Vec2, a: Vec2, b: Vec2): number[] {
  const from: Vec2 = [a[0] - cx, a[1] - cy];
  const along: Vec2 = [b[0] - a[0], b[1] - a[1]];
  if ('circle' in area) return circleCuts(area.circle, from, along);
  const corners: readonly Vec2[] = 'rect' in area ? cornersOf(area.rect) : area.polygon;
  return corners.flatMap((corner, i) => edgeCuts(corner, corners[(i + 1) % corners.length], from, along));
}
function cornersOf([w, h]: Vec2): Vec2[] {
  return [
    [-w / 2, -h / 2],
    [w / 2, -h / 2],
    [w / 2, h / 2],
    [-w / 2, h / 2],
  ];
}

function circleCuts(radius: number, [x, y]: Vec2, [dx, dy]: Vec2): number[] {
  const aa = dx * dx + dy * dy;
  const half = x * dx + y * dy;
  const c = x * x + y * y - radius * radius;
  const disc = half * half - aa * c;
  if (disc < 0) return [];
  const root = Math.sqrt(disc);
  // The root that does not cancel first; the other by their product.
  const q = half >= 0 ? -half - root : -half + root;
  return q === 0 ? [0] : [q / aa, c / q];
}

/** Where a leg meets one edge; both its ends where the edge lies along it. */
function edgeCuts([px, py]: Vec2, [qx, qy]: Vec2, [x, y]: Vec2, [dx, dy]: Vec2): number[] {
  const [ex, ey] = [qx - px, qy - py];
  const cross = dx * ey - dy * ex;
  const [wx, wy] = [px - x, py - y];
  if (cross === 0) {
    if (wx * dy - wy * dx !== 0) return [];
    const length = dx * dx + dy * dy;
    return [(wx * dx + wy * dy) / length, ((qx - x) * dx + (qy - y) * dy) / length];
  }
  const t = (wx * ey - wy * ex) / cross;
  const s = (wx * dy - wy * dx) / cross;
  return s >= 0 && s <= 1 ? [t] : [];
}
