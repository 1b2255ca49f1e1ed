import { bindingWords, type Finding, type ProjectIndex } from '@oquel/core';

/** An address in Wire where a finding can be seen and mended. */
export interface Place {
  text: string;
  href: string;
}

/** Bindings, senders and instances that a finding speaks of, as places in Wire; at most `most`. */
export function placesOf(index: ProjectIndex, base: string, f: Finding, most = 12): Place[] {
  const places = new Map<string, Place>();
  const add = (place: Place | null): void => {
    if (place && places.size < most) places.set(place.href, place);
  };
  const s = f.subject;
  if ('bindings' in s) for (const b of s.bindings) add(bindingPlace(index, base, b.asset, b.binding));
  else if ('binding' in s) add(bindingPlace(index, base, s.asset, s.binding));
  const name = 'event' in s ? s.event : '';
  for (const occurrence of f.occurrences) add(instancePlace(index, base, occurrence, name));
  return [...places.values()];
}

export function bindingPlace(index: ProjectIndex, base: string, asset: string, id: string): Place | null {
  const at = index.assetAt.get(asset);
  const owner = at === undefined ? undefined : index.assets[at];
  const binding = owner?.bindings[owner.bindingAt.get(id) ?? -1];
  if (!binding) return null;
  const { from } = binding;
  const query: Record<string, string> =
    'at' in from
      ? { scope: asset, at: from.at, event: from.event }
      : { scope: asset, at: `#${from.channel}` };
  return { text: `${asset}: ${bindingWords(binding)}`, href: wireHref(base, { ...query, binding: id }) };
}

/** An instance is wired in its scene. */
export function instancePlace(index: ProjectIndex, base: string, address: string, event = ''): Place | null {
  const colon = address.indexOf(':');
  const scope = address.slice(0, colon);
  if (colon < 0 || !index.assetAt.has(scope)) return null;
  const at = address.slice(colon + 1);
  return { text: address, href: wireHref(base, event === '' ? { scope, at } : { scope, at, event }) };
}
function wireHref(base: string, query: Record<string, string>): string {
  return `${base}/wire?${new URLSearchParams(query).toString()}`;
}
