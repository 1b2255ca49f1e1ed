import { describe, expect, it } from '@jest/globals';
import {
  LIMITS,
  ProjectTooLarge,
  applyChanges,
  audit,
  auditDifference,
  compareFindings,
  EditRefused,
  IncrementalAudit,
  RULES,
  withDifference,
  type AuditDifference,
  type Asset,
  type AuditResult,
  type Change,
  type FindingChange,
  type Project,
} from '../src/index.js';
import { defineRule, type Rule } from '../src/audit/rule.js';
import { Random, seeds } from './random.js';
import {
  randomBindingChange,
  randomChange,
  randomNodesChange,
  randomQuietChange,
  randomThingChange,
} from './random-change.js';
import { expectSame } from './expect-same.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-24';
const scratch = (p: Project): unknown => JSON.parse(JSON.stringify(audit(p, { today: TODAY })));

/** What came and what went, by fingerprint. */
function changeOf({ added, gone }: FindingChange): unknown {
  return [added, gone].map((list) => list.map((f) => f.fingerprint).sort());
}

describe('the audit kept up with edits', () => {
  type Pick = (r: Random, project: Project, i: number) => Change;
  const sequences: [string, Pick][] = [
    [
      'bindings and anything else',
      (r, p, i) => (i % 2 === 0 ? randomBindingChange(r, p) : null) ?? randomChange(r, p),
    ],
    [
      'places, areas, notes, waivers and limits, and bindings between',
      (r, p, i) => (i % 3 === 2 ? randomBindingChange(r, p) : null) ?? randomQuietChange(r, p),
    ],
    [
      'things that come and go, and bindings and values between',
      (r, p, i) => {
        if (i % 4 === 3) return randomQuietChange(r, p);
        return (i % 4 === 2 ? randomBindingChange(r, p) : null) ?? randomThingChange(r, p);
      },
    ],
    [
      'events and actions that come, go and do other things, and things and bindings between',
      (r, p, i) => {
        if (i % 4 === 3) return randomThingChange(r, p);
        return (i % 4 === 2 ? randomBindingChange(r, p) : null) ?? randomNodesChange(r, p);
      },
    ],
  ];
  it.each(sequences)(
    'is that of an audit from scratch, evidence and all, after each random edit of %s',
    (_, pick) => {
      let inPlace = 0;
      for (let seed = 0; seed < seeds(60); seed++) {
        const r = new Random(seed);
        const live = IncrementalAudit.open(randomProject(seed), TODAY);
        let project = live.project;
        // What a window has that is only reported what differs.
        let reported = JSON.parse(JSON.stringify(live.result)) as AuditResult;
        for (let i = 0; i < 8; i++) {
          const changes = [pick(r, project, i)];
          const before = live.result;
          const { inputs } = live;
          project = applyChanges(project, changes).project;
          const result = live.apply(changes);
          if (live.inputs === inputs) inPlace++;
          const whole = scratch(project);
          expectSame(result, whole, { seed, i });
          expectSame(live.project, project, { seed, i });
          const difference = JSON.stringify(auditDifference(before, result));
          reported = withDifference(reported, JSON.parse(difference) as AuditDifference);
          expectSame(reported, whole, { seed, i });
          expect(changeOf(live.change)).toEqual(changeOf(compareFindings(before.findings, result.findings)));
        }
      }
      expect(inPlace).toBeGreaterThan(4 * seeds(60));
    },
  );

  it('gives a finding that says what it said as the very same object, also where all is worked out anew', () => {
    let [same, all] = [0, 0];
    for (let seed = 0; seed < 40; seed++) {
      const r = new Random(seed);
      const live = IncrementalAudit.open(randomProject(seed), TODAY);
      for (let i = 0; i < 6; i++) {
        const before = new Map(live.result.findings.map((f) => [JSON.stringify(f), f]));
        for (const f of live.apply([randomChange(r, live.project)]).findings) {
          const known = before.get(JSON.stringify(f));
          if (!known) continue;
          all++;
          if (known === f) same++;
        }
      }
    }
    expect(all).toBeGreaterThan(500);
    expect(same).toBe(all);
  });

  it('tells the same binding object in two assets apart, and lists that two assets share', () => {
    const binding = { id: 'b', from: { at: '.', event: 'onA' }, to: { at: '.', action: 'doA' } };
    const events = [{ name: 'onA', cause: { type: 'use' as const } }];
    const actions = [{ name: 'doA' }];
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Two docks',
      assets: [
        { id: 'north', kind: 'scene', events, actions, bindings: [binding] },
        // Without the action, so that the very same binding dangles here.
        { id: 'south', kind: 'scene', events, bindings: [binding] },
        { id: 'east', kind: 'scene', events, actions },
        { id: 'west', kind: 'scene', events },
      ],
    };
    const plain = JSON.parse(JSON.stringify(project)) as Project;
    expect(JSON.parse(JSON.stringify(audit(project, { today: TODAY })))).toEqual(scratch(plain));
    const live = IncrementalAudit.open(project, TODAY);
    const insert = (asset: string): Change => ({
      op: 'insert',
      list: 'bindings',
      asset,
      index: 0,
      item: binding,
    });
    const changes = [insert('east'), insert('west')];
    const after = applyChanges(plain, JSON.parse(JSON.stringify(changes)) as Change[]).project;
    expect(JSON.parse(JSON.stringify(live.apply(changes)))).toEqual(scratch(after));
    const dangling = live.result.findings.filter((f) => f.rule === 'dangling-target');
    expect(dangling.map((f) => f.occurrences)).toEqual([['south:.'], ['west:.']]);
  });

  it('counts rehearsals for the gate as an audit from scratch does', () => {
    const project: Project = {
      ...randomProject(3),
      policy: { rehearsals: true },
      rehearsals: [{ name: 'fails', steps: [{ at: 0, raise: { at: 'S9:.', event: 'onA' } }] }],
    };
    const live = IncrementalAudit.open(project, TODAY);
    expect(live.withRehearsals).toEqual(audit(project, { today: TODAY }));
    expect(live.withRehearsals.rehearsals).toEqual({ run: 1, failed: ['fails'] });
  });

  it('holds the state before when a rule throws, and goes on from there', () => {
    let fails = false;
    const broken = defineRule<'no'>({
      meta: { name: 'broken', severity: 'error', group: 'shape', what: '', why: '', fix: '' },
      messages: { no: 'no' },
      parts: [
        {
          unit: 'binding',
          check: () => {
            if (fails) throw new Error('a rule fails');
          },
        },
      ],
    });
    // In the middle of the others, so that some have looked already.
    const rules = [...RULES.slice(0, 10), broken as Rule, ...RULES.slice(10)];
    let failed = 0;
    for (let seed = 0; seed < 60; seed++) {
      const r = new Random(seed);
      const live = IncrementalAudit.open(randomProject(seed), TODAY, rules);
      let { project } = live;
      for (let i = 0; i < 6; i++) {
        const change = randomBindingChange(r, project) ?? randomChange(r, project);
        fails = i % 2 === 0;
        const after = applyChanges(project, [change]).project;
        try {
          live.apply([change]);
          project = after;
        } catch (error) {
          expect(error).toEqual(new Error('a rule fails'));
          failed++;
        }
        fails = false;
        expect(live.project).toEqual(project);
        expect({ seed, i, result: JSON.parse(JSON.stringify(live.result)) as unknown }).toEqual({
          seed,
          i,
          result: scratch(project),
        });
      }
    }
    expect(failed).toBeGreaterThan(60);
  });

  it('follows what a binding wakes, and what sleeps again without it', () => {
    const wakes = { id: 'w', from: { at: 'bell', event: 'onRung' }, to: { at: 'lamp', action: 'wakeUp' } };
    const shines = { id: 's', from: { at: 'bell', event: 'onRung' }, to: { at: 'lamp', action: 'shine' } };
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Pier',
      assets: [
        {
          id: 'pier',
          kind: 'scene',
          placements: [
            { id: 'bell', asset: 'Bell' },
            { id: 'lamp', asset: 'Lamp', asleep: true },
          ],
          bindings: [wakes, shines],
        },
        { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
        {
          id: 'Lamp',
          kind: 'prefab',
          actions: [{ name: 'wakeUp', whileAsleep: true, effects: [{ wake: true }] }, { name: 'shine' }],
        },
      ],
    };
    const live = IncrementalAudit.open(project, TODAY);
    const sleeps = (): boolean => live.result.findings.some((f) => f.rule === 'asleep-receiver');
    const set = (enabled: boolean): Change => ({
      op: 'replace',
      list: 'bindings',
      asset: 'pier',
      id: 'w',
      item: enabled ? wakes : { ...wakes, enabled },
    });
    const reported = [true, false, true, false].map((enabled) => {
      live.apply([set(enabled)]);
      expect(JSON.parse(JSON.stringify(live.result))).toEqual(scratch(live.project));
      return sleeps();
    });
    expect(reported).toEqual([false, true, false, true]);
  });

  it('takes back what was only tried', () => {
    for (let seed = 0; seed < seeds(60); seed++) {
      const r = new Random(seed);
      const live = IncrementalAudit.open(randomProject(seed), TODAY);
      for (let i = 0; i < 6; i++) {
        const { project } = live;
        const change = r.pick([randomBindingChange, randomThingChange, randomNodesChange, randomChange])(
          r,
          project,
        );
        const changes = [change ?? randomChange(r, project)];
        const before = scratch(project);
        const tried = live.trying(changes, ({ result }) => JSON.parse(JSON.stringify(result)) as unknown);
        expectSame(tried, scratch(applyChanges(project, changes).project), { seed, i });
        expectSame(live.result, before, { seed, i });
        expect(live.project).toBe(project);
        live.apply([randomBindingChange(r, project) ?? randomChange(r, project)]);
      }
    }
  });

  it('refuses things within things beyond the bound on levels, and stays as it was', () => {
    const chain = (name: string, length: number): Asset[] =>
      Array.from({ length }, (_, i) => ({
        id: `${name}${i}`,
        kind: 'prefab',
        placements: i + 1 < length ? [{ id: 'next', asset: `${name}${i + 1}` }] : [],
      }));
    const half = LIMITS.expansion.levels / 2;
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Steps',
      assets: [
        { id: 'stairs', kind: 'scene', placements: [{ id: 'first', asset: 'Up0' }] },
        ...chain('Up', half),
        ...chain('Down', half + 10),
      ],
    };
    const deeper = (asset: string): Change => ({
      op: 'insert',
      list: 'placements',
      asset: `Up${half - 1}`,
      index: 0,
      item: { id: 'more', asset },
    });
    const live = IncrementalAudit.open(project, TODAY);
    const before = live.result;
    expect(() => live.apply([deeper('Down0')])).toThrow(ProjectTooLarge);
    expect(live.project).toBe(project);
    expect(live.result).toBe(before);
    live.apply([deeper('Down20')]);
    expect(live.result).toEqual(audit(live.project, { today: TODAY }));
  });

  it('stays as it was when an edit is refused', () => {
    const live = IncrementalAudit.open(randomProject(5), TODAY);
    const { project, result } = live;
    const gone: Change = { op: 'remove', list: 'bindings', asset: 'S0', id: 'none' };
    expect(() => live.apply([gone])).toThrow(EditRefused);
    expect(live.project).toBe(project);
    expect(live.result).toBe(result);
  });
});
