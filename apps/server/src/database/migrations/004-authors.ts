import { sql, type Kysely, type Migration } from 'kysely';

/** Who made an edit, as the browser knows itself: undo takes one's own. And how large a project is. */
export const m004Authors: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table edits add column author uuid`.execute(db);
    // Long edits are written in half the time; a PostgreSQL that was built without it keeps its own way.
    await sql`
      do $$ begin
        alter table edits alter column changes set compression lz4;
        alter table edits alter column inverse set compression lz4;
      exception when feature_not_supported then null;
      end $$`.execute(db);
    await sql`drop index edits_by_state`.execute(db);
    await sql`create index edits_by_author on edits (project_id, author, state, version)`.execute(db);
    await sql`alter table projects add column bytes bigint not null default 0`.execute(db);
    await sql`
      update projects p set bytes = octet_length(p.body::text)
        + coalesce((select sum(octet_length(body::text)) from assets where project_id = p.id), 0)
        + coalesce((select sum(octet_length(body::text)) from placements where project_id = p.id), 0)
        + coalesce((select sum(octet_length(body::text)) from bindings where project_id = p.id), 0)`.execute(
      db,
    );
    // Whoever serves owns no table, and only an owner may analyse one.
    await sql`
      create function oquel_analyze() returns void language plpgsql security definer set search_path = public as $$
      begin
        analyze assets;
        analyze placements;
        analyze bindings;
      end $$`.execute(db);
    await sql`alter table build_verdicts add column key uuid`.execute(db);
    await sql`create unique index verdicts_by_key on build_verdicts (build_id, key)`.execute(db);
    await sql`alter table projects add column key uuid unique`.execute(db);
    await sql`alter table builds add column key uuid`.execute(db);
    await sql`create unique index builds_by_key on builds (project_id, key)`.execute(db);
  },
};
