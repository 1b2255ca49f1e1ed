import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import {
  BrokenDocument,
  changeJsonSchema,
  manifestJsonSchema,
  projectJsonSchema,
  readProject,
  readProjectText,
  type Problem,
} from '../src/index.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

function problemsOf(read: () => unknown): readonly Problem[] {
  try {
    read();
  } catch (error) {
    if (error instanceof BrokenDocument) return error.problems;
    throw error;
  }
  return [];
}
const base = { format: 'oquel.project/1', name: 'Veyra', assets: [] };
const scene = (more: object): object => ({ ...base, assets: [{ id: 'ridge', kind: 'scene', ...more }] });
const binding = (more: object): object =>
  scene({ bindings: [{ id: 'b', from: { at: '.', event: 'onA' }, to: { at: '.', action: 'a' }, ...more }] });

describe('reading', () => {
  const cases: [string, object, string, RegExp, RegExp][] = [
    ['another format', { ...base, format: 'oquel.project/2' }, '/format', /"oquel.project\/1"/, /project\/2/],
    ['no assets', { format: base.format, name: 'x' }, '', /a property "assets"/, /none/],
    ['a list that is none', { ...base, channels: {} }, '/channels', /a list/, /an object/],
    [
      'a name with a blank',
      scene({ events: [{ name: 'on gust', cause: { type: 'use' } }] }),
      '/assets/0/events/0/name',
      /a name/,
      /on gust/,
    ],
    [
      'a name twice',
      scene({
        events: [
          { name: 'onA', cause: { type: 'use' } },
          { name: 'onA', cause: { type: 'use' } },
        ],
      }),
      '/assets/0/events/1/name',
      /not used before/,
      /index 0/,
    ],
    [
      'an unknown cause',
      scene({ events: [{ name: 'onA', cause: { type: 'magic' } }] }),
      '/assets/0/events/0/cause/type',
      /"area-enter"/,
      /"magic"/,
    ],
    [
      'a timer that never lets time pass',
      scene({ events: [{ name: 'onA', cause: { type: 'timer', every: 1e-7 } }] }),
      '/assets/0/events/0/cause/every',
      /microsecond/,
      /1e-7/,
    ],
    [
      'two effects in one',
      scene({ actions: [{ name: 'a', effects: [{ wake: true, sleep: true }] }] }),
      '/assets/0/actions/0/effects/0',
      /exactly one/,
      /"wake" and "sleep"/,
    ],
    [
      'every first time',
      scene({ actions: [{ name: 'a', effects: [{ wake: true, everyNth: 1 }] }] }),
      '/assets/0/actions/0/effects/0/everyNth',
      /at least 2/,
      /1/,
    ],
    ['a limit of none', binding({ limit: 0 }), '/assets/0/bindings/0/limit', /at least 1/, /0/],
    ['a negative delay', binding({ delay: -1 }), '/assets/0/bindings/0/delay', /at least 0/, /-1/],
    [
      'both ends channels',
      binding({ from: { channel: 'c' }, to: { channel: 'd' } }),
      '/assets/0/bindings/0/to',
      /cannot be published again/,
      /"d"/,
    ],
    ['no end', binding({ to: {} }), '/assets/0/bindings/0/to', /"at", "every", "channel"/, /none of them/],
    [
      'a place with three numbers',
      scene({ size: [1, 2, 3] }),
      '/assets/0/size',
      /two finite numbers/,
      /a list of 3/,
    ],
    [
      'a type that is none',
      scene({ properties: [{ name: 'p', type: 'number', default: 1 }] }),
      '/assets/0/properties/0/type',
      /a type/,
      /"number"/,
    ],
    [
      'an impossible date',
      { ...base, waivers: [{ fingerprint: 'f', reason: 'r', by: 'b', until: '2026-02-30' }] },
      '/waivers/0/until',
      /a date/,
      /2026-02-30/,
    ],
    [
      'a pattern that is none',
      { ...base, policy: { names: { event: '(' } } },
      '/policy/names/event',
      /regular expression/,
      /\(/,
    ],
    [
      'a step that does nothing',
      { ...base, rehearsals: [{ name: 'r', steps: [{ at: 1 }] }] },
      '/rehearsals/0/steps/0',
      /exactly one/,
      /none/,
    ],
  ];
  it.each(cases)('says where and what: %s', (_name, document, pointer, expected, found) => {
    const problems = problemsOf(() => readProject(document));
    expect(problems[0].pointer).toBe(pointer);
    expect(problems[0].expected).toMatch(expected);
    expect(problems[0].found).toMatch(found);
  });

  it('tells the line and column of what is no JSON', () => {
    const text = '{\n  "format": "oquel.project/1",\n  "name": "x"\n  "assets": []\n}';
    expect(problemsOf(() => readProjectText(text))[0]).toMatchObject({
      expected: expect.stringContaining('comma'),
      found: expect.stringContaining('line 4, column 3'),
    });
  });

  it('keeps what it does not know, and tells it', () => {
    const { project, unknown } = readProjectText(JSON.stringify({ ...scene({ mood: 'grey' }), extra: 1 }));
    expect(unknown.sort()).toEqual(['/assets/0/mood', '/extra']);
    expect(project).toMatchObject({ extra: 1, assets: [{ mood: 'grey' }] });
  });

  it('lets a document say where its schema is, and explains every definition', () => {
    const { project, unknown } = readProjectText(
      JSON.stringify({ $schema: 'https://example.org', ...scene({}) }),
    );
    expect(project.$schema).toBe('https://example.org');
    expect(unknown).toEqual([]);
    expect(problemsOf(() => readProject({ ...scene({}), $schema: 1 }))[0].pointer).toBe('/$schema');
    for (const schema of [projectJsonSchema(), manifestJsonSchema(), changeJsonSchema()]) {
      expect(new Ajv2020({ strict: true, validateFormats: false }).validateSchema(schema as object)).toBe(
        true,
      );
      const { $defs = {} } = schema as { $defs?: Record<string, { description?: string }> };
      expect(Object.values($defs).every((d) => d.description !== undefined)).toBe(true);
    }
  });

  it('takes every case and every random project, and so does the JSON Schema', () => {
    const validate = new Ajv2020({ strict: true, validateFormats: false }).compile(
      projectJsonSchema() as object,
    );
    const folder = new URL('./cases/', import.meta.url);
    const documents = [
      ...readdirSync(folder).map(
        (f) => (JSON.parse(readFileSync(new URL(f, folder), 'utf8')) as { project: unknown }).project,
      ),
      ...Array.from({ length: 50 }, (_, i) => randomProject(i)),
    ];
    for (const document of documents) {
      expect(problemsOf(() => readProject(document))).toEqual([]);
      expect(validate(document)).toBe(true);
    }
  });

  it('throws nothing but its own error on mangled documents, and agrees with the JSON Schema on each', () => {
    const validate = new Ajv2020({ strict: true, validateFormats: false }).compile(
      projectJsonSchema() as object,
    );
    const r = new Random(7);
    const texts = Array.from({ length: 60 }, (_, i) => JSON.stringify(randomProject(i)));
    const disagreements: string[] = [];
    for (let i = 0; i < 6000; i++) {
      const document = mangle(r, JSON.parse(texts[i % texts.length]));
      const problems = problemsOf(() => readProject(document));
      // The schema cannot say that names are unique in their list.
      const sayable = problems.filter((p) => !p.expected.includes('not used before'));
      const bySchema = validate(document);
      if ((sayable.length === 0) !== bySchema)
        disagreements.push(JSON.stringify({ problems, errors: validate.errors?.slice(0, 3) }));
    }
    expect(disagreements).toEqual([]);
  });

  it('refuses mangled text with its own error too', () => {
    const r = new Random(11);
    const texts = Array.from({ length: 20 }, (_, i) => JSON.stringify(randomProject(i)));
    for (let i = 0; i < 2000; i++) {
      const text = texts[i % texts.length];
      const at = r.int(text.length);
      const torn = r.pick([
        text.slice(0, at),
        text.slice(0, at) + r.pick(['}', '"', ',', '\\', '\u0000']) + text.slice(at),
      ]);
      expect(() => problemsOf(() => readProjectText(torn))).not.toThrow();
    }
    expect(problemsOf(() => readProjectText('['.repeat(200_000)))[0].pointer).toBe('');
  });

  const broken: [string, string, RegExp, RegExp][] = [
    ['nothing', '', /a value/, /the end of the text in line 1, column 1/],
    ['a blank document', '  \n ', /a value/, /the end .* line 2, column 2/],
    ['a text cut off', '{"a": "x', /a closing quote/, /the end/],
    ['a document cut off', '{"a": [1, {"b": 2}', /comma or a closing \]/, /the end .* column 19/],
    ['a missing colon', '{"a" 1}', /a colon/, /"1}" in line 1, column 6/],
    ['a trailing comma', '{"a": 1,}', /property name/, /column 9/],
    ['a trailing comma in a list', '[1,]', /a value/, /column 4/],
    ['more after the end', '{} {}', /nothing more/, /column 4/],
    ['a line end inside a text', '["a\nb"]', /control characters/, /column 4/],
    ['an unknown escape', '["ab\\x"]', /known escape/, /column 5/],
    ['a comment', '{ // no', /property name/, /column 3/],
    ['a number that is none', '[01]', /a value/, /column 2/],
    ['nested too deep', '{"a":'.repeat(201), /at most 200 levels/, /column 1001/],
  ];
  it.each(broken)('says where a text stops being JSON: %s', (_name, text, expected, found) => {
    const [problem] = problemsOf(() => readProjectText(text));
    expect(problem.expected).toMatch(expected);
    expect(problem.found).toMatch(found);
  });
  it('finds the place in torn texts as the platform does, where that tells it', () => {
    const r = new Random(5);
    let compared = 0;
    for (let i = 0; i < 500; i++) {
      const text = JSON.stringify(randomProject(i % 20), null, 1);
      const at = r.int(text.length);
      const torn = text.slice(0, at) + r.pick(['}', ']', ',', ':', 'x']) + text.slice(at);
      let message: string;
      try {
        JSON.parse(torn);
        continue;
      } catch (error) {
        message = (error as Error).message;
      }
      const position = /at position (\d+)/.exec(message);
      const [problem] = problemsOf(() => readProjectText(torn));
      const place = /line (\d+), column (\d+)/.exec(problem.found)!;
      if (!position) continue;
      const before = torn.slice(0, Number(position[1])).split('\n');
      // An unknown escape and a cut off word are placed at their beginning.
      if (Number(place[1]) === before.length) compared++;
      else expect({ torn: torn.slice(at - 10, at + 10), message, problem }).toBeNull();
    }
    expect(compared).toBeGreaterThan(100);
  });

  it('tells which properties stand twice, and keeps the last', () => {
    const text =
      '{"format":"oquel.project/1","name":"a","name":"b","assets":[{"id":"s","kind":"scene","bindings":[],' +
      '"note":"1","\\u006eote":"2"}]}';
    const { project, repeated } = readProjectText(text);
    expect(repeated).toEqual(['/name', '/assets/0/note']);
    expect(project).toMatchObject({ name: 'b', assets: [{ note: '2' }] });
    expect(readProjectText(JSON.stringify(project)).repeated).toEqual([]);
  });

  it.each<[string, unknown, string, RegExp]>([
    ['a name of 5 MB', { ...base, name: 'x'.repeat(5e6) }, '/name', /at most 1000 characters/],
    ['half of a surrogate pair', { ...base, name: 'a\ud800' }, '/name', /Unicode/],
    ['a note of a million characters', { ...base, note: 'x'.repeat(1e6) }, '/note', /at most 100000/],
    [
      'a pattern of 1 001 characters',
      { ...base, policy: { names: { event: 'a'.repeat(1001) } } },
      '/policy/names/event',
      /at most 1000 characters/,
    ],
    [
      'a pattern that multiplies',
      { ...base, policy: { names: { event: '((((a{30}){30})))'.repeat(20) } } },
      '/policy/names/event',
      /a pattern that repeats less/,
    ],
    [
      'a step beyond all time',
      { ...base, rehearsals: [{ name: 'r', steps: [{ at: 1e303, pause: true }] }] },
      '/rehearsals/0/steps/0/at',
      /at most 1000000000/,
    ],
    [
      'a limit that is not exact',
      scene({ events: [{ name: 'onA', cause: { type: 'code' }, limit: 2 ** 53 }] }),
      '/assets/0/events/0/limit',
      /at most 9007199254740991/,
    ],
    [
      'a polygon of too many corners',
      scene({ area: { polygon: Array.from({ length: 10_001 }, () => [0, 0]) } }),
      '/assets/0/area/polygon',
      /a list of at most 10000/,
    ],
  ])('refuses what is beyond a bound: %s', (_name, document, pointer, expected) => {
    const [problem] = problemsOf(() => readProject(document));
    expect(problem.pointer).toBe(pointer);
    expect(problem.expected).toMatch(expected);
  });
});

const JUNK: unknown[] = [null, -1, 0.5, '', 'x y', true, [], {}, [1, 2], { at: '.' }, '~', 1e300];
/** Replaces, drops or adds one thing somewhere in the document. */
function mangle(r: Random, document: unknown): unknown {
  let at: unknown = document;
  for (;;) {
    if (typeof at !== 'object' || at === null) return document;
    const holder = at as Record<string, unknown>;
    const keys = Object.keys(holder);
    if (keys.length === 0) return document;
    const key = r.pick(keys);
    if (r.chance(0.35)) {
      if (r.chance(0.3) && !Array.isArray(holder)) delete holder[key];
      else holder[key] = r.pick(JUNK);
      return document;
    }
    at = holder[key];
  }
}
