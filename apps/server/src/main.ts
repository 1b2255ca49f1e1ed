import 'reflect-metadata';
import { BuildsService } from './builds/builds.service.js';
import { ConfigError, readConfig, type Config } from './config.js';
import { createApp } from './create-app.js';
import { Database } from './database/database.js';
import { LIMITS } from './limits.js';
import { loadDemo } from './demo.js';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  delete process.env.MIGRATION_URL;
  const app = await createApp(config);
  const db = app.get(Database);
  await migrate(config);
  if (config.demo !== null) await loadDemo(db, app.get(BuildsService), config.demo);
  await app.listen(config.port, config.host);
  // Whoever started the server waits for this line.
  process.stdout.write(`oquel-ready ${await app.getUrl()}\n`);
}

/** Brings the tables up to date, as their owner. */
async function migrate({ migrationUrl, databaseUrl }: Config): Promise<void> {
  const owner = new Database(migrationUrl ?? databaseUrl, () => undefined, {
    connections: 2,
    statement: LIMITS.database.heavyStatement,
  });
  try {
    await owner.migrate();
  } finally {
    await owner.close();
  }
}

main().catch((error: unknown) => {
  const text =
    error instanceof ConfigError ? error.message : error instanceof Error ? error.stack : String(error);
  process.stderr.write(`The server could not start: ${text}\n`);
  process.exit(1);
});
