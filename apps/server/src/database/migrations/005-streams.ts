import { sql, type Kysely, type Migration } from 'kysely';

/**
 * A browser has one stream, which speaks for all its windows: they are present as long as the stream is. Unlogged: after
 * a crash of the database everybody says so again.
 */
export const m005Streams: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`drop table presence`.execute(db);
    await sql`
      create unlogged table streams (
        id uuid primary key,
        seen_at timestamptz not null default now()
      )`.execute(db);
    await sql`
      create unlogged table presence (
        project_id uuid not null,
        client uuid not null,
        stream uuid not null references streams on delete cascade,
        who text not null,
        place text not null,
        primary key (project_id, client)
      )`.execute(db);
    await sql`create index presence_by_stream on presence (stream)`.execute(db);
  },
};
