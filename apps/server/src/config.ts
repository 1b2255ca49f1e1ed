/** Settings of the server, all from the environment. */
export interface Config {
  /** Loopback unless told otherwise. */
  host: string;
  port: number;
  /** As a role that owns nothing. */
  databaseUrl: string;
  /** As the role that owns the tables, for migrations; null: as the server itself. */
  migrationUrl: string | null;
  /** Folder of the built web application; null serves the API alone. */
  web: string | null;
  /** Document loaded when there is no project yet; null for none. */
  demo: string | null;
  /** Names under which the server may be addressed, besides those of loopback. */
  allowedHosts: string[];
}

export class ConfigError extends Error {
  override readonly name = 'ConfigError';
}

/** @throws ConfigError that names the variable */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = Number(env.PORT ?? 4780);
  if (!Number.isInteger(port) || port < 0 || port > 65535) {
    throw new ConfigError(`PORT must be a number from 0 to 65535, not "${env.PORT}"`);
  }
  if (!env.DATABASE_URL) throw new ConfigError('DATABASE_URL must name a PostgreSQL database');
  return {
    host: env.HOST ?? '127.0.0.1',
    port,
    databaseUrl: env.DATABASE_URL,
    migrationUrl: env.MIGRATION_URL ?? null,
    web: env.OQUEL_WEB ?? null,
    demo: env.OQUEL_DEMO ?? null,
    allowedHosts: (env.OQUEL_HOSTS ?? '')
      .split(',')
      .map((h) => h.trim())
      .filter((h) => h !== ''),
  };
}
export const CONFIG = Symbol('config');
