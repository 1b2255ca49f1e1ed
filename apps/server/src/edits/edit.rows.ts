import type { Asset, Change, ItemChange, Project } from '@oquel/core';
import { sql, type Insertable } from 'kysely';
import type { Tx } from '../database/database.js';
import { POS_STEP, type ItemRow, type Tables } from '../database/schema.js';

/** Writes one change of a binding or placement to the rows; `before` is the project as it stood ahead of it. */
export async function writeItem(tx: Tx, id: string, change: ItemChange, before: Project): Promise<void> {
  const asset = before.assets.find((a) => a.id === change.asset)!;
  const items: readonly { id: string }[] = asset[change.list] ?? [];
  const table = change.list as keyof Pick<Tables, 'bindings'>;
  const scope = { project_id: id, asset_id: change.asset };
  switch (change.op) {
    case 'insert': {
      const pos = await freePos(tx, table, scope, items, change.index);
      const body = JSON.stringify(change.item);
      await tx
        .insertInto(table)
        .values({ ...scope, id: change.item.id, pos, body })
        .execute();
      return;
    }
    case 'remove':
      await whereItem(tx.deleteFrom(table), scope, change.id).execute();
      return;
    case 'replace':
      await whereItem(
        tx.updateTable(table).set({ id: change.item.id, body: JSON.stringify(change.item) }),
        scope,
        change.id,
      ).execute();
      return;
    case 'move': {
      const others = items.filter((item) => item.id !== change.id);
      const pos = await freePos(tx, table, scope, others, change.index);
      await whereItem(tx.updateTable(table).set({ pos }), scope, change.id).execute();
    }
  }
}

/** Writes many items at the end of one list; `before` is the project as it stood ahead of them. */
export async function appendItems(
  tx: Tx,
  id: string,
  changes: readonly ItemChange[],
  before: Project,
): Promise<void> {
  const [{ asset: asset_id, list }] = changes;
  const scope = { project_id: id, asset_id };
  const table = list as keyof Pick<Tables, 'bindings'>;
  const items: readonly { id: string }[] = before.assets.find((a) => a.id === asset_id)![list] ?? [];
  const first = await freePos(tx, table, scope, items, items.length);
  const rows = changes.flatMap((change, i) => {
    if (change.op !== 'insert') return [];
    const body = JSON.stringify(change.item);
    return [{ ...scope, id: change.item.id, pos: first + i * POS_STEP, body }];
  });
  await insertMany(tx, table, rows);
}
/** How many changes from a place on take items out of one and the same list. */
export function removeRun(changes: readonly Change[], from: number): number {
  const first = changes[from];
  let n = from;
  for (; n < changes.length; n++) {
    const c = changes[n];
    if (first.op !== 'remove' || c.op !== 'remove' || c.asset !== first.asset || c.list !== first.list) break;
  }
  return n - from;
}
/** Takes many items of one list out at one go; whether the list itself stays is a matter of the head. */
export async function removeItems(tx: Tx, id: string, changes: readonly ItemChange[]): Promise<void> {
  const [{ asset, list }] = changes;
  const ids = changes.flatMap((c) => (c.op === 'remove' ? [c.id] : []));
  for (let i = 0; i < ids.length; i += 5000) {
    await tx
      .deleteFrom(list as keyof Pick<Tables, 'bindings'>)
      .where('project_id', '=', id)
      .where('asset_id', '=', asset)
      .where('id', 'in', ids.slice(i, i + 5000))
      .execute();
  }
}
async function insertMany(
  tx: Tx,
  table: keyof Pick<Tables, 'bindings'>,
  rows: readonly Insertable<ItemRow>[],
): Promise<void> {
  // A statement takes so many values at most.
  for (let i = 0; i < rows.length; i += 5000) {
    await tx
      .insertInto(table)
      .values(rows.slice(i, i + 5000))
      .execute();
  }
}

interface Scope {
  project_id: string;
  asset_id: string;
}
/** The part of a delete or update that names one item. */
function whereItem<Q extends { where: (column: never, op: never, value: never) => Q }>(
  query: Q,
  scope: Scope,
  id: string,
): Q {
  const pairs = { ...scope, id };
  return Object.entries(pairs).reduce((q, [k, v]) => q.where(k as never, '=' as never, v as never), query);
}

/** A position between the neighbours at that index. A list whose gap is used up is numbered anew first. */
async function freePos(
  tx: Tx,
  table: keyof Pick<Tables, 'bindings'>,
  scope: Scope,
  items: readonly { id: string }[],
  wanted: number,
): Promise<number> {
  const index = Math.min(Math.max(0, wanted), items.length);
  const before = items[index - 1]?.id;
  const after = items[index]?.id;
  const pos = await positions(tx, table, scope, [before, after]);
  if (before === undefined && after === undefined) return 0;
  if (after === undefined) return pos.get(before)! + POS_STEP;
  if (before === undefined) return pos.get(after)! - POS_STEP;
  const [low, high] = [pos.get(before)!, pos.get(after)!];
  if (high - low > 1) return Math.floor((low + high) / 2);
  await renumber(tx, table, scope);
  return freePos(tx, table, scope, items, wanted);
}
async function positions(
  tx: Tx,
  table: keyof Pick<Tables, 'bindings'>,
  scope: Scope,
  ids: (string | undefined)[],
): Promise<Map<string | undefined, number>> {
  const rows = await tx
    .selectFrom(table)
    .select(['id', 'pos'])
    .where('project_id', '=', scope.project_id)
    .where('asset_id', '=', scope.asset_id)
    .where('id', 'in', ids.filter((id) => id !== undefined).concat(''))
    .execute();
  return new Map(rows.map((r) => [r.id, Number(r.pos)]));
}
async function renumber(tx: Tx, table: string, scope: Scope): Promise<void> {
  await sql`
    update ${sql.table(table)} t set pos = s.n * ${POS_STEP}
    from (select id, row_number() over (order by pos) as n from ${sql.table(table)}
          where project_id = ${scope.project_id} and asset_id = ${scope.asset_id}) s
    where t.project_id = ${scope.project_id} and t.asset_id = ${scope.asset_id} and t.id = s.id`.execute(tx);
}

/**
 * Writes what an edit did to the heads: the project without its assets, the assets without placements and bindings
 * (which say whether there is such a list at all), and assets that came or went with all their rows.
 */
export async function writeHeads(tx: Tx, id: string, before: Project, after: Project): Promise<void> {
  if (differ(projectHead(before), projectHead(after))) {
    // PostgreSQL's text has no NUL character; the body keeps the name as it is.
    const name = after.name.replaceAll('\0', '');
    await tx
      .updateTable('projects')
      .set({ name, body: JSON.stringify(projectHead(after)) })
      .where('id', '=', id)
      .execute();
  }
  const old = new Map(before.assets.map((a) => [a.id, a]));
  const now = new Set(after.assets.map((a) => a.id));
  const gone = before.assets.filter((a) => !now.has(a.id));
  for (const { id: asset } of gone) {
    await tx.deleteFrom('assets').where('project_id', '=', id).where('id', '=', asset).execute();
  }
  for (const [i, asset] of after.assets.entries()) {
    const was = old.get(asset.id);
    if (was === asset) continue;
    const body = JSON.stringify(assetHead(asset));
    if (!was) await insertAsset(tx, id, asset, body, after.assets[i - 1]?.id, after.assets[i + 1]?.id);
    else if (differ(assetHead(was), assetHead(asset))) {
      await tx
        .updateTable('assets')
        .set({ body })
        .where('project_id', '=', id)
        .where('id', '=', asset.id)
        .execute();
    }
  }
}

function projectHead(project: Project): Project {
  return { ...project, assets: [] };
}
function assetHead(asset: Asset): Asset {
  const bare = { ...asset };
  if (bare.placements) bare.placements = [];
  if (bare.bindings) bare.bindings = [];
  return bare;
}
/** Parts that an edit does not touch are the very same, so most are not looked into. */
function differ<T extends object>(a: T, b: T): boolean {
  const names = Object.keys(a);
  if (names.join() !== Object.keys(b).join()) return true;
  return names.some((name) => {
    const [x, y] = [a[name as keyof T], b[name as keyof T]];
    return x !== y && JSON.stringify(x) !== JSON.stringify(y);
  });
}

async function insertAsset(
  tx: Tx,
  id: string,
  asset: Asset,
  body: string,
  previous: string | undefined,
  next: string | undefined,
): Promise<void> {
  const pos = await assetPos(tx, id, previous, next);
  await tx.insertInto('assets').values({ project_id: id, id: asset.id, pos, body }).execute();
  for (const list of ['placements', 'bindings'] as const) {
    const rows = (asset[list] ?? []).map((item, i) => ({
      project_id: id,
      asset_id: asset.id,
      id: item.id,
      pos: i * POS_STEP,
      body: JSON.stringify(item),
    }));
    await insertMany(tx, list as keyof Pick<Tables, 'bindings'>, rows);
  }
}

/** A position between two assets, either of which may be missing; if the gap is used up, all are numbered anew. */
async function assetPos(
  tx: Tx,
  id: string,
  previous: string | undefined,
  next: string | undefined,
): Promise<number> {
  const rows = await tx.selectFrom('assets').select(['id', 'pos']).where('project_id', '=', id).execute();
  const pos = new Map(rows.map((r) => [r.id, Number(r.pos)]));
  const low = previous === undefined ? undefined : pos.get(previous);
  const high = next === undefined ? undefined : pos.get(next);
  if (low === undefined) return high === undefined ? 0 : high - POS_STEP;
  if (high === undefined) return low + POS_STEP;
  if (high - low > 1) return Math.floor((low + high) / 2);
  await sql`
    update assets t set pos = s.n * ${POS_STEP}
    from (select id, row_number() over (order by pos) as n from assets where project_id = ${id}) s
    where t.project_id = ${id} and t.id = s.id`.execute(tx);
  return assetPos(tx, id, previous, next);
}
