import { sql, type Kysely, type Migration } from 'kysely';

/** By whom an account is vouched for elsewhere: the issuer and its name for the person, with a blank between. */
export const m014SingleSignOn: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table accounts add column subject text unique`.execute(db);
  },
};
