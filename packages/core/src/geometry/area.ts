import type { Area, Vec2 } from '../project/types.js';

/** Whether an area, standing at a point, contains another point. A border counts as inside. Metres. */
export function areaContains(area: Area, [ax, ay]: Vec2, [px, py]: Vec2): boolean {
  const [x, y] = [px - ax, py - ay];
  if ('circle' in area) return x * x + y * y <= area.circle * area.circle;
  if ('rect' in area) return Math.abs(x) <= area.rect[0] / 2 && Math.abs(y) <= area.rect[1] / 2;
  return polygonContains(area.polygon, x, y);
}

/** The smallest and greatest x and y of an area about its own place, in metres. Linear in corners. */
export function boundsOf(area: Area): [low: Vec2, high: Vec2] {
  if ('circle' in area) {
    return [
      [-area.circle, -area.circle],
      [area.circle, area.circle],
    ];
  }
  if ('rect' in area) {
    const [w, h] = area.rect;
    return [
      [-w / 2, -h / 2],
      [w / 2, h / 2],
    ];
  }
  const low: Vec2 = [Infinity, Infinity];
  const high: Vec2 = [-Infinity, -Infinity];
  for (const corner of area.polygon) {
    for (const axis of [0, 1] as const) {
      low[axis] = Math.min(low[axis], corner[axis]);
      high[axis] = Math.max(high[axis], corner[axis]);
    }
  }
  return [low, high];
}

/** Even-odd rule with the border looked at first. Linear in corners. */
function polygonContains(polygon: readonly Vec2[], x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [ax, ay] = polygon[j];
    const [bx, by] = polygon[i];
    const cross = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    const within = (x - ax) * (x - bx) + (y - ay) * (y - by) <= 0;
    if (cross === 0 && within) return true;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}
