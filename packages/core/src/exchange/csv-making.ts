import { declareFor } from '../declare/declare.js';
import type { Need, Wishes } from '../declare/needs.js';
import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { indexProject, type AssetIndex, type ProjectIndex } from '../project/index-project.js';
import { append } from '../util/append.js';
import { checkLine } from '../wireline/check.js';
import { csvChanges, type CsvRow } from './csv-bindings.js';

/** Rows of a table with what is made for them. */
export interface CsvMade {
  rows: readonly CsvRow[];
  needs: readonly Need[];
  /** The edit; null as long as something is open or cannot be taken. */
  changes: Change[] | null;
}

/**
 * What rows name that is not there, made as wire lines make it, owner by owner. Cost: the rows, and the project for each
 * owner that needs something.
 */
export function makeForRows(
  index: ProjectIndex,
  rows: readonly CsvRow[],
  wishes: Wishes = new Map(),
): CsvMade {
  const byOwner = new Map<string, number[]>();
  rows.forEach(({ asset, state, doubts }, i) => {
    if ((state !== 'new' && state !== 'changed') || doubts.length === 0) return;
    const own = byOwner.get(asset);
    if (own) own.push(i);
    else byOwner.set(asset, [i]);
  });
  const next = [...rows];
  const needs: Need[] = [];
  const making: Change[] = [];
  let now = index;
  for (const [asset, own] of byOwner) {
    const owner = ownerIn(now, asset);
    const declared = declareFor(
      now,
      owner,
      own.map((i) => rows[i].binding!),
      wishes,
    );
    // What another owner has made already is there.
    append(needs, declared.needs);
    append(making, declared.making);
    if (declared.making.length > 0) now = indexProject(applyChanges(now.project, declared.making).project);
    own.forEach((i, n) => {
      const { from, to } = declared.bindings[n];
      const binding = { ...rows[i].binding!, from, to };
      next[i] = { ...rows[i], binding, doubts: checkLine(now, ownerIn(now, asset), binding) };
    });
  }
  const isReady = needs.every((n) => !n.isOpen && n.fault === null);
  return { rows: next, needs, changes: isReady ? [...making, ...csvChanges(index, next)] : null };
}
function ownerIn(index: ProjectIndex, id: string): AssetIndex {
  return index.assets[index.assetAt.get(id)!];
}
