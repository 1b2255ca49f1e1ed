import { sql, type Kysely, type Migration } from 'kysely';

/** Frozen builds with what was audited then, and what people said of them. */
export const m002Builds: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table builds (
        id uuid primary key,
        project_id uuid not null references projects on delete cascade,
        name text not null,
        note text not null,
        who text not null,
        at timestamptz not null default now(),
        version integer,
        gate text not null check (gate in ('pass', 'stop')),
        figures json not null,
        waived json not null,
        document json not null,
        audit json not null,
        unique (project_id, name)
      )`.execute(db);
    await sql`
      create table build_verdicts (
        build_id uuid not null references builds on delete cascade,
        n integer not null,
        verdict text not null check (verdict in ('through', 'back')),
        who text not null,
        at timestamptz not null default now(),
        reason text not null,
        primary key (build_id, n)
      )`.execute(db);
    await sql`create index builds_by_project on builds (project_id, at)`.execute(db);
  },
};
