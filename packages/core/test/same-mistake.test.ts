import { describe, expect, it } from '@jest/globals';
import { audit, indexProject, mistakesOf, readProject } from '../src/index.js';

describe('the same mistake in many places', () => {
  const { project } = readProject({
    format: 'oquel.project/1',
    name: 'Quay',
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        placements: [
          { id: 'bell', asset: 'Bell' },
          { id: 'a', asset: 'Buoy' },
          { id: 'b', asset: 'Buoy' },
          { id: 'c', asset: 'Lamp' },
        ],
        bindings: ['a', 'b', 'c'].map((id) => ({
          id,
          from: { at: 'bell', event: 'onRung' },
          to: { at: id === 'c' ? 'gatte' : 'gate', action: 'open' },
        })),
      },
      { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'code' } }] },
    ],
  });
  const index = indexProject(project);
  const { findings } = audit(project, { today: '2026-11-24' });

  it('is one missing name, or one prefab that is not there', () => {
    const of = (rule: string): number[] =>
      mistakesOf(
        index,
        findings.filter((f) => f.rule === rule),
      ).map((m) => m.findings.length);
    expect(of('dangling-target')).toEqual([2, 1]);
    expect(of('unknown-asset')).toEqual([2, 1]);
  });
  it('loses no finding and keeps their order within a mistake', () => {
    const mistakes = mistakesOf(index, findings);
    expect(mistakes.flatMap((m) => m.findings)).toHaveLength(findings.length);
    for (const { findings: own } of mistakes) {
      const at = own.map((f) => findings.indexOf(f));
      expect(at).toEqual([...at].sort((a, b) => a - b));
    }
  });
});
