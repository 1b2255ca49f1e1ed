import type { AssetKind } from './types.js';

/** What a name is given to. */
export type NamedKind = AssetKind | 'placement' | 'event' | 'action' | 'property';

/**
 * The name under which freely typed text is kept: "Light House" is the prefab `LightHouse`, the scene `light-house`, the
 * action `lightHouse`. What is a name already stays as it is. Empty where nothing of it can stand in a name.
 */
export function nameFromText(text: string, kind: NamedKind): string {
  const plain = text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9_-]+/g, ' ')
    .trim();
  if (/^[A-Za-z_][A-Za-z0-9_-]{0,63}$/.test(plain)) return plain;
  const words = plain.split(' ').filter(Boolean);
  const upper = (w: string): string => w[0].toUpperCase() + w.slice(1);
  const joined =
    kind === 'scene' || kind === 'placement'
      ? words.map((w) => w.toLowerCase()).join('-')
      : kind === 'prefab' || kind === 'widget'
        ? words.map(upper).join('')
        : words.map((w, i) => (i === 0 ? w[0].toLowerCase() + w.slice(1) : upper(w))).join('');
  // A digit cannot come first.
  return joined.replace(/^(?=[0-9-])/, '_').slice(0, 64);
}
