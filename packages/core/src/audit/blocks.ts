import { IntList } from '../util/int-list.js';
import type { EventDecl } from '../project/types.js';
import type { Expansion } from '../expand/expansion.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';

import type { Besides } from './touched.js';

/** Instances whose answers are kept together. */
export const INSTANCE_BLOCK = 256;

/** A bound event: its node, its instance and its number in the asset. */
export type TakeEvent = (node: number, instance: number, event: number) => void;

/** What a question needs of the ground that it is asked on. */
export interface Asked {
  readonly x: Expansion;
  readonly index: ProjectIndex;
  readonly bound: Uint8Array;
  oncePlaced<T>(name: string, make: () => T): T;
}

export interface EventQuestion {
  /** Names the question among all that are asked. */
  name: string;
  /** What the declaration must be for the event to be looked at; all if left out. */
  concerns?: (event: EventDecl, asset: AssetIndex) => boolean;
  /** What it looks at besides. */
  besides?: Besides;
  /**
   * Asked of each bound event. It may look at declarations and placements, at what the event delivers to, and at which
   * nodes of its own instance are bound: the answer is kept until an edit changes an edge at one of these.
   */
  test: (node: number, instance: number, event: number) => boolean;
}

/** The bound events of which a question says yes, in order. Cost: those in the blocks whose answers are not known. */
export function suspects(
  ctx: Asked,
  { name, concerns, test }: EventQuestion,
  kept: (Int32Array | undefined)[],
): Int32Array {
  const { x, bound } = ctx;
  const events = ctx.oncePlaced(`${name}: events`, () => concerned(ctx, concerns));
  const found = new IntList();
  if (events.every((list) => list.length === 0)) return found.toArray();
  for (let block = 0; block * INSTANCE_BLOCK < x.count; block++) {
    let nodes = kept[block];
    if (!nodes) {
      const own = new IntList();
      const end = Math.min(x.count, (block + 1) * INSTANCE_BLOCK);
      for (let i = block * INSTANCE_BLOCK; i < end; i++) {
        const base = x.nodeBase[i];
        for (const e of events[x.asset[i]]) {
          if (bound[base + e] === 1 && test(base + e, i, e)) own.push(base + e);
        }
      }
      kept[block] = nodes = own.toArray();
    }
    for (const n of nodes) found.push(n);
  }
  return found.toArray();
}

function concerned(ctx: Asked, concerns: EventQuestion['concerns']): number[][] {
  return ctx.index.assets.map((asset) =>
    [...asset.events.keys()].filter((e) => !concerns || concerns(asset.events[e], asset)),
  );
}
