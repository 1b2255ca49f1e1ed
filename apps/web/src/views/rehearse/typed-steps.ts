import { assetAtAddress, type ProjectIndex, type Value } from '@oquel/core';

/** A number, yes or no as such, everything else as text; quotes make a text of anything. Null for no key. */
export function readKey(text: string): { value: Value | null } {
  const bare = text.trim();
  if (bare === '') return { value: null };
  if (/^(true|false|-?(0|[1-9]\d*)(\.\d+)?)$/.test(bare)) return { value: JSON.parse(bare) as Value };
  return { value: bare.replace(/^"(.*)"$/, '$1') };
}

/**
 * Reads `pylon-ridge:mast-2.onGust`. What is not there can be raised all the same, since a copy may be spawned by then; the
 * doubt says what is missing.
 */
export function readRaise(
  index: ProjectIndex,
  text: string,
): { raise: { at: string; event: string } | null; doubt: string } {
  const match = /^([^\s:]+:[^\s]+)\.([A-Za-z_][\w-]*)$/.exec(text.trim());
  if (!match)
    return { raise: null, doubt: text.trim() === '' ? '' : 'a scene, a colon, a thing, a dot and an event' };
  const [, at, event] = match;
  const asset = assetAtAddress(index, at);
  const has = asset?.eventAt.has(event) === true;
  const doubt = has ? '' : asset ? `${asset.decl.id} has no event ${event}` : `nothing is called ${at}`;
  return { raise: { at, event }, doubt };
}
