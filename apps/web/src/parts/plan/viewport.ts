/** How the plan stands in its pane: screen = metres × scale + offset. Pure functions; pixels and metres. */
export interface Viewport {
  scale: number;
  x: number;
  y: number;
}
export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export const MIN_SCALE = 0.01;
export const MAX_SCALE = 400;
/** Room for the rulers and labels at the edges. */
const MARGIN = 34;

/** Shows the whole rectangle (metres) in a pane of that size. */
export function fit(area: Rect, width: number, height: number): Viewport {
  const scale = clampScale(
    Math.min(Math.max(40, width - 2 * MARGIN) / area.width, Math.max(40, height - 2 * MARGIN) / area.height),
  );
  return {
    scale,
    x: (width - area.width * scale) / 2 - area.x * scale,
    y: (height - area.height * scale) / 2 - area.y * scale,
  };
}

/** Zooms by a factor so that the point of the pane stays where it is. */
export function zoomAt(v: Viewport, factor: number, px: number, py: number): Viewport {
  const scale = clampScale(v.scale * factor);
  const k = scale / v.scale;
  return { scale, x: px - (px - v.x) * k, y: py - (py - v.y) * k };
}
export function toScreen(v: Viewport, [mx, my]: readonly [number, number]): [number, number] {
  return [mx * v.scale + v.x, my * v.scale + v.y];
}
export function toMetres(v: Viewport, [x, y]: readonly [number, number]): [number, number] {
  return [(x - v.x) / v.scale, (y - v.y) / v.scale];
}
function clampScale(scale: number): number {
  return Math.min(MAX_SCALE, Math.max(MIN_SCALE, scale));
}

/** A round distance (1, 2 or 5 times a power of ten) that is at least so many pixels wide. */
export function roundStep(scale: number, pixels: number): number {
  const raw = pixels / scale;
  const power = 10 ** Math.floor(Math.log10(raw));
  const lead = raw / power;
  return (lead <= 1 ? 1 : lead <= 2 ? 2 : lead <= 5 ? 5 : 10) * power;
}

/** The rectangle of a scene's plan: its size, or what its things take up, with some room. */
export function extent(
  size: readonly [number, number] | undefined,
  points: readonly (readonly [number, number])[],
): Rect {
  if (size && size[0] > 0 && size[1] > 0) return { x: 0, y: 0, width: size[0], height: size[1] };
  let [left, top, right, bottom] = [0, 0, 0, 0];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    top = Math.min(top, y);
    right = Math.max(right, x);
    bottom = Math.max(bottom, y);
  }
  return { x: left - 3, y: top - 3, width: right - left + 6, height: bottom - top + 6 };
}

/** A plan is opened on its things where that shows them so many times as large, in a pane of that shape. */
const WORTH = 2.5;
const PANE = { width: 4, height: 3 };
/** Metres around them, at the least, and as a share of what they take up. */
const AROUND = { least: 4, share: 0.15 };

/** The part of a plan that its things take up, with some room, where they lie close together in a wide plan; else null. */
export function crowded(bounds: Rect, things: readonly { at: readonly [number, number] }[]): Rect | null {
  if (things.length < 2) return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { at } of things) {
    left = Math.min(left, at[0]);
    top = Math.min(top, at[1]);
    right = Math.max(right, at[0]);
    bottom = Math.max(bottom, at[1]);
  }
  const room = Math.max(AROUND.least, AROUND.share * Math.max(right - left, bottom - top));
  const part = {
    x: left - room,
    y: top - room,
    width: right - left + 2 * room,
    height: bottom - top + 2 * room,
  };
  const scale = (of: Rect): number => Math.min(PANE.width / of.width, PANE.height / of.height);
  return scale(part) >= WORTH * scale(bounds) ? part : null;
}
