import { sql, type Kysely, type Migration } from 'kysely';

/** Pictures under plans. A name is a hash of the bytes, so a picture never changes. */
export const m007Pictures: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table pictures (
        project_id uuid not null references projects on delete cascade,
        name text not null,
        at timestamptz not null default now(),
        bytes bytea not null,
        primary key (project_id, name)
      )`.execute(db);
  },
};
