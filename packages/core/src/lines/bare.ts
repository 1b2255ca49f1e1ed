import type { TableKind } from '../tables/kind.js';
import { own } from '../util/own.js';

/** What is as good as not said: lines do not tell it apart. */
const USUAL: Record<string, (value: unknown) => boolean> = {
  payload: isEmpty,
  params: isEmpty,
  effects: isEmpty,
  tags: isEmpty,
  delivery: (d) => Object.keys(d as object).length === 0,
  raisedInPause: isFalse,
  expectsListener: isFalse,
  expectsSender: isFalse,
  whileAsleep: isFalse,
  isKey: isFalse,
  unique: isFalse,
  persistent: isFalse,
  runsInPause: isFalse,
  existsOn: (on) => on === 'all',
  /** What only the game says, and what stands in lines of its own. */
  origin: () => true,
  source: () => true,
};
const OF_ITS_OWN = new Set(['properties', 'events', 'actions', 'placements', 'bindings']);

/** A thing without what lines do not say since it is usual; of an asset only what stands in its head. */
export function bare(kind: TableKind, item: object): object {
  return Object.fromEntries(
    Object.entries(item).filter(([part, value]) => {
      if (kind === 'assets' && OF_ITS_OWN.has(part)) return false;
      // Overrides of a placement may be called like parts.
      return own(USUAL, part)?.(value) !== true;
    }),
  );
}
function isEmpty(list: unknown): boolean {
  return (list as unknown[]).length === 0;
}
function isFalse(value: unknown): boolean {
  return value === false;
}
