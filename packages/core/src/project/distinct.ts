import { put } from '../util/own.js';
import type { Asset, Project } from './types.js';

/** The lists of an asset whose items answers are kept for. */
const LISTS = ['properties', 'events', 'actions', 'placements', 'bindings'] as const;

/**
 * The project with each asset, list and item being an object of its own: what one of them is found to be is kept by the
 * object, and must not be taken for another one's. What is read from a text is so already and is given back as it is.
 * Cost: the items.
 */
export function distinct(project: Project): Project {
  const seen = new Set<object>();
  let changed = false;
  const isAgain = (thing: object): boolean => {
    if (seen.has(thing)) return true;
    seen.add(thing);
    return false;
  };
  const assets = project.assets.map((asset): Asset => {
    const shares =
      isAgain(asset) ||
      LISTS.map((list) => {
        const items = asset[list] as readonly object[] | undefined;
        if (!items) return false;
        const again = isAgain(items);
        return items.map(isAgain).some((is) => is) || again;
      }).some((is) => is);
    if (!shares) return asset;
    changed = true;
    return copyOf(asset);
  });
  return changed ? { ...project, assets } : project;
}

/** A deep copy of a JSON value, in which nothing is shared with it. Cost: its size. */
export function copyOf<T>(value: T): T {
  if (Array.isArray(value)) return value.map((item: unknown) => copyOf(item)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const copy: Record<string, unknown> = {};
  for (const [key, item] of Object.entries(value)) put(copy, key, copyOf(item as unknown));
  return copy as T;
}
