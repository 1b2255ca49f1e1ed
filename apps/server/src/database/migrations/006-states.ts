import { sql, type Kysely, type Migration } from 'kysely';

/** Projects are archived, and deleted for some time before they are really gone; the list tells the gate of each. */
export const m006States: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table projects
        add column state text not null default 'open' check (state in ('open', 'archived', 'deleted')),
        add column state_at timestamptz not null default now(),
        add column gate json`.execute(db);
    await sql`create index projects_by_state on projects (state, state_at)`.execute(db);
  },
};
