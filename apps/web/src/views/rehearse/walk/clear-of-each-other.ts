import type { Rect } from '../../../parts/plan/viewport.js';

/**
 * Boxes from top to bottom, each moved down as far as it must be to touch none above it. Cost: the square of their number, which
 * whoever draws them keeps small.
 */
export function clearOfEachOther<T extends Rect>(boxes: readonly T[]): T[] {
  const placed: T[] = [];
  for (const box of [...boxes].sort((a, b) => a.y - b.y || a.x - b.x)) {
    let { y } = box;
    const beside = placed
      .filter((other) => other.x < box.x + box.width && box.x < other.x + other.width)
      .sort((a, b) => a.y - b.y);
    for (const other of beside) {
      if (other.y < y + box.height && y < other.y + other.height) y = other.y + other.height;
    }
    placed.push({ ...box, y });
  }
  return placed;
}
