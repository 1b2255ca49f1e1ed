import type { CrossingCell, Crossings, Finding } from '@oquel/core';
import { coverageOfMany, type CoverageOf, type Used } from '../../session/coverage.js';
import type { CellFilter } from './crossings-address.js';

/** A matrix ready to be drawn: places instead of numbers of groups, and what is asked for distinguished. */
export interface Matrix {
  /** Names in the order of rows and columns. */
  names: readonly string[];
  /** Cells by `row * names.length + column`. */
  at: ReadonlyMap<number, MatrixCell>;
  most: number;
}
export interface MatrixCell {
  cell: CrossingCell;
  row: number;
  column: number;
  /** It fits what is asked for. */
  fits: boolean;
  /** The worst finding that one of its bindings has. */
  fault: Finding['severity'] | null;
  /** In how many places its bindings were used, by rehearsals or a play; null where nothing is known of it. */
  used: Used | null;
}

/**
 * Puts cells into their places. `worst` tells the worst finding of a binding, `coverage` what was used of it. Linear in
 * cells and their bindings.
 */
export function matrixOf(
  { groups, cells }: Crossings,
  order: readonly number[],
  only: CellFilter,
  worst: ReadonlyMap<string, Finding['severity']>,
  coverage: CoverageOf | null,
): Matrix {
  const place = new Int32Array(groups.length);
  order.forEach((group, i) => (place[group] = i));
  const at = new Map<number, MatrixCell>();
  const both = new Set(cells.map((c) => `${c.to}/${c.from}`));
  let most = 1;
  for (const cell of cells) {
    const [row, column] = [place[cell.from], place[cell.to]];
    const fault = worstOf(cell, worst);
    const used = coverage && coverageOfMany(cell.bindings, coverage);
    const isBoth = cell.from !== cell.to && both.has(`${cell.from}/${cell.to}`);
    const fits = only === 'unused' ? isUnused({ used }) : fitsFilter(cell, only, fault, isBoth);
    at.set(row * groups.length + column, { cell, row, column, fits, fault, used });
    most = Math.max(most, cell.deliveries);
  }
  return { names: order.map((g) => groups[g]), at, most };
}

/** Whether it is known that none of its bindings was used. */
export function isUnused({ used }: Pick<MatrixCell, 'used'>): boolean {
  return used?.served === 0;
}
function fitsFilter(
  c: CrossingCell,
  only: Exclude<CellFilter, 'unused'>,
  fault: string | null,
  both: boolean,
): boolean {
  switch (only) {
    case '':
      return true;
    case 'across':
      return c.acrossScenes > 0;
    case 'channel':
      return c.throughChannel > 0;
    case 'code':
      return c.inCode > 0;
    case 'hand':
      return c.inCode < c.deliveries;
    case 'both':
      return both;
    case 'findings':
      return fault !== null;
  }
}

const RANK = { error: 3, warning: 2, info: 1 } as const;
function worstOf(cell: CrossingCell, worst: ReadonlyMap<string, Finding['severity']>): MatrixCell['fault'] {
  let found: MatrixCell['fault'] = null;
  for (const { asset, binding } of cell.bindings) {
    const severity = worst.get(`${asset}/${binding}`);
    if (severity && (!found || RANK[severity] > RANK[found])) found = severity;
  }
  return found;
}

/** The worst finding that is not waived, of each binding that findings name as their subject. */
export function worstByBinding(findings: readonly Finding[]): ReadonlyMap<string, Finding['severity']> {
  const by = new Map<string, Finding['severity']>();
  for (const f of findings) {
    if (f.waived) continue;
    const s = f.subject;
    const named = 'bindings' in s ? s.bindings : 'binding' in s ? [s] : [];
    for (const { asset, binding } of named) {
      const key = `${asset}/${binding}`;
      const before = by.get(key);
      if (!before || RANK[f.severity] > RANK[before]) by.set(key, f.severity);
    }
  }
  return by;
}

/** How dark a cell is: 0 to 1, by the order of magnitude, so that a few hundred do not drown a few. */
export function shadeOf(deliveries: number, most: number): number {
  return most <= 1 ? 1 : 0.18 + (0.82 * Math.log(deliveries)) / Math.log(most);
}

/** Where the stripes of a cell of which nothing was used leave its foot, from its left edge; the upper left corner is where a channel cuts. */
export const STRIPES: readonly number[] = [12, 16, 20];
