import { sql, type Kysely, type Migration } from 'kysely';

/** Long texts of the log are compressed in a tenth of the time, where PostgreSQL was built with lz4; older rows stay as they are. */
export const m011Compression: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      do $$ begin
        alter table edits alter column changes set compression lz4, alter column inverse set compression lz4;
      exception when feature_not_supported then null;
      end $$`.execute(db);
  },
};
