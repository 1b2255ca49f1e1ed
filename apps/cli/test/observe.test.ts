import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { DEMO, oquel, written } from './harness.js';

let folder: string;
let quay: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'oquel-observe-'));
  quay = written(folder, 'quay.json', {
    format: 'oquel.project/1',
    name: 'Quay',
    loadSets: [{ name: 'day', scenes: ['quay'] }],
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        placements: [
          { id: 'bell', asset: 'Bell' },
          { id: 'gate', asset: 'Gate' },
        ],
        bindings: [
          { id: 'opens', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'open' } },
          { id: 'shakes', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'shake' } },
        ],
      },
      { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
      { id: 'Gate', kind: 'prefab', actions: [{ name: 'open' }, { name: 'shake' }] },
    ],
  });
});
const trace = (...records: (object | string)[]): string =>
  written(
    folder,
    'play.jsonl',
    records.map((r) => `${typeof r === 'string' ? r : JSON.stringify(r)}\n`).join(''),
  );
const rung = { kind: 'raise', at: 'quay:bell', event: 'onRung' };
const open = { kind: 'performed', at: 'quay:gate', action: 'open' };

describe('oquel observe', () => {
  it('says what was served, what did not follow, and which lines are broken', async () => {
    const play = trace(
      { ...rung, t: 0 },
      { ...open, t: 0 },
      '{"kind":',
      { ...rung, t: 5_000_000 },
      { ...open, t: 5_000_000 },
    );
    const { code, out, err } = await oquel('observe', quay, play);
    expect({ code, err }).toEqual({ code: 0, err: '' });
    expect(out).toContain('4 records of 1 session, 5 s of play in all.');
    expect(out).toContain('1 of 2 bindings have served.');
    expect(out).toContain(`${play}:3 is not JSON`);
    expect(out).toContain('binding shakes of quay:. does not reach quay:gate shake (once');
  });
  it('the gate ends with 1 for what did not follow, and with 0 for a sound play', async () => {
    const bad = trace({ ...rung, t: 0 }, { ...open, t: 0 }, { ...rung, t: 5_000_000 });
    expect((await oquel('observe', quay, bad, '--gate')).code).toBe(1);
    const sound = trace({ ...rung, t: 0 }, { ...open, t: 0 }, { ...open, action: 'shake', t: 0 });
    expect((await oquel('observe', quay, sound, '--gate')).code).toBe(0);
  });
  it('writes LCOV, rehearsals and the whole report', async () => {
    const [lcov, rehearsals] = [join(folder, 'cover.info'), join(folder, 'plays.json')];
    const play = trace(
      { kind: 'session', session: 'evening', wiring: 'f'.repeat(64) },
      { ...rung, session: 'evening', t: 1_000_000 },
      { ...open, session: 'evening', t: 1_000_000 },
    );
    const { out } = await oquel(
      'observe',
      quay,
      play,
      '--json',
      '--lcov',
      lcov,
      '--rehearsals',
      rehearsals,
      '--load-set',
      'day',
    );
    expect(JSON.parse(out)).toMatchObject({
      format: 'oquel.plays/1',
      sessions: 1,
      others: [{ wiring: 'f'.repeat(64), sessions: 1 }],
      coverage: { served: 1, of: 2 },
      raised: [{ at: 'quay:bell', event: 'onRung', count: 1, sessions: 1 }],
    });
    expect(readFileSync(lcov, 'utf8')).toBe('TN:\nSF:quay.json\nDA:1,1\nLF:1\nLH:1\nend_of_record\n');
    expect(JSON.parse(readFileSync(rehearsals, 'utf8'))).toEqual([
      {
        name: 'Play evening',
        loadSet: 'day',
        steps: [{ at: 1, raise: { at: 'quay:bell', event: 'onRung' } }],
      },
    ]);
  });
  const wrong: [string, string[], string][] = [
    ['no such trace', ['nowhere.jsonl'], 'nowhere.jsonl'],
    [
      'no such load set',
      ['PLAY', '--load-set', 'night'],
      'there is no load set "night"; the project has day',
    ],
    ['no such time', ['PLAY', '--tolerance', 'soon'], '--tolerance soon: give seconds, 0 or more'],
  ];
  it.each(wrong)('%s is said, and nothing is written', async (_name, args, said) => {
    const play = trace(rung);
    const lcov = join(folder, 'cover.info');
    const { code, err } = await oquel(
      'observe',
      quay,
      ...args.map((a) => (a === 'PLAY' ? play : a)),
      '--lcov',
      lcov,
    );
    expect(code).toBe(2);
    expect(err).toContain(said);
    expect(existsSync(lcov)).toBe(false);
  });
  it('a rehearsal of the demo, taken as a play, is judged sound', async () => {
    const { out: text } = await oquel(
      'rehearse',
      DEMO,
      '--trace',
      '--rehearsal',
      'Boarding at the west platform',
    );
    const play = written(folder, 'boarding.jsonl', text);
    const { out } = await oquel('observe', DEMO, play, '--load-set', 'ascent', '--json');
    expect(JSON.parse(out)).toMatchObject({
      missing: [],
      doubled: [],
      order: [],
      unexplained: [],
      unknown: [],
      despite: [],
    });
  });
});
