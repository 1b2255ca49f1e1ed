import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Ids of assets and items are compared byte by byte, not by the rules of a language: nobody reads them in an order, and looking
 * a row up takes less.
 */
export const m011IdsByBytes: Migration = {
  async up(db: Kysely<unknown>) {
    await byBytes(db, 'assets', ['id']);
    for (const table of ['placements', 'bindings']) await byBytes(db, table, ['asset_id', 'id']);
  },
};

/** A column that a trigger watches cannot change; the trigger is made anew. */
async function byBytes(db: Kysely<unknown>, table: string, columns: readonly string[]): Promise<void> {
  await sql`drop trigger key_stays on ${sql.table(table)}`.execute(db);
  const changes = columns.map((c) => sql`alter column ${sql.ref(c)} type text collate "C"`);
  await sql`alter table ${sql.table(table)} ${sql.join(changes)}`.execute(db);
  const watched = ['project_id', ...columns].map((c) => sql.ref(c));
  await sql`
    create trigger key_stays before update of ${sql.join(watched)} on ${sql.table(table)}
      for each row execute function oquel_key_stays()`.execute(db);
}
