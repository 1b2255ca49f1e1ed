import { describe, expect, it } from '@jest/globals';
import { placesIn, type Region } from '../src/index.js';
import { toPointer } from '../src/project/problem.js';
import { Random, seeds } from './random.js';

/** The text of a region, by its lines and columns. */
function textAt(text: string, { line, column, endLine, endColumn }: Region): string {
  const lines = text.split('\n').slice(line - 1, endLine);
  lines[lines.length - 1] = lines[lines.length - 1].slice(0, endColumn - 1);
  lines[0] = lines[0].slice(column - 1);
  return lines.join('\n');
}
const NAMES = ['a', 'b/c', '~', '', '__proto__', 'constructor', '"', '\\', '\u{1f32a}', '0'];
function randomValue(r: Random, depth: number): unknown {
  const what = depth > 4 ? r.int(4) : r.int(7);
  if (what === 0) return r.pick([0, -1.5e30, true, false, null]);
  if (what < 4) return r.pick(['', 'x', '"quoted"', 'a\\', '{[,]}', '\n', '\u2028', '\ud800']);
  if (what === 4) return Array.from({ length: r.int(4) }, () => randomValue(r, depth + 1));
  return Object.fromEntries(
    Array.from({ length: r.int(4) }, () => [r.pick(NAMES), randomValue(r, depth + 1)]),
  );
}
/** Every pointer into a value, with what is there. */
function* pointersOf(value: unknown, path: (string | number)[] = []): Iterable<[string, unknown]> {
  yield [toPointer(path), value];
  if (typeof value !== 'object' || value === null) return;
  for (const [key, item] of Object.entries(value)) yield* pointersOf(item, [...path, key]);
}

describe('places in a text of JSON', () => {
  it('hold the text of what each pointer names, however the text is laid out', () => {
    for (let seed = 0; seed < seeds(400); seed++) {
      const r = new Random(seed);
      const value = randomValue(r, 0);
      const laidOut = JSON.stringify(value, null, r.pick([0, 1, 4, '\t']));
      const text = r.chance(0.3) ? laidOut.replaceAll('\n', '\r\n') : laidOut;
      const all = new Map(pointersOf(value));
      const wanted = [...all.keys()].filter(() => r.chance(0.6));
      const found = placesIn(text, wanted);
      expect([...found.keys()].sort()).toEqual([...wanted].sort());
      for (const [pointer, region] of found) {
        expect(JSON.parse(textAt(text, region))).toEqual(JSON.parse(JSON.stringify(all.get(pointer))));
      }
    }
  });
  it('are none of what is not there', () => {
    expect(placesIn('{"a": [1, {"b": 2}]}', ['/c', '/a/2', '/a/0/x', '/a/1/b/c']).size).toBe(0);
  });
  it('are of the last, where a property stands twice', () => {
    expect(placesIn('{"a": 1,\n "a": 22}', ['/a']).get('/a')).toEqual({
      line: 2,
      column: 7,
      endLine: 2,
      endColumn: 9,
    });
  });
  it('go past nesting and texts of any length', () => {
    const deep = `${'['.repeat(100_000)}7${']'.repeat(100_000)}`;
    expect(placesIn(deep, [`${'/0'.repeat(100_000)}`]).size).toBe(1);
    const long = JSON.stringify({ note: '\\"'.repeat(2_000_000), a: 1 });
    expect(placesIn(long, ['/a']).get('/a')?.line).toBe(1);
  });
});
