import { metres, type Area } from '@oquel/core';

export function areaText(area: Area): string {
  if ('circle' in area) return `circle, radius ${area.circle} m`;
  if ('rect' in area) return `${area.rect[0]} × ${area.rect[1]} m`;
  return `${area.polygon.length} corners`;
}
/** Where an area can be pulled, in metres from its thing. */
export function handlesOf(area: Area): (readonly [number, number])[] {
  if ('circle' in area) return [[0, -area.circle]];
  if ('rect' in area) return [[area.rect[0] / 2, area.rect[1] / 2]];
  return area.polygon;
}

/**
 * The area when one of its handles is pulled to a place (metres from the thing): a radius, a side or a corner in steps
 * of `snap`, without one in tenths of a metre. Sizes stay at least 0.1 m.
 */
export function pulled(area: Area, handle: number, [x, y]: readonly [number, number], snap: number): Area {
  const step = snap > 0 ? snap : 0.1;
  const round = (m: number): number => metres(Math.round(m / step) * step);
  const size = (m: number): number => Math.max(0.1, round(m));
  if ('circle' in area) return { circle: size(Math.hypot(x, y)) };
  if ('rect' in area) return { rect: [size(2 * Math.abs(x)), size(2 * Math.abs(y))] };
  return { polygon: area.polygon.map((p, i) => (i === handle ? [round(x), round(y)] : p)) };
}
