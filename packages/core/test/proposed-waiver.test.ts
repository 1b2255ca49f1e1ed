import { describe, expect, it } from '@jest/globals';
import {
  audit,
  changesGate,
  readProject,
  waiverStates,
  type Change,
  type Project,
  type Waiver,
} from '@oquel/core';

const TODAY = '2026-11-29';
/** A binding to a gate that is not there. */
function quay(waivers: Waiver[] = []): Project {
  return readProject({
    format: 'oquel.project/1',
    name: 'Quay',
    waivers,
    assets: [
      {
        id: 'quay',
        kind: 'scene',
        placements: [{ id: 'bell', asset: 'Bell' }],
        bindings: [{ id: 'b1', from: { at: 'bell', event: 'onRung' }, to: { at: 'gate', action: 'open' } }],
      },
      { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
    ],
  }).project;
}
const [fault] = audit(quay(), { today: TODAY }).findings.filter((f) => f.severity === 'error');
const waiver: Waiver = { fingerprint: fault.fingerprint, reason: 'the gate comes later', by: 'Pat' };
const proposal: Waiver = { ...waiver, proposed: true };

describe('a proposed waiver', () => {
  it('does not count until it is accepted', () => {
    expect(audit(quay([proposal]), { today: TODAY })).toMatchObject({ gate: 'stop', summary: { waived: 0 } });
    expect(audit(quay([waiver]), { today: TODAY })).toMatchObject({ gate: 'pass', summary: { waived: 1 } });
    const { findings } = audit(quay([proposal]), { today: TODAY });
    expect(waiverStates(findings, [proposal], TODAY)).toMatchObject([{ state: 'proposed' }]);
  });
  it('counts beside one that does', () => {
    expect(audit(quay([proposal, waiver]), { today: TODAY }).gate).toBe('pass');
  });
  it('is proposed or not; false is no word for it', () => {
    expect(() => quay([{ ...waiver, proposed: false as never }])).toThrow('/waivers/0/proposed');
  });
});

describe('what decides the gate', () => {
  const set = (part: string, value?: unknown): Change => ({ op: 'set', part, value }) as Change;
  it.each<[string, Project, Change, boolean]>([
    ['the policy', quay(), set('policy', { maxChain: 9 }), true],
    ['a waiver', quay(), set('waivers', [waiver]), true],
    ['a proposal', quay(), set('waivers', [proposal]), false],
    ['accepting one', quay([proposal]), set('waivers', [waiver]), true],
    ['withdrawing one', quay([proposal]), set('waivers'), false],
    ['a proposal beside a waiver', quay([waiver]), set('waivers', [waiver, proposal]), false],
    ['taking a waiver away', quay([waiver]), set('waivers'), true],
    ['turning one into a proposal', quay([waiver]), set('waivers', [proposal]), true],
    ['no list at all', quay([waiver]), set('waivers', 'none'), true],
    ['a note', quay(), set('note', 'x'), false],
    ['a part of an asset', quay(), { ...set('note', 'x'), asset: 'quay' } as Change, false],
  ])('%s', (_, project, change, is) => {
    expect(changesGate(project, change)).toBe(is);
  });
});
