import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  EditRefused,
  readChangeSet,
  type Asset,
  type BrokenDocument,
  type Change,
  type Project,
} from '../src/index.js';
import { changesGate } from '../src/edit/authority.js';
import { said, lamp, quay, project } from './lamp-project.js';

describe('change sets from outside', () => {
  const remove = { op: 'remove', list: 'bindings', asset: 'quay', id: 'said' };
  it.each<[string, unknown, string]>([
    ['no object', 3, 'expected an object, found 3 at the top of the document'],
    ['no changes', { label: 'x', changes: [] }, 'expected '],
    ['an unknown op', { label: 'x', changes: [{ op: 'swap' }] }, '/changes/0/op'],
    ['an unknown list', { label: 'x', changes: [{ ...remove, list: 'events' }] }, '/changes/0/list'],
    [
      'an item that is none',
      { label: 'x', changes: [{ op: 'insert', list: 'bindings', asset: 'quay', index: 0, item: [] }] },
      'expected an object, found an empty list at /changes/0/item',
    ],
    ['nothing for an item', { label: 'x', changes: [{ op: 'add', index: 0, item: null }] }, 'found null at'],
    [
      'a place before the first',
      { label: 'x', changes: [{ op: 'move', list: 'bindings', asset: 'quay', id: 'said', index: -1 }] },
      '/changes/0/index',
    ],
    [
      'a part that an asset has not',
      { label: 'x', changes: [{ op: 'set', asset: 'quay', part: 'policy' }] },
      'expected one of tags, note,',
    ],
    [
      'a part that a project has not',
      { label: 'x', changes: [{ op: 'set', part: 'tags' }] },
      'found "tags" at /changes/0/part',
    ],
  ])('are refused where they are broken: %s', (_, value, text) => {
    let message = '';
    try {
      readChangeSet(value);
    } catch (error) {
      ({ message } = error as BrokenDocument);
    }
    expect(message).toContain(text);
  });

  it('are taken where they are whole', () => {
    const value = { label: 'Tidy', changes: [remove, { op: 'set', part: 'note', value: 'n' }] };
    expect(readChangeSet(value)).toEqual(value);
  });
});

describe('edits that are refused', () => {
  const base = project([quay(lamp())]);
  it.each<[string, unknown, EditRefused['reason'], string]>([
    [
      'a binding that is none',
      { op: 'replace', list: 'bindings', asset: 'quay', id: 'said', item: { id: 'said', from: 1, to: 2 } },
      'broken-item',
      'the binding is not valid: expected ',
    ],
    [
      'a placement without an asset',
      { op: 'insert', list: 'placements', asset: 'quay', index: 0, item: { id: 'b' } },
      'broken-item',
      'the placement is not valid: expected ',
    ],
    [
      'an asset of no kind',
      { op: 'add', index: 0, item: { id: 'b', kind: 'thing' } },
      'broken-item',
      'at /changes/1/item/kind',
    ],
    [
      'a part that is something else',
      { op: 'set', part: 'channels', value: 3 },
      'broken-item',
      'the channels is not valid: expected a list, found 3 at /changes/1/channels',
    ],
    ['no name', { op: 'set', part: 'name' }, 'broken-item', 'a project must have a name'],
    [
      'an id twice',
      { op: 'insert', list: 'bindings', asset: 'quay', index: 0, item: said },
      'id-taken',
      'quay already has a binding "said"',
    ],
    [
      'what is not there',
      { op: 'remove', list: 'placements', asset: 'quay', id: 'mast' },
      'no-item',
      'quay has no placement "mast"',
    ],
  ])('%s', (_, change, reason, text) => {
    let refused: EditRefused | null = null;
    try {
      applyChanges(base, [{ op: 'set', part: 'note', value: 'first' }, change as Change]);
    } catch (error) {
      refused = error as EditRefused;
    }
    expect(refused).toBeInstanceOf(EditRefused);
    expect(refused).toMatchObject({ change: 1, reason });
    expect(refused!.message).toContain(text);
  });

  it('leave the first part of an asset where it was when it is taken back', () => {
    const tagged = { tags: ['old'], id: 'shed', kind: 'scene', note: 'by the water' } as Asset;
    const before = project([tagged]);
    for (const change of [
      { op: 'set', asset: 'shed', part: 'tags', value: ['new'] },
      { op: 'set', asset: 'shed', part: 'tags' },
    ] as const) {
      const { project: after, inverse } = applyChanges(before, [change as unknown as Change]);
      expect(JSON.stringify(after)).not.toBe(JSON.stringify(before));
      expect(JSON.stringify(applyChanges(after, inverse).project)).toBe(JSON.stringify(before));
    }
  });
});

describe('what decides if a build passes', () => {
  const waiver = (by: string, proposed?: true): object => ({ fingerprint: 'f', by, reason: 'r', proposed });
  const base = project([], { waivers: [waiver('ann')] as Project['waivers'] });
  it.each<[string, object, boolean]>([
    ['the policy', { op: 'set', part: 'policy', value: {} }, true],
    ['a waiver more', { op: 'set', part: 'waivers', value: [waiver('ann'), waiver('bo')] }, true],
    ['no waivers', { op: 'set', part: 'waivers' }, true],
    ['a proposal', { op: 'set', part: 'waivers', value: [waiver('ann'), waiver('bo', true)] }, false],
    ['a note', { op: 'set', part: 'note', value: 'n' }, false],
    ['a part of an asset', { op: 'set', asset: 'Lamp', part: 'note', value: 'n' }, false],
    ['an asset', { op: 'drop', asset: 'Lamp' }, false],
  ])('%s', (_, change, decides) => {
    expect(changesGate(base, change as Change)).toBe(decides);
  });
});
