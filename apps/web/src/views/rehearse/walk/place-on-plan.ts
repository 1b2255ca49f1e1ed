import type { Vec2 } from '@oquel/core';

/** Pixels between a spawned thing and what spawned it. */
const APART = 26;
/** The golden angle: however many there are, no two stand in one place. */
const TURN = Math.PI * (3 - Math.sqrt(5));

/**
 * Where an address stands on the plan of a scene, in metres, and pixels beside it: what is spawned has no place of its own
 * and stands around what spawned it. Null where it is in another scene, or nothing.
 */
export function placeOnPlan(
  address: string,
  scene: string,
  places: ReadonlyMap<string, Vec2>,
): { at: Vec2; aside: Vec2 } | null {
  if (!address.startsWith(`${scene}:`)) return null;
  const path = address.slice(scene.length + 1);
  const spawned = path.split('/').findIndex((name) => name.startsWith('~'));
  if (spawned < 0) {
    const at = places.get(path);
    return at ? { at, aside: [0, 0] } : null;
  }
  const names = path.split('/');
  const at = places.get(names.slice(0, spawned).join('/') || '.');
  if (!at) return null;
  const number = Number(/#(\d+)$/.exec(names[spawned])?.[1] ?? 1);
  const angle = number * TURN;
  return { at, aside: [APART * Math.cos(angle), APART * Math.sin(angle)] };
}
