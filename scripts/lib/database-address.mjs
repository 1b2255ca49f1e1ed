import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { startPostgres } from './postgres.mjs';
import { ROOT } from './root.mjs';
import { sleep } from './run.mjs';
import { Trouble } from './say.mjs';

const DATA = process.env.OQUEL_DATA ?? join(ROOT, '.data');

/**
 * Gives the address of the server's database, as the role that owns its tables: MIGRATION_URL or DATABASE_URL where one is set, else
 * that of `npm start`, whose PostgreSQL is started for as long if it does not run.
 */
export async function withDatabase(use) {
  const given = process.env.MIGRATION_URL ?? process.env.DATABASE_URL;
  if (given) return use(given);
  const folder = join(DATA, 'postgres');
  if (!existsSync(folder)) {
    throw new Trouble(`There are no data in ${DATA}.`, 'Set MIGRATION_URL to the database that is meant.');
  }
  const db = await startPostgres(folder);
  try {
    return await use(db.url('oquel'));
  } finally {
    if (!db.wasRunning) {
      await db.stop();
      while (db.runningPort() !== null) await sleep(50);
    }
  }
}
