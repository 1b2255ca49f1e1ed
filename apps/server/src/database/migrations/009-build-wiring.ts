import { sql, type Kysely, type Migration } from 'kysely';

/** By which wiring a game runs: builds are found by the hash that stands in their compiled wiring. Older ones have none. */
export const m009BuildWiring: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table builds add column wiring text`.execute(db);
    await sql`create index on builds (project_id, wiring)`.execute(db);
  },
};
