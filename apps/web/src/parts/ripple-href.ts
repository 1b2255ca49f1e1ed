import { assetAtPath, type AssetIndex, type ProjectIndex, type RippleStart } from '@oquel/core';

/** The address of the ripple that begins there. */
export function rippleHref(
  base: string,
  start: RippleStart,
  direction: 'forward' | 'backward' = 'forward',
): string {
  const query = new URLSearchParams();
  if ('channel' in start) {
    query.set('channel', start.channel);
    if (start.key !== undefined) query.set('key', JSON.stringify(start.key));
  } else {
    if ('at' in start) query.set('at', start.at);
    else query.set('asset', start.asset);
    if (start.name !== undefined) query.set('name', start.name);
  }
  if (direction === 'backward') query.set('way', 'back');
  return `${base}/ripple?${query.toString()}`;
}

/** In a prefab or widget the ripple of a nested thing is that of all things of its kind. */
export function startAt(index: ProjectIndex, owner: AssetIndex, at: string, name?: string): RippleStart {
  const named = name === undefined ? {} : { name };
  if (at.includes(':')) return { at, ...named };
  if (owner.decl.kind === 'scene') return { at: `${owner.decl.id}:${at}`, ...named };
  return { asset: assetAtPath(index, owner, at)?.decl.id ?? owner.decl.id, ...named };
}
