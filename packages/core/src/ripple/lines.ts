import { printValue } from '../wireline/print.js';
import type { Ripple, RippleEntry, RippleLink } from './model.js';

/** One line of a ripple as an indented list, which says what the picture shows. */
export interface RippleLine {
  /** The entry that it speaks of. */
  key: string;
  depth: number;
  text: string;
  /** `again`: it stands further up already; `returns`: it leads back. */
  kind: 'entry' | 'again' | 'returns';
  /** What brings it here; none for a start. */
  bindings: RippleLink['bindings'];
}

/** `brake-1.engage`, `TrackBrake.engage x 40`, `#tension["east"]`. */
export function entryText(e: RippleEntry): string {
  if (e.kind === 'channel') {
    return `#${e.name}${e.channelKey === undefined ? '' : `[${printValue(e.channelKey)}]`}`;
  }
  if (e.kind === 'cycle') return `${e.name} (${assetWords(e)})`;
  if (e.count > 1) return `${e.asset}.${e.name} x ${e.count}`;
  return `${e.at[0]}.${e.name}`;
}

/** What a cycle is of, the first three. */
function assetWords({ assets }: RippleEntry): string {
  const more = assets.length - 3;
  return `${assets.slice(0, 3).join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}

/** The receiver without its scene, and what it does: the two lines of an entry. */
export function entryWords(e: RippleEntry): [who: string, what: string] {
  if (e.kind === 'channel') return [entryText(e), ''];
  if (e.kind === 'cycle') return [e.name, assetWords(e)];
  const path = e.count > 1 ? e.asset : (e.at[0]?.slice(e.at[0].indexOf(':') + 1) ?? '');
  return [path === '.' ? e.asset : path, e.name];
}

/**
 * The ripple as a list, depth first: each entry once with all that follows, where it is met first; where it is met again,
 * and where a way returns, a line says so. Explicit stack. Linear in entries and links.
 */
export function rippleLines(ripple: Ripple): RippleLine[] {
  const by = new Map(ripple.entries.map((e) => [e.key, e]));
  const after = new Map<string, RippleLink[]>();
  for (const l of ripple.links) {
    const list = after.get(l.from);
    if (list) list.push(l);
    else after.set(l.from, [l]);
  }
  const seen = new Set<string>();
  const lines: RippleLine[] = [];
  const stack: { key: string; depth: number; link: RippleLink | null }[] = [];
  for (const e of [...ripple.entries].reverse()) {
    if (e.hop === 0) stack.push({ key: e.key, depth: 0, link: null });
  }
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { key, depth, link } = next;
    const e = by.get(key)!;
    const bindings = link?.bindings ?? [];
    if (link?.returns) {
      const text = link.cycle
        ? `returns (${link.class}) to ${entryText(e)}`
        : `also leads to ${entryText(e)} (hop ${e.hop})`;
      lines.push({ key, depth, kind: 'returns', bindings, text });
      continue;
    }
    const how = link ? linkText(link) : '';
    if (seen.has(key)) {
      lines.push({ key, depth, kind: 'again', bindings, text: `${entryText(e)}${how}, as above` });
      continue;
    }
    seen.add(key);
    lines.push({ key, depth, kind: 'entry', bindings, text: `${entryText(e)}${how}${stateText(e)}` });
    for (const l of [...(after.get(key) ?? [])].reverse())
      stack.push({ key: l.to, depth: depth + 1, link: l });
  }
  return lines;
}
function linkText(link: RippleLink): string {
  return [
    link.via.length > 0 ? `, by ${link.via.join(', ')}` : '',
    link.delay > 0 ? `, after ${link.delay}s` : '',
    link.asks.length > 0 ? `, ${link.asks.join('; or ')}` : '',
    link.class === 'limited' || (link.class === 'conditional' && link.asks.length === 0)
      ? `, ${link.class}`
      : '',
  ].join('');
}
function stateText(e: RippleEntry): string {
  return [
    e.spawned ? ', spawned' : '',
    e.asleep ? ', asleep at first' : '',
    e.outside && e.hop > 0 ? ', from outside' : '',
    e.gone ? ', falls away' : '',
  ].join('');
}
