import { reachableFrom, type AssetIndex, type ProjectIndex, type Reachable } from '@oquel/core';

/** What a candidate begins with that stands for every instance of an asset. */
export const EVERY = 'every ';

/** Something that can be chosen as a receiver: a thing here or in another scene, `every Asset`, or `#channel`. */
export interface Candidate {
  path: string;
  /** Its asset's id, "channel", or "every one". */
  kind: string;
  tags: readonly string[];
  /** Metres from the sender; null where there is no plan between them. */
  distance: number | null;
  /** Actions that the event is already wired to here. */
  wired: readonly string[];
}
export type Order = 'near' | 'name';

/** Everything that the event could be wired to, but for what stands in other scenes. */
export function allCandidates(
  index: ProjectIndex,
  things: readonly Reachable[],
  senderPath: string,
  wired: ReadonlyMap<string, ReadonlySet<string>>,
  withChannels: boolean,
): Candidate[] {
  const bare = (path: string, kind: string): Candidate => ({
    path,
    kind,
    tags: [],
    distance: null,
    wired: [...(wired.get(path) ?? [])],
  });
  const every = index.assets
    .filter((a) => a.decl.kind !== 'scene' && a.actions.length > 0)
    .map((a) => bare(`${EVERY}${a.decl.id}`, 'every one'));
  const sender = things.find((t) => t.path === senderPath && t.depth > 0);
  const list: Candidate[] = things
    .filter((t) => t.asset.actions.length > 0)
    .map((t) => ({
      path: t.path,
      kind: t.asset.decl.id,
      tags: t.asset.decl.tags ?? [],
      distance: sender && t.depth > 0 ? Math.hypot(t.at[0] - sender.at[0], t.at[1] - sender.at[1]) : null,
      wired: [...(wired.get(t.path) ?? [])],
    }));
  if (!withChannels) return [...list, ...every];
  const channels = (index.project.channels ?? []).map((c) => bare(`#${c.name}`, 'channel'));
  return [...list, ...every, ...channels];
}
/** What stands in the other scenes, as a binding of a scene names it. */
export function candidatesElsewhere(
  index: ProjectIndex,
  owner: AssetIndex,
  wired: ReadonlyMap<string, ReadonlySet<string>>,
): Candidate[] {
  const others = index.assets.filter((a) => a.decl.kind === 'scene' && a !== owner);
  return others.flatMap((scene) =>
    reachableFrom(index, scene)
      .filter((t) => t.asset.actions.length > 0)
      .map((t): Candidate => {
        const path = `${scene.decl.id}:${t.path}`;
        return {
          path,
          kind: t.asset.decl.id,
          tags: t.asset.decl.tags ?? [],
          distance: null,
          wired: [...(wired.get(path) ?? [])],
        };
      }),
  );
}

/**
 * Keeps what matches every word (path, asset or #tag) and the chip; not yet wired first, then by the order. Text that
 * begins with `*` looks among the selections of every instance alone.
 */
export function findCandidates(
  all: readonly Candidate[],
  text: string,
  chip: string,
  order: Order,
): Candidate[] {
  const selections = text.startsWith('*');
  const words = text
    .replace(/^\*/, selections ? EVERY : '')
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean);
  const found = all.filter((c) => {
    if (selections && !c.path.startsWith(EVERY)) return false;
    if (chip !== '' && c.kind !== chip && !c.tags.includes(chip.slice(1))) return false;
    const hay = `${c.path} ${c.kind} ${c.tags.map((t) => `#${t}`).join(' ')}`.toLowerCase();
    return words.every((w) => hay.includes(w));
  });
  const starts = (c: Candidate): number =>
    words.length > 0 && c.path.toLowerCase().startsWith(words[0]) ? 0 : 1;
  const byOrder = (a: Candidate, b: Candidate): number =>
    order === 'near' ? far(a) - far(b) || compare(a.path, b.path) : compare(a.path, b.path);
  return found.sort(
    (a, b) =>
      Math.sign(a.wired.length) - Math.sign(b.wired.length) || starts(a) - starts(b) || byOrder(a, b) || 0,
  );
}
/** What has no place comes after what has one: things, then channels, then selections. */
function far({ distance, kind }: Candidate): number {
  return distance ?? (kind === 'every one' ? 3e9 : kind === 'channel' ? 2e9 : 1e9);
}
function compare(a: string, b: string): number {
  return a.localeCompare(b, 'en', { numeric: true });
}

export interface Chip {
  name: string;
  count: number;
}
/** Assets and tags among the candidates, the most frequent first. */
export function chipsOf(all: readonly Candidate[], most = 7): Chip[] {
  const counts = new Map<string, number>();
  const add = (name: string): unknown => counts.set(name, (counts.get(name) ?? 0) + 1);
  for (const c of all) {
    add(c.kind);
    for (const tag of c.tags) add(`#${tag}`);
  }
  return [...counts]
    .map(([name, count]) => ({ name, count }))
    .filter((c) => c.name !== 'channel' && c.name !== 'every one')
    .sort((a, b) => b.count - a.count || compare(a.name, b.name))
    .slice(0, most);
}

/** Whether a text could be the name of a thing. */
export function isNewName(text: string): boolean {
  return /^[A-Za-z][A-Za-z0-9_-]*$/.test(text.trim());
}
