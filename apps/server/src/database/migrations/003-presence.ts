import { sql, type Kysely, type Migration } from 'kysely';

/** Who has which project open, and where. Unlogged: after a crash of the database everybody says so again. */
export const m003Presence: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create unlogged table presence (
        project_id uuid not null,
        client uuid not null,
        who text not null,
        place text not null,
        seen_at timestamptz not null default now(),
        primary key (project_id, client)
      )`.execute(db);
  },
};
