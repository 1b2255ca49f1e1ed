import { sql, type Kysely, type Migration } from 'kysely';

/** What running games have sent: for each sending what it came to. Tokens are kept as hashes. */
export const m008Plays: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table plays (
        id uuid primary key,
        project_id uuid not null references projects on delete cascade,
        at timestamptz not null default now(),
        name text not null,
        figures text not null,
        report text not null
      )`.execute(db);
    await sql`create index on plays (project_id, at)`.execute(db);
    await sql`
      create table play_tokens (
        project_id uuid primary key references projects on delete cascade,
        hash text not null,
        at timestamptz not null default now()
      )`.execute(db);
  },
};
