import 'reflect-metadata';
import { BuildsService } from './builds/builds.service.js';
import { ConfigError, readConfig, type Config } from './config.js';
import { createApp } from './create-app.js';
import { Database } from './database/database.js';
import { NewerData } from './database/newer-data.js';
import { LIMITS } from './limits.js';
import { loadDemo } from './demo.js';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { Closing } from './http/closing.js';
import { Metrics } from './metrics.js';
import { People } from './team/people.js';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  delete process.env.MIGRATION_URL;
  const app = await createApp(config);
  const db = app.get(Database);
  await migrate(config);
  if (config.demo !== null) await loadDemo(db, app.get(BuildsService), config.demo);
  await app.listen(config.port, config.host);
  // Whoever started the server waits for this line.
  const url = config.url ?? (await app.getUrl());
  process.stdout.write(`oquel-ready ${url}\n`);
  if (config.metricsPort > 0) await app.get(Metrics).serve(config.metricsPort);
  for (const signal of ['SIGTERM', 'SIGINT'] as const) {
    process.once(signal, () => void stop(app, config.stop));
  }
  if (config.team) await inviteFirst(app.get(People), url);
}

/** What is running comes to its end, within a limit; then nothing is left open, and the process ends well. */
async function stop(app: NestExpressApplication, most: number): Promise<void> {
  await app.get(Closing).begin(most);
  await app.close();
  await app.get(Database).close();
  process.exit(0);
}

/** On a team's server that has no administrator yet, whoever started it becomes one. */
async function inviteFirst(people: People, url: string): Promise<void> {
  const secret = await people.firstInvitation();
  if (secret === null) return;
  process.stdout.write(
    `\nOpen this link to become the administrator; it holds for a day:\n${url}/join#${secret}\n`,
  );
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
    error instanceof ConfigError || error instanceof NewerData
      ? error.message
      : error instanceof Error
        ? error.stack
        : String(error);
  process.stderr.write(`The server could not start: ${text}\n`);
  process.exit(1);
});
