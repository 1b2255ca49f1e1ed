import { describe, expect, it } from '@jest/globals';
import { expand, indexProject, type Project } from '../src/index.js';
import { FREE, type Expansion } from '../src/expand/expansion.js';
import { InstanceGroups } from '../src/expand/instance-groups.js';
import { Random, seeds } from './random.js';

const LAMPS = 40;

describe('instances in groups', () => {
  it.each(Array.from({ length: seeds(30) }, (_, seed) => seed))(
    'are those that a look at all of them finds, whatever came, left or changed: %i',
    (seed) => {
      const random = new Random(seed);
      const x = expand(indexProject(lamps()));
      const kinds = random.pick([1, 3, LAMPS]);
      const group = new Map<number, number>();
      const regroup = (i: number): unknown => group.set(i, random.int(kinds + 1) - 1);
      const lampsOf = (): number[] => [...x.instancesOf(1)];
      for (const i of lampsOf()) regroup(i);
      const all = lampsOf();
      const groups = new InstanceGroups(x, (i) => group.get(i)!);
      for (let step = 0; step < 30; step++) {
        expect(groups.of(1, 'line')).toEqual(lookedAt(lampsOf(), group));
        const changed = Array.from({ length: 1 + random.int(random.pick([2, 25])) }, () => random.pick(all));
        for (const i of changed) {
          if (random.chance(0.3)) toggle(x, i);
          else if (!x.isFree(i)) regroup(i);
        }
        groups.follow(new Set(changed));
      }
    },
  );
});

function lookedAt(instances: readonly number[], group: ReadonlyMap<number, number>): Map<number, Int32Array> {
  const found = new Map<number, number[]>();
  for (const i of instances) {
    const n = group.get(i)!;
    if (n >= 0) found.set(n, [...(found.get(n) ?? []), i]);
  }
  return new Map([...found].map(([n, list]) => [n, Int32Array.from(list)]));
}
/** An instance leaves, or comes back. */
function toggle(x: Expansion, i: number): void {
  x.flags[i] ^= FREE;
  if (x.isFree(i)) x.relisted([], new Set([i]));
  else x.relisted([i], new Set());
}
function lamps(): Project {
  return {
    format: 'oquel.project/1',
    name: 'Lamps',
    assets: [
      {
        id: 'yard',
        kind: 'scene',
        placements: Array.from({ length: LAMPS }, (_, i) => ({ id: `lamp-${i}`, asset: 'Lamp' })),
      },
      { id: 'Lamp', kind: 'prefab' },
    ],
  };
}
