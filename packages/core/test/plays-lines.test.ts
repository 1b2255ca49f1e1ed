import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  codeBinding,
  indexProject,
  LineSplitter,
  playedByAsset,
  PlayObserver,
  readPlayLine,
  readProject,
  type PlayReport,
} from '../src/index.js';
import { Random } from './random.js';
import { compiledOf, observed, reported, NOTHING } from './observed.js';

const bell = readProject({
  format: 'oquel.project/1',
  name: 'Bell',
  channels: [{ name: 'alarm' }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'gate', asset: 'Gate' },
      ],
      bindings: [
        {
          id: 'opens',
          from: { at: 'bell', event: 'onRung' },
          to: { at: 'gate', action: 'open' },
          delay: 0.5,
        },
        { id: 'tells', from: { at: 'bell', event: 'onRung' }, to: { channel: 'alarm' } },
        { id: 'hears', from: { channel: 'alarm' }, to: { at: 'gate', action: 'shake' } },
      ],
    },
    { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
    { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }, { name: 'shake' }] },
  ],
}).project;
const rung = { kind: 'raise', at: 'quay:bell', event: 'onRung' };

describe('lines of what comes in pieces', () => {
  it('are the same wherever it is cut, and what is too long is one broken line', () => {
    const text = `a\n\nbc\r\n${'x'.repeat(250_000)}\nlast`;
    const r = new Random(5);
    for (let round = 0; round < 20; round++) {
      const lines: [string, number][] = [];
      const split = new LineSplitter((line, n) => lines.push([line, n]));
      for (let at = 0; at < text.length;) {
        const next = at + 1 + r.int(round < 10 ? 5 : 90_000);
        split.push(text.slice(at, next));
        at = next;
      }
      split.end();
      expect(lines.map(([line, n]) => [line.length > 10 ? 'long' : line.trim(), n])).toEqual([
        ['a', 1],
        ['', 2],
        ['bc', 3],
        ['long', 4],
        ['last', 5],
      ]);
      expect(lines[3][0].length).toBeLessThan(110_000);
      expect(readPlayLine(lines[3][0])).toContain('is longer than');
    }
  });
});

describe('a play that a game of its own code has written', () => {
  const compiled = compiledOf(bell);
  const of = (...records: object[]): PlayReport =>
    observed(
      compiled,
      records.map((r) => JSON.stringify(r)),
    );
  const cases: [string, object[], object][] = [
    [
      'frames are not exact, and channels are not written',
      [
        { ...rung, t: 1_000_000 },
        { kind: 'performed', at: 'quay:gate', action: 'shake', t: 1_016_000 },
        { kind: 'performed', at: 'quay:gate', action: 'open', t: 1_633_000 },
        { ...rung, t: 9_000_000 },
      ],
      {},
    ],
    [
      'what did not come is reported when it is too late for it',
      [
        { ...rung, t: 1_000_000 },
        { kind: 'performed', at: 'quay:gate', action: 'shake', t: 1_000_000 },
        { ...rung, t: 2_000_000 },
      ],
      { missing: [{ owner: 'quay:.', binding: 'opens', at: 'quay:gate', action: 'open' }] },
    ],
    [
      'what other code does is offered with the raise before it',
      [
        { ...rung, t: 1_000_000 },
        { kind: 'performed', at: 'quay:gate', action: 'shake', t: 1_000_000 },
        { kind: 'performed', at: 'quay:gate', action: 'shake', t: 1_100_000 },
      ],
      { unexplained: [{ at: 'quay:gate', action: 'shake', after: { at: 'quay:bell', event: 'onRung' } }] },
    ],
    [
      'names that the project does not know',
      [
        { kind: 'raise', at: 'quay:bell', event: 'onStruck', t: 1 },
        { kind: 'raise', at: 'quay:buoy', event: 'onRung', t: 2 },
        { kind: 'performed', at: 'quay:gate', action: 'fall', t: 3 },
        { kind: 'publication', channel: 'fog', t: 4 },
      ],
      {
        unknown: [
          { what: 'event', name: 'quay:bell onStruck' },
          { what: 'event', name: 'quay:buoy onRung' },
          { what: 'action', name: 'quay:gate fall' },
          { what: 'channel', name: 'fog' },
        ],
      },
    ],
    [
      'without times only the order counts',
      [rung, { kind: 'performed', at: 'quay:gate', action: 'open' }],
      { missing: [{ owner: 'quay:.', binding: 'hears', at: 'quay:gate', action: 'shake' }] },
    ],
  ];
  it.each(cases)('%s', (_name, records, expected) => {
    expect(reported(of(...records))).toEqual({ ...NOTHING, ...expected });
  });

  it('counts sessions apart, however their lines are mixed, also as CloudEvents', () => {
    const event = (source: string, data: object): string =>
      JSON.stringify({ specversion: '1.0', id: '1', type: 'game.record', source, data });
    const lines = [0, 1, 2].flatMap((i) => [
      event('one', { ...rung, t: i * 1e6 }),
      event('two', { ...rung, t: i * 1e6 }),
      event('one', { kind: 'performed', at: 'quay:gate', action: 'open', t: i * 1e6 + 500_000 }),
      event('two', { kind: 'performed', at: 'quay:gate', action: 'open', t: i * 1e6 + 500_000 }),
    ]);
    const report = observed(compiled, lines);
    expect(report).toMatchObject({ sessions: 2, records: 12, seconds: 5, unexplained: [] });
    expect(report.coverage).toEqual({
      served: 1,
      of: 3,
      bindings: [{ owner: 'quay:.', binding: 'opens', count: 6, sessions: 2 }],
    });
    expect(report.raised).toEqual([{ at: 'quay:bell', event: 'onRung', count: 6, sessions: 2 }]);
    expect(report.missing).toMatchObject([{ binding: 'hears', count: 6, sessions: 2 }]);
    expect(report.rehearsals.map((r) => [r.name, r.steps.length])).toEqual([
      ['Play one', 3],
      ['Play two', 3],
    ]);
  });

  const broken: [string, string][] = [
    ['{"kind":"raise"', 'is not JSON'],
    ['[1]', 'is not an object'],
    ['{"at":"quay:bell"}', 'has no kind'],
    ['{"kind":"raise","at":"quay:bell"}', 'is a raise without event'],
    ['{"kind":"raise","at":"quay:bell","event":"onRung","t":1.5}', 'has a t that is not whole microseconds'],
    ['{"kind":"raise","at":"quay:bell","event":"onRung","payload":[]}', 'has payload that are no object'],
    ['{"specversion":"0.3","source":"x","data":{}}', 'is a CloudEvents event of another version than 1.0'],
    ['{"specversion":"1.0","data":{}}', 'is a CloudEvents event without a source'],
    ['{"specversion":"1.0","source":"x"}', 'is a CloudEvents event whose data is no record'],
    [`"${'x'.repeat(200_000)}"`, 'is longer than 100000 characters'],
  ];
  it.each(broken)('a broken line is counted and named, and the rest is taken: %.40s', (line, why) => {
    const report = observed(compiled, [
      '',
      JSON.stringify({ ...rung, t: 0 }),
      line,
      JSON.stringify({ ...rung, t: 1 }),
    ]);
    expect(report.records).toBe(2);
    expect(report.broken.count).toBe(1);
    expect(report.broken.lines[0]).toMatchObject({ source: 'play', line: 3 });
    expect(report.broken.lines[0].why).toContain(why);
  });
  it('more sessions than are followed side by side are all counted', () => {
    const observer = new PlayObserver(compiled);
    for (let i = 0; i < 200; i++) observer.take(JSON.stringify({ ...rung, t: 0 }), `s${i}`, 1);
    observer.end();
    expect(observer.report()).toMatchObject({ sessions: 200, records: 200 });
  });
});

describe('what is offered of a play', () => {
  const index = indexProject(bell);
  const tally = { count: 1, sessions: 1, first: { source: 'play', line: 1, t: 0 } };
  it('what other code does becomes a binding of the code, which explains it from then on', () => {
    const offered = codeBinding(index, {
      ...tally,
      at: 'quay:gate',
      action: 'shake',
      after: { at: 'quay:bell', event: 'onRung' },
    })!;
    const { project } = applyChanges(bell, offered.changes);
    expect(project.assets[0].bindings!.at(-1)).toEqual({
      id: 'onRung-shake-1',
      from: { at: 'bell', event: 'onRung' },
      to: { at: 'gate', action: 'shake' },
      origin: 'code',
    });
  });
  it.each([
    ['nothing led to it', { at: 'quay:gate', action: 'shake' }],
    [
      'its instance is not there',
      { at: 'quay:buoy', action: 'shake', after: { at: 'quay:bell', event: 'onRung' } },
    ],
    [
      'what led to it is not there',
      { at: 'quay:gate', action: 'shake', after: { at: 'pier:bell', event: 'onRung' } },
    ],
    ['it is a copy', { at: 'quay:~Gate#2', action: 'shake', after: { at: 'quay:bell', event: 'onRung' } }],
  ])('nothing where %s', (_name, what) => {
    expect(codeBinding(index, { ...tally, ...what })).toBeNull();
  });
  it('bindings that never served are listed by asset', () => {
    const report = observed(compiledOf(bell), [
      JSON.stringify({ ...rung, t: 0 }),
      JSON.stringify({ kind: 'performed', at: 'quay:gate', action: 'open', t: 500_000 }),
    ]);
    expect(playedByAsset(index, report)).toEqual([
      { asset: 'quay', of: 3, played: 1, never: ['tells', 'hears'] },
    ]);
  });
});
