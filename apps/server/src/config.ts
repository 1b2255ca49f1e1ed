import { ConfigError, isLoopback, readSettings } from './settings.js';

export { ConfigError };

/** What the server is started with: its settings, and what follows from them. */
export type Config = ReturnType<typeof readSettings> & {
  /** A team's server: people sign in, and have roles. */
  team: boolean;
};

/** @throws ConfigError that names the variable */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const settings = readSettings(env);
  if (settings.issuer !== null && (settings.issuerClient === null || !URL.canParse(settings.issuer))) {
    throw new ConfigError('OQUEL_OIDC_ISSUER must be an address, and OQUEL_OIDC_CLIENT must be set with it');
  }
  return { ...settings, team: settings.isTeam || !isLoopback(settings.host) };
}
export const CONFIG = Symbol('config');
