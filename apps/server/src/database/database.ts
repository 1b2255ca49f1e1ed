import { Kysely, Migrator, PostgresDialect, type Transaction } from 'kysely';
import pg from 'pg';
import { LIMITS } from '../limits.js';
import { MIGRATIONS } from './migrations/index.js';
import { NewerData } from './newer-data.js';
import type { Tables } from './schema.js';

export type Tx = Transaction<Tables>;
export type Reader = Kysely<Tables> | Tx;

const JSON_OID: number = pg.types.builtins.JSON;

export interface DatabaseOptions {
  connections: number;
  /** Milliseconds that a statement may take. */
  statement: number;
}

/** The connection pool, with Kysely over it. */
export class Database {
  readonly pool: pg.Pool;
  readonly k: Kysely<Tables>;

  constructor(
    url: string,
    onError: (error: Error) => void,
    { connections, statement }: DatabaseOptions = LIMITS.database,
  ) {
    this.pool = new pg.Pool({
      connectionString: url,
      max: connections,
      connectionTimeoutMillis: LIMITS.database.connect,
      statement_timeout: statement,
      lock_timeout: LIMITS.database.lock,
      idle_in_transaction_session_timeout: statement,
      keepAlive: true,
      types: {
        // Bodies stay text until the one place that parses them.
        getTypeParser: (oid: number, format) =>
          oid === JSON_OID
            ? (text: string) => text
            : (pg.types.getTypeParser(oid, format) as (v: string) => string),
      },
    });
    // Without a listener a connection that is lost ends the process: the pool listens only to those that are idle.
    this.pool.on('error', onError);
    this.pool.on('connect', (client) => client.on('error', onError));
    this.k = new Kysely<Tables>({ dialect: new PostgresDialect({ pool: this.pool }) });
  }

  /**
   * Brings the tables up to date. Safe when several servers begin at once: one migrates, the others wait.
   * @throws NewerData
   */
  async migrate(): Promise<void> {
    const done = await this.pool
      .query<{ name: string }>('select name from kysely_migration')
      .catch(() => ({ rows: [] }));
    const unknown = done.rows.map((r) => r.name).filter((name) => !Object.hasOwn(MIGRATIONS, name));
    if (unknown.length > 0) throw new NewerData(unknown);
    const migrator = new Migrator({
      db: this.k,
      provider: { getMigrations: () => Promise.resolve(MIGRATIONS) },
    });
    const { error } = await migrator.migrateToLatest();
    if (error) throw error instanceof Error ? error : new Error(JSON.stringify(error));
  }

  async ping(): Promise<void> {
    await this.pool.query('select 1');
  }
  async close(): Promise<void> {
    await this.k.destroy();
  }
}
