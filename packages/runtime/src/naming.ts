import { type Instance, instanceIn, placedIn, type Scene } from './instance.js';

/** Expansion order; copies of one template in order of birth, each followed by all that it contains. */
export function inOrder(a: Instance, b: Instance): number {
  if (a.scene !== b.scene) return a.scene.order - b.scene.order;
  if (a.copy && b.copy && a.copy !== b.copy && a.copy.template === b.copy.template)
    return a.copy.number - b.copy.number;
  return a.at - b.at;
}
/** The instance of a scene under a path without copy numbers; −1 for none. */
export function placeIn(scene: Scene, path: string): number {
  let at = 0;
  for (const name of path === '.' ? [] : path.split('/')) {
    at = name.startsWith('~') ? scene.childOf(at, name.split('#')[0]) : scene.childOf(at, name);
    if (at < 0) return -1;
  }
  return at;
}
/** The instance under a path; null where none is, or no copy is born. */
export function instanceAt(scene: Scene, path: string): Instance | null {
  const at = placeIn(scene, path);
  if (at < 0) return null;
  if (scene.spawned[at] === 0) return placedIn(scene, at);
  const born = scene.born.get(scene.templateOver(at)) ?? [];
  const number = /~[^/]*#(\d+)/.exec(path)?.[1];
  const copy =
    number === undefined ? (born.findLast((c) => !c.root.gone) ?? born.at(-1)) : born[Number(number) - 1];
  return copy ? instanceIn(copy, at) : null;
}
