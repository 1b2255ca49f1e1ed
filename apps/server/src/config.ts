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
  /** A team's server: people sign in, and have roles. */
  team: boolean;
  /** Where people open it, such as https://oquel.example; null: where it listens. */
  url: string | null;
  /** Addresses and networks of proxies whose word about a request's origin is taken. */
  proxies: string[];
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
  const host = env.HOST ?? '127.0.0.1';
  return {
    host,
    port,
    databaseUrl: env.DATABASE_URL,
    migrationUrl: env.MIGRATION_URL ?? null,
    web: env.OQUEL_WEB ?? null,
    demo: env.OQUEL_DEMO ?? null,
    allowedHosts: listed(env.OQUEL_HOSTS),
    team: isTrue('OQUEL_TEAM', env.OQUEL_TEAM) || !LOOPBACK.includes(host),
    url: readUrl(env.OQUEL_URL),
    proxies: listed(env.OQUEL_PROXIES),
  };
}
const LOOPBACK = ['127.0.0.1', '::1', 'localhost'];

function listed(text = ''): string[] {
  return text
    .split(',')
    .map((h) => h.trim())
    .filter((h) => h !== '');
}
function isTrue(name: string, text = '0'): boolean {
  if (text === '1') return true;
  if (text === '0' || text === '') return false;
  throw new ConfigError(`${name} must be 0 or 1, not "${text}"`);
}
function readUrl(text = ''): string | null {
  if (text === '') return null;
  const url = URL.canParse(text) ? new URL(text) : null;
  if (url && /^https?:$/.test(url.protocol) && url.pathname === '/' && url.search === '') return url.origin;
  throw new ConfigError(`OQUEL_URL must be an address such as https://oquel.example, not "${text}"`);
}
export const CONFIG = Symbol('config');
