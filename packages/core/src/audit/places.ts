import type { Expansion } from '../expand/expansion.js';
import type { Evidence } from './finding.js';

const SHOWN = 50;
/** Evidence that names places, each with the same note; the first fifty. */
export function placesEvidence(x: Expansion, instances: readonly number[], note: string): Evidence {
  return { kind: 'places', places: instances.slice(0, SHOWN).map((i) => ({ at: x.address(i), note })) };
}

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
