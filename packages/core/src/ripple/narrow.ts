import type { Ripple, RippleEntry } from './model.js';

/** What entries are to be of; what is absent is not asked. */
export interface RippleFilter {
  asset?: string;
  scene?: string;
  tag?: string;
}

/** The entries that fit, with all on the ways that lead to them, and the links among these. Linear in the ripple. */
export function narrowed(ripple: Ripple, filter: RippleFilter): Ripple {
  const { asset, scene, tag } = filter;
  if (asset === undefined && scene === undefined && tag === undefined) return ripple;
  const fits = (e: RippleEntry): boolean =>
    (asset === undefined || e.assets.includes(asset)) &&
    (scene === undefined || e.scenes.includes(scene)) &&
    (tag === undefined || e.tags.includes(tag));
  const before = new Map<string, string[]>();
  for (const l of ripple.links) {
    if (l.returns) continue;
    const list = before.get(l.to);
    if (list) list.push(l.from);
    else before.set(l.to, [l.from]);
  }
  const keep = new Set(ripple.entries.filter((e) => e.hop === 0 || fits(e)).map((e) => e.key));
  const queue = [...keep];
  for (let key = queue.pop(); key !== undefined; key = queue.pop()) {
    for (const b of before.get(key) ?? []) {
      if (keep.has(b)) continue;
      keep.add(b);
      queue.push(b);
    }
  }
  return {
    ...ripple,
    entries: ripple.entries.filter((e) => keep.has(e.key)),
    links: ripple.links.filter((l) => keep.has(l.from) && keep.has(l.to)),
  };
}
