import type { RippleStart } from '@oquel/core';

/** The address of the ripple that begins there. */
export function rippleHref(base: string, start: RippleStart, way: 'on' | 'back' = 'on'): string {
  const query = new URLSearchParams();
  if ('channel' in start) {
    query.set('channel', start.channel);
    if (start.key !== undefined) query.set('key', JSON.stringify(start.key));
  } else {
    if ('at' in start) query.set('at', start.at);
    else query.set('asset', start.asset);
    if (start.name !== undefined) query.set('name', start.name);
  }
  if (way === 'back') query.set('way', way);
  return `${base}/ripple?${query.toString()}`;
}
