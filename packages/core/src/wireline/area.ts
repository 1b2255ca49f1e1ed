import type { Area, Vec2 } from '../project/types.js';
import { attempt, type ParsedText } from './declared.js';
import type { Scanner } from './scanner.js';

/** `circle 3`, `4 x 6`, `polygon (0, 0) (4, 0) (4, 3)`; metres. */
export function printArea(area: Area): string {
  if ('circle' in area) return `circle ${area.circle}`;
  if ('rect' in area) return printSize(area.rect);
  return `polygon ${area.polygon.map(([x, y]) => `(${x}, ${y})`).join(' ')}`;
}
/** `60 x 40`. */
export function printSize(size: Vec2): string {
  return size.join(' x ');
}
export function parseArea(text: string): ParsedText<Area> {
  return attempt(text, areaAt);
}
export function parseSize(text: string): ParsedText<Vec2> {
  return attempt(text, sizeAt);
}

export function areaAt(s: Scanner): Area {
  if (s.takeWord('circle')) return { circle: lengthAt(s) };
  if (s.takeWord('polygon')) {
    const polygon: Vec2[] = [];
    while (s.take(/^\(/) !== null) {
      polygon.push(pairAt(s));
      if (s.take(/^\)/) === null) s.fail('")"');
    }
    if (polygon.length < 3) s.fail('at least three corners, such as (0, 0)');
    return { polygon };
  }
  return { rect: sizeAt(s) };
}
export function sizeAt(s: Scanner): Vec2 {
  const wide = lengthAt(s);
  if (s.take(/^x(?![A-Za-z_])/) === null) s.fail('"x" and the depth');
  return [wide, lengthAt(s)];
}
function lengthAt(s: Scanner): number {
  s.skipBlanks();
  const from = s.at;
  const length = metresAt(s);
  if (length > 0) return length;
  s.backTo(from);
  return s.fail('more than 0 metres');
}
/** Two numbers with a comma between them. */
export function pairAt(s: Scanner): Vec2 {
  const x = metresAt(s);
  if (s.take(/^,/) === null) s.fail('"," and a number');
  return [x, metresAt(s)];
}
function metresAt(s: Scanner): number {
  return Number(s.take(/^-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/) ?? s.fail('metres'));
}
