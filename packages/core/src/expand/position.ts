import type { Expansion } from './expansion.js';

/** Where an instance stands on its scene's plan: positions add up along the address. Metres. */
export function positionOf(x: Expansion, instance: number): [number, number] {
  let [px, py] = [0, 0];
  for (let at = instance; at >= 0; at = x.parent[at]) {
    const [dx, dy] = x.placementOf(at)?.at ?? [0, 0];
    px += dx;
    py += dy;
  }
  return [px, py];
}
