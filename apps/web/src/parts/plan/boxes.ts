import type { Thing } from './thing.js';

/** A part of a widget with all that is nested in it. */
export interface Box {
  thing: Thing;
  inside: Box[];
  /** Boxes in it that hold none themselves; its share of the room. */
  leaves: number;
}

/** Things by what contains them. A box that stands first is an outermost one. */
export function boxesOf(things: readonly Thing[]): Box[] {
  const roots: Box[] = [];
  const by = new Map<string, Box>();
  for (const thing of things) {
    const box: Box = { thing, inside: [], leaves: 1 };
    by.set(thing.path, box);
    const slash = thing.path.lastIndexOf('/');
    const above = thing.path === '.' ? undefined : by.get(slash < 0 ? '.' : thing.path.slice(0, slash));
    (above?.inside ?? roots).push(box);
  }
  // What contains comes before what it contains: from the back each box is full before it is counted.
  for (const box of [...by.values()].reverse()) {
    if (box.inside.length > 0) box.leaves = box.inside.reduce((n, b) => n + b.leaves, 0);
  }
  return roots;
}
