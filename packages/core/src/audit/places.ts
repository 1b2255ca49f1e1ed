import type { Expansion } from '../expand/expansion.js';
import type { Evidence } from './finding.js';

const SHOWN = 50;
/** Evidence that names places, each with the same note; the first fifty. */
export function placesEvidence(x: Expansion, instances: readonly number[], note: string): Evidence {
  return { kind: 'places', places: instances.slice(0, SHOWN).map((i) => ({ at: x.address(i), note })) };
}
