import { staysInside, wayLength } from '../geometry/crossing.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Step, Vec2 } from '../project/types.js';
import { walkScene } from './walk-scene.js';

/** A walk over the plan of a scene. */
export interface Walk {
  scene: string;
  /** Metres; walked in this order, straight from one to the next. */
  points: readonly Vec2[];
  /** Metres a second, more than 0. */
  speed: number;
  /** Seconds. */
  start: number;
  /** The asset that walks; areas that answer to certain ones only may refuse it. */
  activator?: string;
}

/** What ends on the border, but for rounding, has not left. */
export const STILL_INSIDE = 1 - 1e-12;

/**
 * The steps that follow from a walk: whoever walks enters and leaves the sensing areas of everything placed in the
 * scene, at the moment when it comes to the border. What is inside at the beginning enters then; what is still inside
 * at the end does not leave. In order of time, then of expansion, entering before leaving. Cost: what is placed in the
 * scene, and things with areas × legs.
 */
export function walkSteps(index: ProjectIndex, { scene, points, speed, start, activator }: Walk): Step[] {
  const ground = walkScene(index, scene);
  if (!ground || points.length === 0 || !(speed > 0)) return [];
  const end = wayLength(points) * STILL_INSIDE;
  const steps: Step[] = [];
  const add = (walked: number, address: string, events: readonly string[]): void => {
    const at = Math.round((start + walked / speed) * 1e6) / 1e6;
    for (const event of events) {
      const raise = { at: address, event };
      steps.push({ at, raise: activator ? { ...raise, activator } : raise });
    }
  };
  for (const { area, at, address, enter, leave } of ground.places) {
    if (!area || enter.length + leave.length === 0) continue;
    for (const stay of staysInside(area, at, points)) {
      add(stay.from, address, enter);
      if (stay.to < end) add(stay.to, address, leave);
    }
  }
  return steps.sort((a, b) => a.at - b.at);
}
