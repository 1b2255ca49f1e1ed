import { describe, expect, it } from '@jest/globals';
import {
  audit,
  IncrementalAudit,
  type Asset,
  type Binding,
  type Change,
  type Project,
} from '../src/index.js';

type Severities = NonNullable<Project['policy']>['severity'];
const TODAY = '2026-11-24';
const BELL: Asset = {
  id: 'Bell',
  kind: 'prefab',
  properties: [{ name: 'loud', type: 'bool', default: false }],
  events: [
    { name: 'onRing', cause: { type: 'code' } },
    { name: 'onTap', cause: { type: 'code' } },
  ],
  actions: [
    { name: 'sound', effects: [{ set: 'loud', to: true }] },
    { name: 'hush', effects: [{ set: 'loud', to: false }] },
  ],
};
/** `a.onRing > #noise`, `#noise > b.sound`, `a.onTap > b.hush after 2`. */
function wired(text: string, i: number): Binding {
  const [, from, to, delay] = /^(\S+) > (\S+?)(?: after (\d+))?$/.exec(text)!;
  const [sender, event] = from.split('.');
  const [receiver, action] = to.split('.');
  return {
    id: `b${i}`,
    from: from.startsWith('#') ? { channel: from.slice(1) } : { at: sender, event },
    to: to.startsWith('#') ? { channel: to.slice(1) } : { at: receiver, action },
    ...(delay === undefined ? {} : { delay: Number(delay) }),
  };
}
function yard(lines: readonly string[]): Project {
  const placements = ['a', 'b', 'c'].map((id) => ({ id, asset: 'Bell' }));
  return {
    format: 'oquel.project/1',
    name: 'Yard',
    channels: [{ name: 'noise' }, { name: 'calm' }],
    assets: [{ id: 'yard', kind: 'scene', placements, bindings: lines.map(wired) }, BELL],
  };
}
const at = { list: 'bindings', asset: 'yard' } as const;
const more = (text: string, i = 9): Change => ({ op: 'insert', ...at, index: i, item: wired(text, i) });
const without = (i: number): Change => ({ op: 'remove', ...at, id: `b${i}` });
const instead = (i: number, text: string): Change => ({
  op: 'replace',
  ...at,
  id: `b${i}`,
  item: wired(text, i),
});

/** What an event brings about over channels, with who else publishes there and listens there. */
describe('meetings on channels are followed', () => {
  const heard = ['a.onRing > #noise', '#noise > b.sound'];
  it.each<[string, string[], Change, string, number, number]>([
    ['a second listener that does the same', heard, more('#noise > b.sound'), 'duplicate-binding', 0, 1],
    ['another that does the opposite', heard, more('#noise > b.hush'), 'opposing-actions', 0, 1],
    ['another at another time', heard, more('#noise > b.hush after 2'), 'opposing-actions', 0, 0],
    ['one of two listeners that goes', [...heard, '#noise > b.sound'], without(2), 'duplicate-binding', 1, 0],
    [
      'a publication that goes, of what is wired directly too',
      [...heard, 'a.onRing > b.sound', 'c.onRing > #noise'],
      without(0),
      'duplicate-binding',
      1,
      0,
    ],
    [
      'a publication that goes, of what is wired directly twice',
      [...heard, 'a.onRing > b.sound', 'a.onRing > b.sound', 'c.onRing > #noise'],
      without(0),
      'duplicate-binding',
      2,
      1,
    ],
    [
      'a publication that comes',
      ['c.onRing > #noise', '#noise > b.sound', 'a.onRing > b.sound'],
      more('a.onRing > #noise'),
      'duplicate-binding',
      0,
      1,
    ],
    [
      'a publication that is delayed',
      [...heard, 'a.onRing > b.hush'],
      instead(0, 'a.onRing > #noise after 1'),
      'opposing-actions',
      1,
      0,
    ],
    [
      'a publication of another event',
      [...heard, 'a.onRing > b.hush'],
      instead(0, 'a.onTap > #noise'),
      'opposing-actions',
      1,
      0,
    ],
    [
      'a publication to another channel',
      ['a.onRing > #noise', '#noise > b.sound', '#calm > b.hush', 'a.onRing > #calm'],
      instead(3, 'a.onTap > #calm'),
      'opposing-actions',
      1,
      0,
    ],
    [
      'one of two events that publish to the same',
      ['a.onRing > #noise', 'a.onTap > #noise', '#noise > b.sound', 'a.onTap > b.sound'],
      without(1),
      'duplicate-binding',
      1,
      0,
    ],
  ])('%s', (_, lines, change, rule, before, after) => {
    const live = IncrementalAudit.open(yard(lines), TODAY);
    const found = (): number => live.result.findings.filter((f) => f.rule === rule).length;
    const isWhole = (): void =>
      expect(JSON.parse(JSON.stringify(live.result))).toEqual(
        JSON.parse(JSON.stringify(audit(live.project, { today: TODAY }))),
      );
    const { inputs } = live;
    for (let round = 0; round < 2; round++) {
      expect(found()).toBe(before);
      live.trying([change], (tried) => {
        expect(tried.result.findings.filter((f) => f.rule === rule)).toHaveLength(after);
      });
      expect(found()).toBe(before);
      isWhole();
    }
    live.apply([change]);
    expect(found()).toBe(after);
    isWhole();
    // It was followed, not worked out anew.
    expect(live.inputs).toBe(inputs);
    live.apply([more('c.onTap > a.sound', 20)]);
    isWhole();
  });
});

describe('a policy is followed', () => {
  const lines = ['a.onRing > lost.sound', 'a.onTap > b.sound', 'a.onTap > b.sound'];
  const severities = (live: IncrementalAudit): Record<string, string> =>
    Object.fromEntries(live.result.findings.map((f) => [f.rule, f.severity]));
  const policy = (severity: Severities): Change => ({
    op: 'set',
    part: 'policy',
    value: { severity },
  });
  it('that gives rules and classes other severities, turns them off, and on again', () => {
    const live = IncrementalAudit.open(yard(lines), TODAY);
    const usual = severities(live);
    expect(usual).toMatchObject({ 'dangling-target': 'error', 'duplicate-binding': 'warning' });
    const steps: [Severities, Record<string, string>][] = [
      [{ 'dangling-target': 'info' }, { ...usual, 'dangling-target': 'info' }],
      [
        { 'dangling-target': 'info', 'dangling-target/placement': 'warning', 'duplicate-binding': 'error' },
        { ...usual, 'dangling-target': 'warning', 'duplicate-binding': 'error' },
      ],
      [{ 'dangling-target': 'error' }, usual],
    ];
    for (const [severity, expected] of steps) {
      live.apply([policy(severity)]);
      expect(severities(live)).toEqual(expected);
      expect(JSON.parse(JSON.stringify(live.result))).toEqual(
        JSON.parse(JSON.stringify(audit(live.project, { today: TODAY }))),
      );
    }
    live.apply([policy({ 'dangling-target': 'off' })]);
    const { 'dangling-target': _, ...others } = usual;
    expect(severities(live)).toEqual(others);
    expect(live.change.gone.map((f) => f.rule)).toEqual(['dangling-target']);
    live.apply([{ op: 'set', part: 'policy' }]);
    expect(severities(live)).toEqual(usual);
    expect(live.change.added.map((f) => f.rule)).toEqual(['dangling-target']);
  });
});

describe('what ties two assets is counted along', () => {
  const names = Array.from({ length: 7 }, (_, i) => String(i));
  const part = (id: string): Asset => ({
    id,
    kind: 'prefab',
    events: names.map((n) => ({ name: `on${n}`, cause: { type: 'code' } })),
    actions: names.map((n) => ({ name: `do${n}` })),
  });
  const wire = (sender: string, receiver: string, n: string): Binding => ({
    id: `${sender}${n}`,
    from: { at: sender, event: `on${n}` },
    to: { at: receiver, action: `do${n}` },
  });
  const hall: Asset = {
    id: 'Hall',
    kind: 'prefab',
    placements: [
      { id: 'lift', asset: 'Lift' },
      { id: 'door', asset: 'Door' },
    ],
    bindings: names.flatMap((n) => [wire('lift', 'door', n), wire('door', 'lift', n)]),
  };
  const scene: Asset = { id: 'yard', kind: 'scene', placements: [{ id: 'hall', asset: 'Hall' }] };
  const project: Project = {
    format: 'oquel.project/1',
    name: 'Yard',
    policy: { maxTangle: 12 },
    assets: [scene, hall, part('Lift'), part('Door')],
  };
  const tangles = (live: IncrementalAudit): string[] =>
    live.result.findings.filter((f) => f.rule === 'prefab-tangle').map((f) => f.message);
  const tangle = (count: number): string =>
    `${count} bindings tie Door and Lift to each other in both directions; the limit is 12`;

  it.each(['lift0', 'door6'])('when %s and another go and come again', (first) => {
    const live = IncrementalAudit.open(project, TODAY);
    expect(tangles(live)).toEqual([tangle(14)]);
    const out = (id: string): Change => ({ op: 'remove', list: 'bindings', asset: 'Hall', id });
    live.apply([out(first)]);
    expect(tangles(live)).toEqual([tangle(13)]);
    live.apply([out('door3')]);
    expect(tangles(live)).toEqual([]);
    const item = hall.bindings!.find((b) => b.id === first)!;
    live.apply([{ op: 'insert', list: 'bindings', asset: 'Hall', index: 0, item }]);
    expect(tangles(live)).toEqual([tangle(13)]);
    live.apply([out(first)]);
    expect(tangles(live)).toEqual([]);
  });
});
