import type { Asset } from '../../src/index.js';
import type { NaiveReading } from './reading.js';

/** The asset that a path names when it is walked by name alone; null if it leads nowhere, or into what yields nothing. */
export function walk(r: NaiveReading, owner: Asset, path: string): Asset | null {
  const end = walkTo(r, owner, path);
  return typeof end === 'string' ? null : end;
}
/** The same, told apart: a name that is not there, or a placement that yields nothing. */
export function walkTo(r: NaiveReading, owner: Asset, path: string): Asset | 'missing' | 'stopped' {
  let [at, rest]: [Asset | undefined, string] = [owner, path];
  if (path.includes(':')) {
    const scene = path.slice(0, path.indexOf(':'));
    rest = path.slice(path.indexOf(':') + 1);
    at = r.n.project.assets.find((a) => a.kind === 'scene' && a.id === scene);
  }
  // What is spawned is spawned in the same thing, however deep.
  let holder: Asset | undefined;
  let containing = at ? [at.id] : [];
  if (!at) return 'missing';
  for (const segment of rest === '.' ? [] : rest.split('/')) {
    if (segment.startsWith('~')) {
      const id = segment.slice(1);
      holder ??= at;
      at = spawnedBy(r, holder).has(id) ? r.n.asset(id) : undefined;
      if (!at) return 'missing';
      containing = [id];
    } else {
      const id: string | undefined = at.placements?.find((p) => p.id === segment)?.asset;
      if (id === undefined) return 'missing';
      at = containing.includes(id) ? undefined : r.n.asset(id);
      if (!at || at.kind === 'scene') return 'stopped';
      containing.push(id);
    }
  }
  return at;
}

/** Everything that is spawned under an asset: by itself, and by what is spawned and what that contains. */
function spawnedBy(r: NaiveReading, asset: Asset): Set<string> {
  const spawned = new Set<string>();
  const looked = new Set<string>();
  const look = (a: Asset): void => {
    for (const effect of (a.actions ?? []).flatMap((x) => x.effects ?? [])) {
      if (!('spawn' in effect)) continue;
      const made = r.n.asset(effect.spawn);
      if (!made || made.kind === 'scene' || spawned.has(made.id)) continue;
      spawned.add(made.id);
      inside(made);
    }
  };
  const inside = (a: Asset): void => {
    if (looked.has(a.id)) return;
    looked.add(a.id);
    look(a);
    for (const p of a.placements ?? []) {
      const placed = r.n.asset(p.asset);
      if (placed && placed.kind !== 'scene') inside(placed);
    }
  };
  look(asset);
  return spawned;
}
