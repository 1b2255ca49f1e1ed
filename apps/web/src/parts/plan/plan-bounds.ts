import type { Area, Backdrop } from '@oquel/core';

/** Where the plan's owner stands on its own plan. */
export const ORIGIN = [0, 0] as const;

/** The corners of the picture under a plan. */
export function cornersOfPicture(picture: Backdrop | undefined): (readonly [number, number])[] {
  if (!picture) return [];
  const { at, size } = picture;
  return [at, [at[0] + size[0], at[1] + size[1]]];
}
/** Places that show how far an area reaches. */
export function cornersOf(area: Area | undefined): (readonly [number, number])[] {
  if (!area) return [];
  if ('polygon' in area) return area.polygon;
  const [w, h] = 'circle' in area ? [area.circle, area.circle] : [area.rect[0] / 2, area.rect[1] / 2];
  return [
    [-w, -h],
    [w, h],
  ];
}
