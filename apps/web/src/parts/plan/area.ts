import type { Area } from '@oquel/core';

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

/** The area when one of its handles is pulled to a place (metres from the thing); sizes stay at least 0.1 m. */
export function pulled(area: Area, handle: number, [x, y]: readonly [number, number]): Area {
  const round = (m: number): number => Math.round(m * 10) / 10;
  if ('circle' in area) return { circle: Math.max(0.1, round(Math.hypot(x, y))) };
  if ('rect' in area)
    return { rect: [Math.max(0.1, round(2 * Math.abs(x))), Math.max(0.1, round(2 * Math.abs(y)))] };
  return { polygon: area.polygon.map((p, i) => (i === handle ? [round(x), round(y)] : p)) };
}
