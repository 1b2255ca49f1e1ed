import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Placements and bindings belong to an asset that is there. A foreign key looks that up for each row, which takes longer than
 * to write the row; here it is looked up once for each asset of a statement, under the same locks: an asset whose items are
 * written cannot go before they are there, and takes them with it then.
 */
export const m010ItemAssets: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create function oquel_items_have_assets() returns trigger language plpgsql set search_path = public, pg_temp as $$
      declare
        missing text;
      begin
        with wanted as materialized (select distinct project_id, asset_id from fresh),
        held as materialized (
          select a.project_id, a.id from assets a
          join wanted w on w.project_id = a.project_id and w.asset_id = a.id
          for key share of a
        )
        select w.asset_id into missing from wanted w
        where not exists (select from held h where h.project_id = w.project_id and h.id = w.asset_id) limit 1;
        if found then
          raise foreign_key_violation using message = format('%s has rows of an asset "%s" that is not there', tg_table_name, missing);
        end if;
        return null;
      end $$`.execute(db);
    await sql`
      create function oquel_asset_takes_items() returns trigger language plpgsql set search_path = public, pg_temp as $$
      begin
        delete from placements t using gone g where t.project_id = g.project_id and t.asset_id = g.id;
        delete from bindings t using gone g where t.project_id = g.project_id and t.asset_id = g.id;
        return null;
      end $$`.execute(db);
    await sql`
      create function oquel_key_stays() returns trigger language plpgsql as $$
      begin
        raise integrity_constraint_violation using message = format('the key of a row of %s never changes', tg_table_name);
      end $$`.execute(db);
    await sql`
      create trigger takes_items after delete on assets referencing old table as gone
        for each statement execute function oquel_asset_takes_items()`.execute(db);
    await sql`
      create trigger key_stays before update of project_id, id on assets
        for each row execute function oquel_key_stays()`.execute(db);
    for (const table of ['placements', 'bindings']) {
      const name = sql.table(table);
      await sql`alter table ${name} drop constraint ${sql.ref(`${table}_project_id_asset_id_fkey`)}`.execute(
        db,
      );
      await sql`
        create trigger have_assets after insert on ${name} referencing new table as fresh
          for each statement execute function oquel_items_have_assets()`.execute(db);
      await sql`
        create trigger key_stays before update of project_id, asset_id, id on ${name}
          for each row execute function oquel_key_stays()`.execute(db);
    }
  },
};
