import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  indexProject,
  parseEffect,
  parseFields,
  printEffect,
  printFields,
  renameName,
  usesOfName,
  type Arg,
  type Effect,
  type Field,
  type Project,
  type Value,
} from '../src/index.js';
import { ref } from './refs.js';
import { expand } from '../src/expand/expand.js';
import { buildGraph } from '../src/graph/build.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

describe('a declaration gets another name', () => {
  const lists = { event: 'events', action: 'actions', property: 'properties' } as const;
  it.each(['event', 'action', 'property'] as const)(
    '%s: the graph and the faults stay, in random projects',
    (kind) => {
      let renamed = 0;
      let used = 0;
      for (let seed = 0; seed < 400; seed++) {
        const before = randomProject(seed);
        const r = new Random(seed);
        const index = indexProject(before);
        const declaring = index.assets.filter((a) => a[lists[kind]].length > 0);
        if (declaring.length === 0) continue;
        const asset = r.pick(declaring);
        const { name } = r.pick<{ name: string }>(asset[lists[kind]]);
        const changes = renameName(index, ref(kind, asset, name), 'onRenamed');
        const now = applyChanges(before, changes).project;
        const [a, b] = [before, now].map((p) => buildGraph(expand(indexProject(p))));
        expect({ seed, first: b.first, head: b.head, meta: b.meta }).toEqual({
          seed,
          first: a.first,
          head: a.head,
          meta: a.meta,
        });
        // Only names themselves are judged by how they are written.
        const rules = (p: Project): string[] =>
          audit(p, { today: '2026-11-25' })
            .findings.flatMap((f) => (f.rule === 'name-style' ? [] : [f.rule]))
            .sort();
        expect({ seed, rules: rules(now) }).toEqual({ seed, rules: rules(before) });
        const after = indexProject(now);
        expect(usesOfName(after, ref(kind, after.assets[asset.at], name)).bindings).toEqual([]);
        expect(usesOfName(after, ref(kind, after.assets[asset.at], 'onRenamed')).bindings).toHaveLength(
          usesOfName(index, ref(kind, asset, name)).bindings.length,
        );
        renamed++;
        if (usesOfName(index, ref(kind, asset, name)).bindings.length > 0) used++;
      }
      expect(renamed).toBeGreaterThan(200);
      expect(used).toBeGreaterThan(40);
    },
  );
});

describe('declarations as text', () => {
  const names = ['open', 'onOpened', 'a b', 'is', 'é', ''];
  const anyValue = (r: Random): Value => r.pick<Value>([true, 0, -2.5, 'east', 'a b', 'to', [1, 2]]);
  const anyArg = (r: Random): Arg =>
    r.pick<Arg>([
      anyValue(r),
      { payload: r.pick(names) },
      { property: 'line', as: 'string' },
      { sender: true },
    ]);
  const record = <T>(r: Random, make: () => T): Record<string, T> =>
    Object.fromEntries(Array.from({ length: r.int(3) }, () => [r.pick(names), make()]));
  function anyEffect(seed: number): Effect {
    const r = new Random(seed);
    const body = r.pick<() => object>([
      () => ({ set: r.pick(names), to: r.chance(0.5) ? anyValue(r) : { param: r.pick(names) } }),
      () => ({ toggle: r.pick(names) }),
      () => ({ add: r.pick(names), by: r.chance(0.5) ? r.int(9) - 4 : { param: r.pick(names) } }),
      () => ({
        raise: r.pick(names),
        ...(r.chance(0.5) ? { delay: 0.5 } : {}),
        ...(r.chance(0.5) ? { payload: record(r, () => anyArg(r)) } : {}),
      }),
      () => ({
        spawn: r.pick(names),
        ...(r.chance(0.5) ? { properties: record(r, () => anyValue(r)) } : {}),
      }),
      () => r.pick([{ wake: true }, { sleep: true }, { destroy: true }]),
    ])();
    return {
      ...body,
      ...(r.chance(0.3) ? { when: { property: r.pick(names), is: anyValue(r) } } : {}),
      ...(r.chance(0.3) ? { everyNth: 2 + r.int(3) } : {}),
    } as Effect;
  }

  it('effects read back as they were printed, whatever they hold', () => {
    for (let seed = 0; seed < 3000; seed++) {
      const effect = anyEffect(seed);
      const text = printEffect(effect);
      expect({ seed, text, read: parseEffect(text) }).toEqual({ seed, text, read: { value: effect } });
    }
  });

  it.each<[string, Field[]]>([
    ['', []],
    ['speed: float', [{ name: 'speed', type: 'float' }]],
    [
      'speed: float, line?: enum:Line, word: key:Spoken',
      [
        { name: 'speed', type: 'float' },
        { name: 'line', type: 'enum:Line', optional: true },
        { name: 'word', type: 'key:Spoken' },
      ],
    ],
  ])('fields: %s', (text, fields) => {
    expect(parseFields(text)).toEqual({ value: fields });
    expect(printFields(fields)).toBe(text);
  });

  it.each<[string, (text: string) => unknown, number, string]>([
    ['speed float', parseFields, 6, '":" and a type'],
    ['speed: real', parseFields, 7, 'a type'],
    ['a: int, a: int', parseFields, 9, 'a name other than a'],
    ['set open', parseEffect, 8, '"to" and a value'],
    ['open the door', parseEffect, 0, 'an effect'],
    ['raise onA after soon', parseEffect, 16, 'seconds'],
    ['toggle open each 1 times', parseEffect, 18, 'a whole number from 2'],
    ['toggle open now', parseEffect, 12, 'the end'],
  ])('%s is refused with its place', (text, parse, at, expected) => {
    expect(parse(text)).toMatchObject({ fault: { at, expected: expect.stringContaining(expected) } });
  });
});
