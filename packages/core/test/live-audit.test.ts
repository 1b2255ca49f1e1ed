import { describe, expect, it } from '@jest/globals';
import { applyChanges, audit, EditRefused, LiveAudit, type Change, type Project } from '../src/index.js';
import { Random } from './random.js';
import { randomBindingChange, randomChange } from './random-change.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-24';
const scratch = (p: Project): unknown => JSON.parse(JSON.stringify(audit(p, { today: TODAY })));

describe('the audit kept up with edits', () => {
  it('is that of an audit from scratch, evidence and all, after every edit of a random sequence', () => {
    for (let seed = 0; seed < 250; seed++) {
      const r = new Random(seed);
      const live = new LiveAudit(randomProject(seed), TODAY);
      let project = live.project;
      for (let i = 0; i < 8; i++) {
        const binding = i % 2 === 0 ? randomBindingChange(r, project) : null;
        const changes: Change[] = [binding ?? randomChange(r, project)];
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
  });

  it('stays as it was when an edit is refused', () => {
    const live = new LiveAudit(randomProject(5), TODAY);
    const { project, result } = live;
    const gone: Change = { op: 'remove', list: 'bindings', asset: 'S0', id: 'none' };
    expect(() => live.apply([gone])).toThrow(EditRefused);
    expect(live.project).toBe(project);
    expect(live.result).toBe(result);
  });
});
