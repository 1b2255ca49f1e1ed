import { sql, type Kysely, type Migration } from 'kysely';

/**
 * The log keeps the changes of an edit as the text that the server put together. Nothing asks the database what is in
 * it, and reading it as JSON took as long as storing it. Long ones are compressed by the quicker method, where
 * PostgreSQL was built with it. Cost: the log is written anew.
 */
export const m012LogAsText: Migration = {
  async up(db: Kysely<unknown>) {
    const columns = [sql.ref('changes'), sql.ref('inverse')];
    const texts = columns.map((c) => sql`alter column ${c} type text using ${c}::text`);
    await sql`alter table edits ${sql.join(texts)}`.execute(db);
    const quicker = sql`alter table edits ${sql.join(columns.map((c) => sql`alter column ${c} set compression lz4`))}`;
    await sql`savepoint before_compression`.execute(db);
    try {
      await quicker.execute(db);
    } catch {
      await sql`rollback to savepoint before_compression`.execute(db);
    }
  },
};
