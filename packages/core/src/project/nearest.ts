import { distance } from 'fastest-levenshtein';
import { byCodeUnits } from './canonical.js';

/**
 * The names most like the wanted one, best first: by edit distance, those that differ by more than half of their length
 * left out. Cost: names × length².
 */
export function nearest(wanted: string, names: Iterable<string>, most = 3): string[] {
  const target = wanted.toLowerCase();
  return [...names]
    .map((name) => ({ name, far: distance(target, name.toLowerCase()) }))
    .filter(
      ({ name, far }) => name !== wanted && far <= Math.max(2, Math.max(name.length, wanted.length) / 2),
    )
    .sort((a, b) => a.far - b.far || byCodeUnits(a.name, b.name))
    .slice(0, most)
    .map(({ name }) => name);
}
