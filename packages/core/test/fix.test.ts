import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { applyChanges, audit, proposeFixes, readProject, type Finding, type Project } from '../src/index.js';
import { randomProject } from './random-project.js';

const TODAY = '2026-11-24';
const read = (path: string): unknown => JSON.parse(readFileSync(new URL(path, import.meta.url), 'utf8'));
const caseFile = (name: string): Project =>
  readProject((read(`./cases/${name}.json`) as { project: unknown }).project).project;
const findings = (p: Project): Finding[] => audit(p, { today: TODAY }).findings;

/** Every proposal applies, takes its finding away, and says truly what else it changes. */
function check(project: Project, finding: Finding): string[] {
  return proposeFixes(project, finding, TODAY).map((fix) => {
    const after = findings(applyChanges(project, fix.changes).project);
    const left = after.map((f) => f.fingerprint);
    expect(left).not.toContain(finding.fingerprint);
    expect(fix.gone.every((f) => !left.includes(f.fingerprint))).toBe(true);
    expect(fix.added.every((f) => left.includes(f.fingerprint))).toBe(true);
    return fix.label;
  });
}

describe('fixes', () => {
  const labels: [string, string, RegExp][] = [
    ['dangling-target-classes', 'dangling-target', /^(Use|Publish|Create) |^Remove/],
    ['dangling-sender-classes', 'dangling-sender', /^Listen |^Create |^Remove/],
    ['asleep-receiver', 'asleep-receiver', /awake$/],
    ['broadcast-spill', 'broadcast-spill', /is intended|same/],
    ['broadcast-spill-owner', 'broadcast-spill', /./],
    ['dangling-effect', 'dangling-effect', /^Declare the (event|property) |^Create the prefab /],
    ['dangling-key', 'dangling-key', / = |^Add the key |^Declare the key table /],
    ['dangling-name', 'dangling-name', /mute|override|belongs/i],
    ['duplicate-binding', 'duplicate-binding', /Remove/],
    ['empty-selection', 'empty-selection', /Select|Remove/],
    ['leaky-binding', 'leaky-binding', /Release/],
    ['opposing-actions', 'opposing-actions', /Remove/],
    ['over-release', 'over-release', /Release/],
    ['payload-mismatch-names', 'payload-mismatch', /=|^Remove the argument/],
    ['relay-cycle-classes', 'relay-cycle', /^Limit to once: |^Remove: /],
    ['relay-cycle-instant', 'relay-cycle', /^Limit to once: |^Remove: /],
    ['shared-key', 'shared-key', /its own/],
    ['start-race', 'start-race', /when the scene loads/],
    ['unknown-asset', 'unknown-asset', /^Remove the placement|^Create the (prefab|widget) /],
    ['unpaired-area', 'unpaired-area', /to once/],
  ];
  it.each(labels)('of %s fix %s', (name, rule, label) => {
    const project = caseFile(name);
    const own = findings(project).filter((f) => f.rule === rule);
    // The fallback channel rule of one case has no keyed listener to offer, so at least one finding must have a fix.
    const offered = own.flatMap((f) => check(project, f));
    if (name !== 'broadcast-spill-owner') expect(offered.length).toBeGreaterThan(0);
    for (const text of offered) expect(text).toMatch(label);
  });

  it('offer the nearest name that could do it before removal, and what brings errors last', () => {
    const demo = readProject(read('../../../demo/storm-over-veyra.json')).project;
    const dangling = findings(demo).find((f) => f.message.includes('horn-7'))!;
    expect(check(demo, dangling)).toEqual([
      'Use horn-2',
      'Remove: when mast-2.onGust do horn-7.sound',
      'Create horn-7',
    ]);
  });

  it('of a key that is not there put it into its table, or declare the table', () => {
    const lamp = {
      id: 'Lamp',
      kind: 'prefab' as const,
      properties: [{ name: 'word', type: 'key:texts' as const, default: 'hello' }],
    };
    const yard = {
      id: 'yard',
      kind: 'scene' as const,
      placements: [{ id: 'lamp-1', asset: 'Lamp', properties: { word: 'bye' } }],
    };
    const project = readProject({
      format: 'oquel.project/1',
      name: 'Words',
      tables: [{ name: 'texts', keys: ['hello'] }],
      assets: [lamp, yard],
    }).project;
    const [finding] = findings(project).filter((f) => f.rule === 'dangling-key');
    expect(check(project, finding)).toContain('Add the key "bye" to texts');
    const without = { ...project, tables: [] };
    const missing = findings(without).filter((f) => f.rule === 'dangling-key');
    expect(missing.flatMap((f) => check(without, f))).toContain('Declare the key table texts with "bye"');
  });

  it('of cycles really break all cycles of the finding, in every case and on random projects', () => {
    const projects = [
      ...readdirSync(new URL('./cases/', import.meta.url)).map((f) => caseFile(f.replace('.json', ''))),
      ...Array.from({ length: 400 }, (_, i) => randomProject(i)),
    ];
    let tried = 0;
    for (const project of projects) {
      for (const f of findings(project)
        .filter((x) => x.rule === 'relay-cycle')
        .slice(0, 2)) {
        tried += check(project, f).length;
      }
    }
    expect(tried).toBeGreaterThan(15);
  });
});
