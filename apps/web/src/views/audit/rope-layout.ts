import type { PathStep } from '@oquel/core';

/** A stop on the drawn path. Pixels. */
export interface RopeStop {
  step: PathStep;
  x: number;
  y: number;
  /** Number of the hop that ends here; absent for events and channels. */
  hop?: number;
}
export interface Rope {
  stops: RopeStop[];
  /** Points of the line through all stops; of a cycle also the way back. */
  line: [number, number][];
  width: number;
  height: number;
}

const MIN_COLUMN = 146;
const ROW = 96;
/** Room at either side for labels and turns. */
const SIDE = 80;
const TURN = 62;
const TOP = 34;

/**
 * Lays a path out as stops on a rope. A chain runs to the right, turns at the edge and comes back, so that any length
 * fits the width; a cycle runs out above and home below. The last node of a cycle, which is the first again, is left out.
 */
export function layRope(steps: readonly PathStep[], closed: boolean, width: number): Rope {
  const shown = closed ? steps.slice(0, -1) : steps;
  const fitting = Math.max(2, Math.floor((width - 2 * SIDE) / MIN_COLUMN) + 1);
  const loop = closed && shown.length <= 2 * fitting;
  const columns = loop ? Math.max(1, Math.ceil(shown.length / 2)) : fitting;
  const gap = columns > 1 ? Math.min(220, (width - 2 * SIDE) / (columns - 1)) : 0;
  let hop = 0;
  const stops = shown.map((step, i): RopeStop => {
    const row = Math.floor(i / columns);
    const along = i % columns;
    const column = row % 2 === 0 ? along : columns - 1 - along;
    const stop: RopeStop = { step, x: SIDE + column * gap, y: TOP + row * ROW };
    return step.node.type === 'action' ? { ...stop, hop: (hop += 1) } : stop;
  });
  const rows = Math.max(1, Math.ceil(shown.length / columns));
  const right = SIDE + (columns - 1) * gap;
  const line = serpentine(stops, right);
  let height = TOP + rows * ROW - 40;
  if (closed && stops.length > 0) {
    const [first] = stops;
    const last = stops[stops.length - 1];
    const goesHome = loop && rows === 2;
    const bottom = goesHome ? last.y : last.y + 62;
    if (!goesHome) line.push([last.x, last.y], [right + TURN, last.y], [right + TURN, bottom]);
    line.push([SIDE - TURN, bottom], [SIDE - TURN, first.y], [first.x, first.y]);
    height = Math.max(height, bottom + 12);
  }
  return { stops, line, width: right + SIDE, height };
}

/** The line through stops in rows; the turns go round outside, so that they do not run through labels. */
function serpentine(stops: readonly RopeStop[], right: number): [number, number][] {
  const line: [number, number][] = [];
  stops.forEach((stop, i) => {
    const before = stops[i - 1];
    if (before && before.y !== stop.y) {
      const outside = stop.x > (SIDE + right) / 2 || right === SIDE ? right + TURN : SIDE - TURN;
      line.push([outside, before.y], [outside, stop.y]);
    }
    line.push([stop.x, stop.y]);
  });
  return line;
}
