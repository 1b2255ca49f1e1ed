import type { AssetIndex } from '../project/index-project.js';
import type { Vec2 } from '../project/types.js';

/** Metres between things that nobody has placed by hand. */
const APART = 4;
/** Rings that are tried before the thing is put beside everything else. */
const RINGS = 200;

/**
 * A place on an owner's plan where nothing stands: near the middle, or near another place, in rings around it; inside the
 * plan as long as there is room. The same for the same plan. Cost: the placements, and the places that are taken.
 */
export function freePlace(owner: AssetIndex, near?: Vec2): Vec2 {
  const size = owner.decl.size;
  const [cx, cy] = near ?? (size ? [size[0] / 2, size[1] / 2] : [0, 0]);
  const cell = (x: number, y: number): string => `${Math.round(x / APART)},${Math.round(y / APART)}`;
  const taken = new Set(owner.placements.map(({ at = [0, 0] }) => cell(at[0] - cx, at[1] - cy)));
  const isInside = (x: number, y: number): boolean =>
    !size || (x >= 1 && y >= 1 && x <= size[0] - 1 && y <= size[1] - 1);
  for (let ring = 0; ring < RINGS; ring++) {
    let outside = true;
    for (const [i, j] of ringOf(ring)) {
      const [x, y] = [cx + i * APART, cy + j * APART];
      if (!isInside(x, y)) continue;
      outside = false;
      if (!taken.has(`${i},${j}`)) return [half(x), half(y)];
    }
    if (outside) break;
  }
  // The plan is full: below it.
  return [half(cx), half((size ? size[1] : cy + RINGS * APART) + APART)];
}
function half(metres: number): number {
  return Math.round(metres * 2) / 2;
}
/** The cells of a square ring, to the right first. */
function* ringOf(ring: number): Iterable<[number, number]> {
  if (ring === 0) yield [0, 0];
  for (let k = 0; k < 2 * ring; k++) {
    yield [ring, -ring + 1 + k];
    yield [-ring, ring - 1 - k];
    yield [ring - 1 - k, ring];
    yield [-ring + 1 + k, -ring];
  }
}
