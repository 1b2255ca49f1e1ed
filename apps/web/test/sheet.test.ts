import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  indexProject,
  reindexProject,
  type Binding,
  type Finding,
  type Project,
} from '@oquel/core';
import {
  EndAssets,
  facetValues,
  filterRows,
  findingsByBinding,
  groupRows,
  sheetRows,
  sortRows,
  type SheetFilter,
} from '../src/views/sheet/sheet-rows.js';

const bindings: Binding[] = [
  {
    id: 'a',
    from: { at: 'mast', event: 'onGust' },
    to: { at: 'brake', action: 'engage' },
    limit: 1,
    delay: 2,
  },
  {
    id: 'b',
    from: { at: 'mast', event: 'onCalm' },
    to: { every: 'Brake', action: 'release' },
    enabled: false,
  },
  {
    id: 'c',
    from: { at: 'mast', event: 'onGust' },
    to: { channel: 'tension' },
    origin: 'code',
    if: [{ payload: 'speed', is: { over: 3 } }],
    note: 'Halt',
  },
  { id: 'd', from: { channel: 'tension' }, to: { at: 'brake', action: 'engage' } },
];
const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast', asset: 'Mast' },
        { id: 'brake', asset: 'Brake' },
      ],
      bindings,
    },
    { id: 'Mast', kind: 'prefab' },
    { id: 'Brake', kind: 'prefab', bindings: [{ ...bindings[0], id: 'own' }] },
  ],
};
const index = indexProject(project);
const ends = new EndAssets(index);
const all = sheetRows(index, null);
const findings = findingsByBinding([
  { subject: { asset: 'ridge', binding: 'd' } } as Finding,
  { subject: { asset: 'ridge', binding: 'a' }, waived: true } as Finding,
]);
const NOTHING: SheetFilter = { q: '', facets: {}, switches: [] };
const ids = (filter: Partial<SheetFilter>): string[] =>
  filterRows(all, { ...NOTHING, ...filter }, ends, findings).map((r) => r.id);

describe('the sheet', () => {
  it.each<[string, Partial<SheetFilter>, string[]]>([
    ['nothing asked', {}, ['ridge/a', 'ridge/b', 'ridge/c', 'ridge/d', 'Brake/own']],
    ['words, in any order and case', { q: ' ENGAGE ridge  ' }, ['ridge/a', 'ridge/d']],
    ['a word of a note', { q: 'halt' }, ['ridge/c']],
    ['an event', { facets: { event: 'onGust' } }, ['ridge/a', 'ridge/c', 'Brake/own']],
    ['an action', { facets: { action: 'release' } }, ['ridge/b']],
    ['an asset at either end', { facets: { asset: 'Brake' } }, ['ridge/a', 'ridge/b', 'ridge/d']],
    ['a channel, told or heard', { facets: { channel: 'tension' } }, ['ridge/c', 'ridge/d']],
    ['muted', { switches: ['muted'] }, ['ridge/b']],
    ['once, with a facet', { switches: ['once'], facets: { asset: 'Mast' } }, ['ridge/a']],
    ['asking', { switches: ['asking'] }, ['ridge/c']],
    ['what is asked', { facets: { question: '$speed' } }, ['ridge/c']],
    ['in code', { switches: ['code'] }, ['ridge/c']],
    ['with findings that are not waived', { switches: ['findings'] }, ['ridge/d']],
  ])('filters by %s', (_what, filter, expected) => {
    expect(ids(filter)).toEqual(expected);
  });

  it('counts what there is of a facet, most first', () => {
    expect(facetValues(all, 'event', ends)).toEqual([
      ['onGust', 3],
      ['onCalm', 1],
    ]);
    expect(facetValues(all, 'asset', ends)).toEqual([
      ['Brake', 3],
      ['Mast', 3],
    ]);
  });

  it('sorts, and groups under headings that count', () => {
    expect(
      sortRows(all, 'delay', findings)
        .map((r) => r.binding.id)
        .slice(0, 2),
    ).toEqual(['a', 'own']);
    expect(sortRows(all, 'findings', findings)[0].id).toBe('ridge/d');
    expect(
      groupRows(all.slice(0, 4), 'receiver').map((i) =>
        'row' in i ? i.row.binding.id : `${i.group} ${i.count}`,
      ),
    ).toEqual(['brake 2', 'a', 'd', 'every Brake 1', 'b', '#tension 1', 'c']);
    expect(
      groupRows(all.slice(2, 4), 'question').map((i) => ('row' in i ? i.row.binding.id : i.group)),
    ).toEqual(['if $speed > 3', 'c', 'no condition', 'd']);
  });

  it('keeps the rows of what an edit does not touch', () => {
    const item = { ...bindings[0], id: 'own', delay: 5 };
    const change = { op: 'replace' as const, list: 'bindings' as const, asset: 'Brake', id: 'own', item };
    const after = sheetRows(reindexProject(index, applyChanges(project, [change]).project), null);
    expect(after[0]).toBe(all[0]);
    expect(after[4].text).toContain('after 5s');
  });
});
