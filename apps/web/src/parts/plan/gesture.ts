/** What pressing at a place of the plan and drawing from there means. */
export type Gesture =
  | { kind: 'pan' }
  /** Draws a frame; what stands in it is chosen. */
  | { kind: 'frame' }
  | { kind: 'move'; path: string }
  /** Draws a line from one thing to another. */
  | { kind: 'link'; path: string }
  /** Pulls a handle of the chosen thing's area: a corner of a polygon, or the only one of a circle or rectangle. */
  | { kind: 'area'; path: string; handle: number };

interface Press {
  /** The thing under the pointer that belongs to the plan's owner itself. */
  thing: string | null;
  handle: { path: string; at: number } | null;
  shift: boolean;
  /** Whether things can be moved here at all. */
  canMove: boolean;
  /** Where they cannot: the thing from which a line can be drawn. */
  link: string | null;
}

/** Decided when the pointer goes down, before anything changes. */
export function gestureOf({ thing, handle, shift, canMove, link }: Press): Gesture {
  if (!canMove) return link === null ? { kind: 'pan' } : { kind: 'link', path: link };
  if (handle) return { kind: 'area', path: handle.path, handle: handle.at };
  if (shift) return { kind: 'frame' };
  return thing === null ? { kind: 'pan' } : { kind: 'move', path: thing };
}

/** How far things go when one of them is drawn so far: its new place is a whole number of steps. Metres. */
export function snapped(
  at: readonly [number, number],
  by: readonly [number, number],
  step: number,
): [number, number] {
  if (step <= 0) return [by[0], by[1]];
  const to = (i: 0 | 1): number => Math.round((at[i] + by[i]) / step) * step - at[i];
  return [to(0), to(1)];
}
