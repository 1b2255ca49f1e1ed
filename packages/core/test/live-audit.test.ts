import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  audit,
  EditRefused,
  LiveAudit,
  RULES,
  type Change,
  type Project,
} from '../src/index.js';
import { defineRule, type Rule } from '../src/audit/rule.js';
import { Random, seeds } from './random.js';
import { randomBindingChange, randomChange, randomQuietChange } from './random-change.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-24';
const scratch = (p: Project): unknown => JSON.parse(JSON.stringify(audit(p, { today: TODAY })));

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
  ];
  it.each(sequences)(
    'is that of an audit from scratch, evidence and all, after each random edit of %s',
    (_, pick) => {
      for (let seed = 0; seed < seeds(90); seed++) {
        const r = new Random(seed);
        const live = LiveAudit.open(randomProject(seed), TODAY);
        let project = live.project;
        for (let i = 0; i < 8; i++) {
          const changes = [pick(r, project, i)];
          project = applyChanges(project, changes).project;
          const result = live.apply(changes);
          expect({ seed, i, result: JSON.parse(JSON.stringify(result)) as unknown }).toEqual({
            seed,
            i,
            result: scratch(project),
          });
          expect(live.project).toEqual(project);
        }
      }
    },
  );

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
    const live = LiveAudit.open(project, TODAY);
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
    const live = LiveAudit.open(project, TODAY);
    expect(live.withRehearsals).toEqual(audit(project, { today: TODAY }));
    expect(live.withRehearsals.rehearsals).toEqual({ run: 1, failed: ['fails'] });
  });

  it('holds the state before when a rule throws, and goes on from there', () => {
    for (let seed = 0; seed < 30; seed++) {
      const r = new Random(seed);
      const live = LiveAudit.open(randomProject(seed), TODAY);
      const rules = RULES as Rule[];
      const broken = defineRule({
        meta: { name: 'broken', severity: 'error', group: 'shape', what: '', why: '', cure: '' },
        messages: { no: 'no' },
        check: () => {
          throw new Error('a rule fails');
        },
      });
      let { project } = live;
      for (let i = 0; i < 6; i++) {
        const change = randomBindingChange(r, project) ?? randomChange(r, project);
        if (i % 2 === 0) {
          // In the middle of the others, so that some have looked already.
          rules.splice(10, 0, broken);
          expect(() => live.apply([change])).toThrow('a rule fails');
          rules.splice(10, 1);
          expect(live.project).toEqual(project);
          continue;
        }
        project = applyChanges(project, [change]).project;
        expect({ seed, i, result: JSON.parse(JSON.stringify(live.apply([change]))) as unknown }).toEqual({
          seed,
          i,
          result: scratch(project),
        });
      }
    }
  });

  it('stays as it was when an edit is refused', () => {
    const live = LiveAudit.open(randomProject(5), TODAY);
    const { project, result } = live;
    const gone: Change = { op: 'remove', list: 'bindings', asset: 'S0', id: 'none' };
    expect(() => live.apply([gone])).toThrow(EditRefused);
    expect(live.project).toBe(project);
    expect(live.result).toBe(result);
  });
});
