import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * The roles of a database: `oquel_owner` owns it and its tables and migrates them; `oquel_server` serves, owns nothing and
 * is no superuser. Done again it changes nothing. `query` runs SQL as the superuser in a database and answers with text.
 */
export async function setUpRoles(dir, name, query) {
  const owner = secret(dir, 'owner');
  const server = secret(dir, 'server');
  await query('postgres', roleSql('oquel_owner', owner));
  await query('postgres', roleSql('oquel_server', server));
  await query(
    'postgres',
    `alter database ${name} owner to oquel_owner; revoke all on database ${name} from public`,
  );
  await query('postgres', `grant connect, temporary on database ${name} to oquel_server`);
  await query(name, GRANTS);
  return { owner, server };
}
function roleSql(role, password) {
  return `
    do $$ begin
      if not exists (select from pg_roles where rolname = '${role}') then create role ${role}; end if;
    end $$;
    alter role ${role} login nosuperuser nocreatedb nocreaterole noreplication nobypassrls password '${password}'`;
}
/** What already exists goes to the owner: it was made by the superuser before there were roles. */
const GRANTS = `
  do $$ declare t record; begin
    for t in select c.oid::regclass as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname = 'public' and c.relkind in ('r', 'S', 'v') and pg_get_userbyid(c.relowner) <> 'oquel_owner'
      and not exists (select from pg_depend d where d.objid = c.oid and d.deptype = 'a')
    loop execute format('alter table %s owner to oquel_owner', t.name); end loop;
    for t in select p.oid::regprocedure as name from pg_proc p join pg_namespace n on n.oid = p.pronamespace
      where n.nspname = 'public' and pg_get_userbyid(p.proowner) <> 'oquel_owner'
    loop execute format('alter function %s owner to oquel_owner', t.name); end loop;
  end $$;
  alter schema public owner to oquel_owner;
  revoke create on schema public from public;
  grant usage on schema public to oquel_server;
  grant select, insert, update, delete on all tables in schema public to oquel_server;
  alter default privileges for role oquel_owner in schema public
    grant select, insert, update, delete on tables to oquel_server;`;

function secret(dir, role) {
  const file = join(dir, `password-${role}`);
  if (!existsSync(file)) writeFileSync(file, randomBytes(18).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}
