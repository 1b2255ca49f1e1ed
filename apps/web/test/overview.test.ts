import { describe, expect, it } from '@jest/globals';
import type { CatalogueEntry, CrossingCell, Finding } from '@oquel/core';
import { countsOf, filterEntries, findingsByEntry } from '../src/views/catalogue/filter-entries.js';
import type { Used } from '../src/session/coverage.js';
import { matrixOf, shadeOf, worstByBinding } from '../src/views/crossings/cells.js';

const entry = (part: Partial<CatalogueEntry>): CatalogueEntry => ({
  kind: 'event',
  asset: 'Mast',
  name: 'onGust',
  about: 'the game’s code',
  items: [],
  fields: [],
  note: '',
  brings: 0,
  hears: 0,
  marks: [],
  ...part,
});
const finding = (part: Partial<Finding>): Finding => ({
  rule: 'r',
  severity: 'warning',
  message: 'm',
  subject: { asset: 'Mast' },
  occurrences: [],
  evidence: { kind: 'bindings', bindings: [] },
  fingerprint: 'f',
  ...part,
});

describe('entries of the catalogue', () => {
  const entries = [
    entry({ marks: ['unheard'], fields: [{ name: 'speed', type: 'float' }] }),
    entry({ kind: 'action', asset: 'Brake', name: 'engage', note: 'Holds the cabin.' }),
    entry({ kind: 'channel', asset: '', name: 'tension', marks: ['unheard', 'unkeyed'] }),
  ];
  it.each([
    [{ kind: 'event' as const }, ['onGust']],
    [{ mark: 'unheard' as const }, ['onGust', 'tension']],
    [{ mark: 'unheard' as const, kind: 'channel' as const }, ['tension']],
    [{ asset: 'Brake' }, ['engage']],
    [{ q: 'CABIN' }, ['engage']],
    [{ q: 'speed float' }, ['onGust']],
    [{ q: 'gust cabin' }, []],
  ])('%j', (part, names) => {
    const all = { kind: '' as const, mark: '' as const, asset: '', q: '' };
    expect(filterEntries(entries, { ...all, ...part }).map((e) => e.name)).toEqual(names);
  });
  it('are counted by kind and mark', () => {
    expect(Object.fromEntries(countsOf(entries))).toEqual({
      event: 1,
      action: 1,
      channel: 1,
      unheard: 2,
      unkeyed: 1,
    });
  });
  it('have the findings that speak of them', () => {
    const by = findingsByEntry([
      finding({ subject: { asset: 'Mast', event: 'onGust' } }),
      finding({ subject: { channel: 'tension' } }),
      finding({ subject: { asset: 'ridge', binding: 'b' } }),
    ]);
    expect([...by.keys()]).toEqual(['event:Mast/onGust', 'channel:tension']);
  });
});

describe('cells of the matrix', () => {
  const cell = (from: number, to: number, part: Partial<CrossingCell> = {}): CrossingCell => ({
    from,
    to,
    deliveries: 4,
    throughChannel: 0,
    inCode: 0,
    acrossScenes: 0,
    bindings: [{ asset: 'ridge', binding: `b${from}${to}` }],
    of: 1,
    ...part,
  });
  const crossings = {
    by: 'asset' as const,
    groups: ['a', 'b', 'c'],
    cells: [
      cell(0, 1, { acrossScenes: 1, inCode: 4 }),
      cell(1, 0, { throughChannel: 2, inCode: 1 }),
      cell(2, 2, { deliveries: 9 }),
    ],
  };
  const worst = worstByBinding([
    finding({ subject: { asset: 'ridge', binding: 'b01' }, severity: 'info' }),
    finding({ subject: { asset: 'ridge', binding: 'b01' }, severity: 'error' }),
    finding({ subject: { asset: 'ridge', binding: 'b22' }, severity: 'error', waived: true }),
  ]);
  const usedOf = (_: string, binding: string): Used | undefined =>
    binding === 'b22' ? undefined : { served: binding === 'b01' ? 1 : 0, of: 2, refused: 0 };
  it('stand where the order puts them, with the worst finding that is not waived', () => {
    const matrix = matrixOf(crossings, [2, 0, 1], '', worst, null);
    expect(matrix.names).toEqual(['c', 'a', 'b']);
    expect(matrix.most).toBe(9);
    expect([...matrix.at.values()].map((m) => [m.row, m.column, m.fault])).toEqual([
      [1, 2, 'error'],
      [2, 1, null],
      [0, 0, null],
    ]);
  });
  it.each([
    ['' as const, 3],
    ['across' as const, 1],
    ['channel' as const, 1],
    ['code' as const, 2],
    ['hand' as const, 2],
    ['both' as const, 2],
    ['findings' as const, 1],
    // One was used, one was not, and of the third nothing is known.
    ['unused' as const, 1],
  ])('that are asked for by "%s"', (only, n) => {
    const matrix = matrixOf(crossings, [0, 1, 2], only, worst, usedOf);
    expect([...matrix.at.values()].filter((c) => c.fits)).toHaveLength(n);
  });
  it('are the darker the more is delivered, and never white', () => {
    expect(shadeOf(1, 1000)).toBeGreaterThan(0.1);
    expect(shadeOf(1000, 1000)).toBeCloseTo(1);
    expect(shadeOf(30, 1000)).toBeGreaterThan(shadeOf(3, 1000));
  });
});
