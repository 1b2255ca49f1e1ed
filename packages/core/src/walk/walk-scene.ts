import { reachableFrom } from '../edit/wiring.js';
import { areaContains, boundsOf } from '../geometry/area.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Area, Vec2 } from '../project/types.js';

/** What somebody who walks over a scene can touch: each list holds names of events, in the order declared. */
export interface WalkPlace {
  /** As a binding of the scene names it, and its address. */
  path: string;
  address: string;
  asset: string;
  /** Metres. */
  at: Vec2;
  area?: Area;
  enter: readonly string[];
  leave: readonly string[];
  use: readonly string[];
  press: readonly string[];
}

/** A scene as ground for a walk. Spawned things have no place before they are there, so they are left out. */
export interface WalkScene {
  scene: string;
  /** Everything placed that can be touched, in order of expansion. */
  places: readonly WalkPlace[];
  /** Where the player's entry stands, or else the middle of what stands there. Metres. */
  start: Vec2;
  /** The asset that enters there; empty for none. */
  walker: string;
}

/** Cost: linear in what is placed in the scene. Null if there is no such scene. */
export function walkScene(index: ProjectIndex, scene: string): WalkScene | null {
  const owner = index.assets[index.assetAt.get(scene) ?? -1];
  if (owner?.decl.kind !== 'scene') return null;
  const things = reachableFrom(index, owner);
  const entry = things.find((t) => t.placement?.entry === true);
  const places = things.flatMap((t): WalkPlace[] => {
    const { events, decl } = t.asset;
    const named = (cause: string): string[] =>
      events.filter((e) => e.cause.type === cause).map((e) => e.name);
    const area = t.placement?.area ?? decl.area;
    const place = {
      path: t.path,
      address: `${scene}:${t.path}`,
      asset: decl.id,
      at: t.at,
      ...(area ? { area } : {}),
      enter: area ? named('area-enter') : [],
      leave: area ? named('area-leave') : [],
      use: named('use'),
      press: named('press'),
    };
    const { enter, leave, use, press } = place;
    return enter.length + leave.length + use.length + press.length > 0 ? [place] : [];
  });
  return {
    scene,
    places,
    start: entry ? entry.at : middleOf(owner.decl.size, places),
    walker: entry?.asset.decl.id ?? '',
  };
}

function middleOf(size: Vec2 | undefined, places: readonly WalkPlace[]): Vec2 {
  if (size) return [size[0] / 2, size[1] / 2];
  if (places.length === 0) return [0, 0];
  let [x, y] = [0, 0];
  for (const { at } of places) [x, y] = [x + at[0], y + at[1]];
  return [x / places.length, y / places.length];
}

/** Metres between the border of an area and whoever begins before it. */
const BEFORE = 1.5;
/** Just before the area of something, or beside it where it has none; the ground's start where it is nothing to touch. */
export function startBeside(ground: WalkScene, path: string): Vec2 {
  const place = ground.places.find((p) => p.path === path);
  if (!place) return ground.start;
  const [x, y] = place.at;
  return [x, y + BEFORE + (place.area ? boundsOf(place.area)[1][1] : 0)];
}

/** Metres within which somebody who walks can use something that has no area. */
const AT_HAND = 2.5;
/** What can be used from where somebody stands, the nearest first: what has an area from within it. Linear in places. */
export function atHand(ground: WalkScene, at: Vec2): WalkPlace[] {
  const found: { place: WalkPlace; far: number }[] = [];
  for (const place of ground.places) {
    if (place.use.length === 0) continue;
    const far = Math.hypot(place.at[0] - at[0], place.at[1] - at[1]);
    if (far <= AT_HAND || (place.area && areaContains(place.area, place.at, at))) found.push({ place, far });
  }
  return found.sort((a, b) => a.far - b.far).map(({ place }) => place);
}

/** Metres from its place beyond which an area certainly does not reach. */
export function reachOf(area: Area): number {
  const [[ax, ay], [bx, by]] = boundsOf(area);
  return Math.hypot(Math.max(Math.abs(ax), Math.abs(bx)), Math.max(Math.abs(ay), Math.abs(by)));
}
