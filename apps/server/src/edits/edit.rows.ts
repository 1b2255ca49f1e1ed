import type { Change, Project } from '@oquel/core';
import { sql } from 'kysely';
import type { Tx } from '../database/database.js';
import { POS_STEP, type Tables } from '../database/schema.js';

/** Writes one change to the rows; `before` is the project as it stood ahead of it. */
export async function writeChange(tx: Tx, id: string, change: Change, before: Project): Promise<void> {
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

/** An asset's body says whether it has a list at all; when an edit makes the list or drops it, the body follows. */
export async function writeListMarks(tx: Tx, id: string, before: Project, after: Project): Promise<void> {
  for (const asset of after.assets) {
    const old = before.assets.find((a) => a.id === asset.id);
    if (!old || old === asset) continue;
    if (!old.bindings === !asset.bindings && !old.placements === !asset.placements) continue;
    const bare = { ...asset };
    if (bare.placements) bare.placements = [];
    if (bare.bindings) bare.bindings = [];
    await tx
      .updateTable('assets')
      .set({ body: JSON.stringify(bare) })
      .where('project_id', '=', id)
      .where('id', '=', asset.id)
      .execute();
  }
}
