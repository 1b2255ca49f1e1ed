import type { Expansion } from '../expand/expansion.js';
import { positionOf } from '../expand/position.js';
import { sceneInstances } from '../graph/plans.js';
import { staysInside } from '../plan/crossing.js';
import type { Step, Vec2 } from '../project/types.js';

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

/**
 * The steps that follow from a walk: whoever walks enters and leaves the sensing areas of everything placed in the
 * scene, at the moment when it comes to the border. What is inside at the beginning enters then; what is still inside
 * at the end does not leave. In order of time, then of expansion, entering before leaving. Spawned things have no
 * place before they are there, so they are left out. Cost: things with areas × legs.
 */
export function walkSteps(x: Expansion, { scene, points, speed, start, activator }: Walk): Step[] {
  const root = sceneInstances(x).get(x.index.assetAt.get(scene) ?? -1);
  if (root === undefined || points.length === 0 || !(speed > 0)) return [];
  const end = wayEnd(points);
  const steps: { at: number; order: number; step: Step }[] = [];
  const add = (walked: number, instance: number, cause: 'area-enter' | 'area-leave'): void => {
    const at = Math.round((start + walked / speed) * 1e6) / 1e6;
    for (const { name, cause: c } of x.assetOf(instance).events) {
      if (c.type !== cause) continue;
      const raise = { at: x.address(instance), event: name };
      steps.push({
        at,
        order: steps.length,
        step: { at, raise: activator ? { ...raise, activator } : raise },
      });
    }
  };
  for (let i = root; i < x.end[root]; i++) {
    if (x.isSpawned(i)) continue;
    const { decl, events } = x.assetOf(i);
    const area = x.placementOf(i)?.area ?? decl.area;
    if (!area || !events.some(({ cause }) => cause.type === 'area-enter' || cause.type === 'area-leave'))
      continue;
    for (const stay of staysInside(area, positionOf(x, i), points)) {
      add(stay.from, i, 'area-enter');
      if (stay.to < end) add(stay.to, i, 'area-leave');
    }
  }
  return steps.sort((a, b) => a.at - b.at || a.order - b.order).map(({ step }) => step);
}

function wayEnd(points: readonly Vec2[]): number {
  let length = 0;
  for (let i = 1; i < points.length; i++) {
    const leg = Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
    length += leg;
  }
  // What ends on the border, but for rounding, has not left.
  return length * (1 - 1e-12);
}
