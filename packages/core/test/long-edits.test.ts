import { expect, it } from '@jest/globals';
import { applyChanges, audit, IncrementalAudit, RULES, type Change, type Project } from '../src/index.js';
import {
  randomBindingChange,
  randomChange,
  randomNodesChange,
  randomQuietChange,
  randomThingChange,
} from './random-change.js';
import { expectSame } from './expect-same.js';
import { randomProject } from './random-project.js';
import { Random, seeds } from './random.js';

const TODAY = '2026-11-24';
/** Steps of one sequence. */
const STEPS = 30;

/** As somebody works: mostly bindings, then things and values, declarations, and the rest. */
function pick(r: Random, project: Project): Change {
  const kind = r.int(100);
  if (kind < 45) return randomBindingChange(r, project) ?? randomQuietChange(r, project);
  if (kind < 60) return randomQuietChange(r, project);
  if (kind < 75) return randomThingChange(r, project);
  if (kind < 90) return randomNodesChange(r, project);
  return randomChange(r, project);
}

/** `OQUEL_SEEDS=1000` makes it three thousand sequences. */
it('after 30 edits of all kinds, trials and takings-back, says what an audit from scratch says after each', () => {
  const fired = new Set<string>();
  for (let seed = 0; seed < seeds(3); seed++) {
    const r = new Random(seed * 31 + 7);
    const live = IncrementalAudit.open(randomProject(seed), TODAY);
    let project = live.project;
    const taken: Change[][] = [];
    const compare = (i: number, what: string): void => {
      const whole = audit(project, { today: TODAY });
      for (const { rule } of whole.findings) fired.add(rule);
      expectSame(live.result, whole, { seed, i, what });
    };
    for (let i = 0; i < STEPS; i++) {
      const way = r.int(10);
      const back = way < 2 ? taken.pop() : undefined;
      const changes = back ?? [pick(r, project)];
      if (way === 2) {
        live.trying(changes, (tried) => tried.result);
        compare(i, 'tried');
        continue;
      }
      const done = applyChanges(project, changes);
      project = done.project;
      live.apply(changes);
      if (!back) taken.push(done.inverse);
      compare(i, back ? 'taken back' : 'edited');
    }
    expect(live.project).toEqual(project);
  }
  if (seeds(1) >= 20) expect(RULES.filter(({ meta }) => !fired.has(meta.name))).toEqual([]);
});
