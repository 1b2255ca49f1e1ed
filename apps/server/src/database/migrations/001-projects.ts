import { sql, type Kysely, type Migration } from 'kysely';

/** Projects, their parts as rows, and the log of edits. */
export const m001Projects: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table projects (
        id uuid primary key,
        name text not null,
        version integer not null,
        body json not null,
        created_at timestamptz not null default now(),
        updated_at timestamptz not null default now()
      )`.execute(db);
    await sql`
      create table assets (
        project_id uuid not null references projects on delete cascade,
        id text not null,
        pos bigint not null,
        body json not null,
        primary key (project_id, id)
      )`.execute(db);
    for (const table of ['placements', 'bindings']) {
      await sql`
        create table ${sql.table(table)} (
          project_id uuid not null,
          asset_id text not null,
          id text not null,
          pos bigint not null,
          body json not null,
          primary key (project_id, asset_id, id),
          foreign key (project_id, asset_id) references assets on delete cascade on update cascade
        )`.execute(db);
    }
    await sql`
      create table edits (
        project_id uuid not null references projects on delete cascade,
        version integer not null,
        kind text not null check (kind in ('edit', 'undo', 'redo')),
        of_version integer,
        state text check (state in ('done', 'undone', 'dropped')),
        label text not null,
        who text not null,
        at timestamptz not null default now(),
        changes json not null,
        inverse json not null,
        key uuid,
        primary key (project_id, version),
        unique (project_id, key)
      )`.execute(db);
    await sql`create index edits_by_state on edits (project_id, state, version)`.execute(db);
  },
};
