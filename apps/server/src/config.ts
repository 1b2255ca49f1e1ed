import { isLoopback, readSettings } from './settings.js';

export { ConfigError } from './settings.js';

/** What the server is started with: its settings, and what follows from them. */
export type Config = ReturnType<typeof readSettings> & {
  /** A team's server: people sign in, and have roles. */
  team: boolean;
};

/** @throws ConfigError that names the variable */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const settings = readSettings(env);
  return { ...settings, team: settings.isTeam || !isLoopback(settings.host) };
}
export const CONFIG = Symbol('config');
