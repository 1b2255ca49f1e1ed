import 'reflect-metadata';
import { BuildsService } from './builds/builds.service.js';
import { ConfigError, readConfig } from './config.js';
import { createApp } from './create-app.js';
import { Database } from './database/database.js';
import { loadDemo } from './demo.js';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const app = await createApp(config);
  const db = app.get(Database);
  await db.migrate();
  if (config.demo !== null) await loadDemo(db, app.get(BuildsService), config.demo);
  await app.listen(config.port, config.host);
  // Whoever started the server waits for this line.
  process.stdout.write(`oquel-ready ${await app.getUrl()}\n`);
}

main().catch((error: unknown) => {
  const text =
    error instanceof ConfigError ? error.message : error instanceof Error ? error.stack : String(error);
  process.stderr.write(`The server could not start: ${text}\n`);
  process.exit(1);
});
