import { sql, type Kysely, type Migration } from 'kysely';

/**
 * People, what they may do, and what was done about that. Passwords are kept as their scrypt hashes, everything that is shown
 * once (sessions, invitations, tokens) as the SHA-256 of it. The security log is added to and never changed; what is
 * older than a year may be removed.
 */
export const m013Team: Migration = {
  async up(db: Kysely<unknown>) {
    for (const statement of TABLES) await sql.raw(statement).execute(db);
  },
};

const TABLES = [
  `create table accounts (
    id uuid primary key,
    login text not null unique,
    name text not null,
    password text,
    is_administrator boolean not null default false,
    ended_at timestamptz,
    created_at timestamptz not null default now()
  )`,
  // Names sign waivers and builds, so no two that may still sign are the same.
  'create unique index accounts_name on accounts (lower(name)) where ended_at is null',
  `create table sessions (
    id uuid primary key,
    hash text not null unique,
    account_id uuid not null references accounts on delete cascade,
    agent text not null,
    created_at timestamptz not null default now(),
    seen_at timestamptz not null default now(),
    until timestamptz not null
  )`,
  'create index on sessions (account_id)',
  `create table members (
    project_id uuid not null references projects on delete cascade,
    account_id uuid not null references accounts on delete cascade,
    role text not null check (role in ('reader', 'designer', 'lead')),
    primary key (project_id, account_id)
  )`,
  'create index on members (account_id)',
  `create table invitations (
    id uuid primary key,
    hash text not null unique,
    is_administrator boolean not null default false,
    project_id uuid references projects on delete cascade,
    role text check (role in ('reader', 'designer', 'lead')),
    account_id uuid references accounts on delete cascade,
    note text not null,
    made_by text not null,
    made_at timestamptz not null default now(),
    until timestamptz not null
  )`,
  `create table tokens (
    id uuid primary key,
    hash text not null unique,
    project_id uuid not null references projects on delete cascade,
    name text not null,
    scopes text[] not null,
    made_by text not null,
    made_at timestamptz not null default now(),
    until timestamptz not null,
    used_at timestamptz
  )`,
  'create index on tokens (project_id)',
  // How often somebody has tried in vain to sign in: by account, and by address.
  `create table sign_in_tries (
    key text primary key,
    failures integer not null,
    at timestamptz not null default now()
  )`,
  `create table security_log (
    id bigint generated always as identity primary key,
    at timestamptz not null default now(),
    what text not null,
    who text not null,
    from_address text not null,
    project_id uuid,
    detail text not null
  )`,
  'create index on security_log (at)',
  `create function oquel_log_stays() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' and old.at < now() - interval '1 year' then return old; end if;
      raise integrity_constraint_violation using message = 'the security log is never changed';
    end $$`,
  `create trigger log_stays before update or delete on security_log
    for each row execute function oquel_log_stays()`,
  `create trigger log_stays_whole before truncate on security_log
    for each statement execute function oquel_log_stays()`,
];
