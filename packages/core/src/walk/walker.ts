import { areaContains } from '../geometry/area.js';
import { staysInside } from '../geometry/crossing.js';
import type { Vec2 } from '../project/types.js';
import { reachOf, type WalkScene, type WalkPlace } from './walk-scene.js';
import { STILL_INSIDE } from './walk-steps.js';

/** An event that walking raises. */
export interface Touch {
  /** Metres walked in this leg until then. */
  walked: number;
  address: string;
  event: string;
}

interface Sensing {
  place: WalkPlace;
  reach: number;
}

/** Somebody who walks over a scene leg by leg, and what areas it is in. */
export class Walker {
  private sensing: readonly Sensing[];
  /** Paths of the things in whose areas it stands. Never changed in place. */
  inside: ReadonlySet<string> = new Set();

  constructor(
    ground: WalkScene,
    public at: Vec2,
  ) {
    this.sensing = sensingOf(ground);
  }

  /** What it is in where it stands, and was not in before; and what it is not in any more. Linear in areas. */
  stand(): Touch[] {
    return this.entered((place) => areaContains(place.area!, place.at, this.at));
  }
  /** The ground has changed under it. */
  reground(ground: WalkScene): Touch[] {
    this.sensing = sensingOf(ground);
    const left = new Set(this.sensing.map(({ place }) => place.path));
    this.inside = new Set([...this.inside].filter((path) => left.has(path)));
    return this.stand();
  }
  /** Puts it elsewhere without walking there. */
  place(at: Vec2, inside: ReadonlySet<string>): void {
    this.at = at;
    this.inside = inside;
  }
  /**
   * Walks straight to a point. Touches come in the order of the way, then of expansion, entering before leaving. Cost: a
   * distance for each area of the scene, and its corners for each that is near.
   */
  walk(to: Vec2): Touch[] {
    const from = this.at;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    this.at = to;
    if (length === 0) return [];
    const touches: Touch[] = [];
    let inside: Set<string> | null = null;
    for (const { place, reach } of this.sensing) {
      let is = this.inside.has(place.path);
      if (!is && distance(from, to, length, place.at) > reach) continue;
      const was = is;
      const add = (walked: number, events: readonly string[]): void => {
        for (const event of events) touches.push({ walked, address: place.address, event });
        is = !is;
      };
      const stays = staysInside(place.area!, place.at, [from, to]);
      // Where a leg begins on the border, rounding may tell it either way.
      if (is && !(stays[0]?.from <= length * (1 - STILL_INSIDE))) add(0, place.leave);
      for (const stay of stays) {
        if (!is) add(stay.from, place.enter);
        if (stay.to < length * STILL_INSIDE) add(stay.to, place.leave);
      }
      if (is === was) continue;
      inside ??= new Set(this.inside);
      if (is) inside.add(place.path);
      else inside.delete(place.path);
    }
    if (inside) this.inside = inside;
    return touches.sort((a, b) => a.walked - b.walked);
  }

  private entered(isIn: (place: WalkPlace) => boolean): Touch[] {
    const touches: Touch[] = [];
    const inside = new Set<string>();
    for (const { place } of this.sensing) {
      const is = isIn(place);
      if (is) inside.add(place.path);
      if (is === this.inside.has(place.path)) continue;
      for (const event of is ? place.enter : place.leave)
        touches.push({ walked: 0, address: place.address, event });
    }
    this.inside = inside;
    return touches;
  }
}

function sensingOf({ places }: WalkScene): Sensing[] {
  return places.flatMap((place) =>
    place.area && place.enter.length + place.leave.length > 0 ? [{ place, reach: reachOf(place.area) }] : [],
  );
}
/** From a point to a leg, in metres. */
function distance([ax, ay]: Vec2, [bx, by]: Vec2, length: number, [x, y]: Vec2): number {
  const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
  const along = Math.min(length, Math.max(0, (x - ax) * ux + (y - ay) * uy));
  return Math.hypot(ax + ux * along - x, ay + uy * along - y);
}
