import type { Area, Vec2 } from '../project/types.js';

/**
 * A point turned clockwise about a centre (the plan's y runs downwards), in whole millimetres.
 * Quarter turns are exact.
 */
export function rotatePoint(
  [x, y]: readonly [number, number],
  [cx, cy]: readonly [number, number],
  degrees: number,
): Vec2 {
  const [cos, sin] = cosSin(degrees);
  const [dx, dy] = [x - cx, y - cy];
  return [millimetres(cx + dx * cos - dy * sin), millimetres(cy + dx * sin + dy * cos)];
}

/** An area turned about its own placement. A circle stays; a rectangle that no longer stands upright becomes a polygon. */
export function rotateArea(area: Area, degrees: number): Area {
  if ('circle' in area) return area;
  const quarter = ((degrees / 90) % 4) + 4;
  if ('polygon' in area) return { polygon: area.polygon.map((p) => rotatePoint(p, [0, 0], degrees)) };
  const [w, h] = area.rect;
  if (quarter % 2 === 0) return area;
  if (quarter % 1 === 0) return { rect: [h, w] };
  const corners: Vec2[] = [
    [-w / 2, -h / 2],
    [w / 2, -h / 2],
    [w / 2, h / 2],
    [-w / 2, h / 2],
  ];
  return { polygon: corners.map((p) => rotatePoint(p, [0, 0], degrees)) };
}

function cosSin(degrees: number): [number, number] {
  const quarter = (((degrees / 90) % 4) + 4) % 4;
  if (quarter % 1 === 0)
    return (
      [
        [1, 0],
        [0, 1],
        [-1, 0],
        [0, -1],
      ] as const
    )[quarter] as [number, number];
  const radians = (degrees * Math.PI) / 180;
  return [Math.cos(radians), Math.sin(radians)];
}
function millimetres(value: number): number {
  return Math.round(value * 1000) / 1000 + 0;
}
