/** What a setting is: its variable, what holds without it, and what it is for. */
export interface Setting<T> {
  name: string;
  /** As the page on settings says it. */
  usual: string;
  what: string;
  /** @throws ConfigError that names the variable */
  read: (env: NodeJS.ProcessEnv) => T;
}

export class ConfigError extends Error {
  override readonly name = 'ConfigError';
}

const LOOPBACK = ['127.0.0.1', '::1', 'localhost'];
const LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent'];

/** Every setting of the server, all from the environment. `docs/settings.md` is made of it. */
export const SETTINGS = {
  host: text(
    'HOST',
    '127.0.0.1',
    'The address that it listens on. Anything but loopback makes it a team’s server.',
  ),
  port: whole('PORT', 4780, 0, 65_535, 'The port that it listens on.'),
  url: setting(
    'OQUEL_URL',
    'where it listens',
    'The address under which people open it, such as `https://oquel.example`.',
    readUrl,
  ),
  allowedHosts: list(
    'OQUEL_HOSTS',
    'Names besides its own under which it may be addressed, with commas between.',
  ),
  proxies: list(
    'OQUEL_PROXIES',
    'Addresses and networks of proxies whose word is taken on where a request comes from, with commas between.',
  ),
  isTeam: setting('OQUEL_TEAM', '0', '`1` makes it a team’s server on loopback, too.', readYes),
  issuer: optional(
    'OQUEL_OIDC_ISSUER',
    'none',
    'The provider of single sign-on by OpenID Connect, such as `https://id.example`. Whoever it vouches for gets an account, and no role.',
  ),
  issuerClient: optional(
    'OQUEL_OIDC_CLIENT',
    'none',
    'The name by which that provider knows this server. It sends people back to `/api/sso/back`.',
  ),
  issuerSecret: optional('OQUEL_OIDC_SECRET', 'none', 'The secret that goes with it.'),
  issuerName: text('OQUEL_OIDC_NAME', 'single sign-on', 'What the button is called by.'),
  databaseUrl: setting(
    'DATABASE_URL',
    'needed',
    'The PostgreSQL database, as a role that owns nothing.',
    (text, name) => {
      if (text === undefined) throw new ConfigError(`${name} must name a PostgreSQL database`);
      return text;
    },
  ),
  migrationUrl: optional(
    'MIGRATION_URL',
    'as `DATABASE_URL`',
    'The same database as the role that owns the tables.',
  ),
  connections: whole('OQUEL_POOL', 12, 2, 500, 'Connections to the database, at the most.'),
  statement: whole(
    'OQUEL_STATEMENT_MS',
    30_000,
    1000,
    3_600_000,
    'Milliseconds that a statement may take; those of whole documents have ten times as long.',
  ),
  lock: whole(
    'OQUEL_LOCK_MS',
    10_000,
    100,
    3_600_000,
    'Milliseconds that a statement waits for another one.',
  ),
  documentMiB: whole('OQUEL_DOCUMENT_MIB', 256, 1, 1024, 'The largest document that is taken, unpacked.'),
  bodyMiB: whole('OQUEL_BODY_MIB', 16, 1, 256, 'The largest body of any other request, unpacked.'),
  requests: whole('OQUEL_RATE', 5000, 10, 1_000_000, 'Requests that one address may send in ten seconds.'),
  projects: whole('OQUEL_PROJECTS', 2000, 1, 2000, 'Projects that there may be, those in the bin too.'),
  binDays: whole('OQUEL_BIN_DAYS', 30, 1, 3650, 'Days after which a deleted project is gone for good.'),
  stop: whole(
    'OQUEL_STOP_MS',
    10_000,
    0,
    600_000,
    'Milliseconds that requests which are running have when the server is stopped.',
  ),
  metricsPort: whole(
    'OQUEL_METRICS_PORT',
    0,
    0,
    65_535,
    'A port on loopback under which figures for Prometheus are at `/metrics`; 0 for none.',
  ),
  logLevel: setting('LOG_LEVEL', 'info', `What is logged: ${LEVELS.join(', ')}.`, (text = 'info', name) => {
    if (LEVELS.includes(text)) return text;
    throw new ConfigError(`${name} must be one of ${LEVELS.join(', ')}, not "${text}"`);
  }),
  web: optional(
    'OQUEL_WEB',
    'none',
    'The folder of the built web application; without it there is the API alone.',
  ),
  demo: optional('OQUEL_DEMO', 'none', 'A document that is loaded where there is no project yet.'),
} satisfies Record<string, Setting<unknown>>;

type Settings = { [K in keyof typeof SETTINGS]: ReturnType<(typeof SETTINGS)[K]['read']> };

/** All settings. @throws ConfigError that names the first that is wrong */
export function readSettings(env: NodeJS.ProcessEnv): Settings {
  return Object.fromEntries(Object.entries(SETTINGS).map(([key, s]) => [key, s.read(env)])) as Settings;
}
export function isLoopback(host: string): boolean {
  return LOOPBACK.includes(host);
}

function setting<T>(
  name: string,
  usual: string,
  what: string,
  read: (text: string | undefined, name: string) => T,
): Setting<T> {
  // An empty variable is none.
  return { name, usual, what, read: (env) => read(env[name] === '' ? undefined : env[name], name) };
}
function text(name: string, usual: string, what: string): Setting<string> {
  return setting(name, usual, what, (given = usual) => given);
}
function optional(name: string, usual: string, what: string): Setting<string | null> {
  return setting(name, usual, what, (given = null as never) => given as string | null);
}
function whole(name: string, usual: number, least: number, most: number, what: string): Setting<number> {
  return setting(name, String(usual), what, (given) => {
    const n = given === undefined ? usual : Number(given);
    if (Number.isInteger(n) && n >= least && n <= most) return n;
    throw new ConfigError(`${name} must be a number from ${least} to ${most}, not "${given}"`);
  });
}
function list(name: string, what: string): Setting<string[]> {
  return setting(name, 'none', what, (given = '') =>
    given
      .split(',')
      .map((h) => h.trim())
      .filter((h) => h !== ''),
  );
}
function readYes(given = '0', name: string): boolean {
  if (given === '0' || given === '1') return given === '1';
  throw new ConfigError(`${name} must be 0 or 1, not "${given}"`);
}
function readUrl(given: string | undefined, name: string): string | null {
  if (given === undefined) return null;
  const url = URL.canParse(given) ? new URL(given) : null;
  if (url && /^https?:$/.test(url.protocol) && url.pathname === '/' && url.search === '') return url.origin;
  throw new ConfigError(`${name} must be an address such as https://oquel.example, not "${given}"`);
}
