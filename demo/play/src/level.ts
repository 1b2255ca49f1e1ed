/** The game's own data of a place: what a level editor gives it, without any wiring. Metres. */
export interface Level {
  scene: string;
  size: [number, number];
  start: [number, number];
  /** The one who is played. */
  player: { address: string; asset: string };
  things: Thing[];
}
export interface Thing {
  address: string;
  asset: string;
  isWidget: boolean;
  at: [number, number];
  area?: Shape;
}
export type Shape =
  { circle: number } | { rect: readonly number[] } | { polygon: readonly (readonly number[])[] };

/** Whether a shape that stands at a place has a point in it. The level of this game has circles and rectangles only. */
export function isIn({ at, area }: Thing, [x, y]: readonly [number, number]): boolean {
  if (!area) return false;
  const [dx, dy] = [x - at[0], y - at[1]];
  if ('circle' in area) return Math.hypot(dx, dy) <= area.circle;
  if ('rect' in area) return Math.abs(dx) <= area.rect[0] / 2 && Math.abs(dy) <= area.rect[1] / 2;
  return false;
}
