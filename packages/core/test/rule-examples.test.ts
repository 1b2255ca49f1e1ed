import { describe, expect, it } from '@jest/globals';
import {
  ALL_RULES,
  applyChanges,
  audit,
  indexProject,
  readLines,
  readProject,
  type Project,
} from '../src/index.js';
import { COMMON, RULE_EXAMPLES } from '../src/export/rule-examples.js';

const EMPTY: Project = { format: 'oquel.project/1', name: 'An example', assets: [] };

/** The project that the lines of an example say, with those of the prefabs that it does not say itself. */
function projectOf(text: string, beside: Partial<Project> = {}): Project {
  const own = new Set([...text.matchAll(/^prefab (\w+)/gm)].map(([, name]) => name));
  const common = COMMON.split('\n\n').filter((part) => !own.has(/^prefab (\w+)/.exec(part)![1]));
  const lines = [text, ...common].join('\n\n');
  const first = readLines(indexProject(EMPTY), '', lines, { isMaking: false });
  const ticks = new Map(first.lines.filter((l) => l.binding).map((l) => [l.number, true]));
  const read = readLines(indexProject(EMPTY), '', lines, { isMaking: false, ticks });
  const broken = read.lines.filter((l) => l.state === 'broken').map((l) => `${l.text}: ${l.reasons.join()}`);
  expect(broken).toEqual([]);
  return readProject({ ...applyChanges(EMPTY, read.changes!).project, ...beside }).project;
}
const reported = (project: Project, rule: string): string[] =>
  audit(project, { today: '2026-11-24' })
    .findings.filter((f) => f.rule === rule)
    .map((f) => f.message);

describe('the example of', () => {
  it('every rule is there', () => {
    expect(Object.keys(RULE_EXAMPLES).sort()).toEqual(ALL_RULES.map((r) => r.meta.name).sort());
  });
  it.each(Object.entries(RULE_EXAMPLES))('%s', (rule, { fires, almost, beside, almostBeside }) => {
    expect(reported(projectOf(fires, beside), rule)).toEqual([expect.any(String)]);
    expect(reported(projectOf(almost, almostBeside ?? beside), rule)).toEqual([]);
  });
});
