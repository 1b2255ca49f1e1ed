import { LayOut } from '../geometry/lay-out.js';
import type { AssetIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Vec2 } from '../project/types.js';
import { parsePlacement } from '../wireline/placement.js';
import { needKey, type Wishes } from './needs.js';
import type { LinesReading } from './reading.js';

/** Where things come to stand that are to be placed. */
export interface Places {
  at: ReadonlyMap<string, Vec2>;
  /** The size that the plan needs; null if it is large enough. */
  grown: Vec2 | null;
}

/** Places for what is to be placed, near what it talks to, in the order of the lines. Cost: the lines and the owner's placements. */
export function layOut(owner: AssetIndex, reading: LinesReading, wishes: Wishes): Places {
  const standing = new Map<string, Vec2>();
  for (const p of owner.placements) if (p.at) standing.set(p.id, p.at);
  for (const id of reading.placed.keys()) {
    const text = wishes.get(needKey('placement', id))?.text;
    const read = text === undefined ? null : parsePlacement(text);
    if (read && 'value' in read && read.value.at) standing.set(id, read.value.at);
  }
  const lay = new LayOut(owner.decl.size, standing.values());
  const at = new Map<string, Vec2>();
  const place = (id: string, other: string | null, side: 'left' | 'right'): void => {
    if (!reading.placed.has(id) || standing.has(id)) return;
    const near = other === null ? undefined : standing.get(other);
    const found = near ? lay.near(near, side) : lay.row();
    at.set(id, found);
    standing.set(id, found);
  };
  for (const { from, to } of reading.lines) {
    const sender = 'at' in from ? firstOf(from.at, owner) : null;
    const receiver = 'at' in to ? firstOf(to.at, owner) : null;
    if (sender !== null) place(sender, receiver, 'left');
    if (receiver !== null) place(receiver, sender, 'right');
  }
  return { at, grown: lay.grown() };
}

/** The owner's placement that a path goes through first. */
function firstOf(path: string, owner: AssetIndex): string | null {
  const { scene, segments } = parsePath(path);
  return (scene === null || scene === owner.decl.id) && segments.length > 0 ? segments[0] : null;
}
