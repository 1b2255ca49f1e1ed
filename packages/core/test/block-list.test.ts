import { describe, expect, it } from '@jest/globals';
import { BlockList } from '../src/util/block-list.js';
import { Random } from './random.js';

describe('a list in blocks', () => {
  it.each([0, 1, 700, 3000])('of %s items does what an array does, and leaves the array alone', (n) => {
    const r = new Random(n);
    const given = Array.from({ length: n }, (_, i) => `i${i}`);
    const kept = [...given];
    const plain = [...given];
    const list = new BlockList(given, (s) => s);
    for (let i = 0; i < 4000; i++) {
      const index = r.int(plain.length + 2);
      const id = plain.length > 0 && r.chance(0.9) ? r.pick(plain) : 'none';
      expect(list.indexOf(id)).toBe(plain.indexOf(id));
      expect(list.at(index)).toBe(plain[index]);
      if (id === 'none' || r.chance(0.5)) {
        list.insert(index, `n${i}`);
        plain.splice(index, 0, `n${i}`);
      } else if (r.chance(0.7)) {
        list.remove(id);
        plain.splice(plain.indexOf(id), 1);
      } else {
        list.replace(id, `r${i}`);
        plain[plain.indexOf(id)] = `r${i}`;
      }
      expect(list.length).toBe(plain.length);
    }
    expect(list.toArray()).toEqual(plain);
    expect(given).toEqual(kept);
  });
});
