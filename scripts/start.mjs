import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { Application } from './lib/application.mjs';
import { build } from './lib/build.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { ROOT } from './lib/root.mjs';
import { sleep } from './lib/run.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';
import { endOrphans, forget } from './lib/server.mjs';

/** Port on which the application is served; PORT overrides it. */
const PORT = Number(process.env.PORT ?? 4780);
const DATA = process.env.OQUEL_DATA ?? join(ROOT, '.data');

await runScript(async () => {
  const start = performance.now();
  if (!Number.isInteger(PORT) || PORT < 1 || PORT > 65535) {
    throw new Trouble(
      `PORT is "${process.env.PORT}".`,
      'Set it to a number from 1 to 65535, or leave it away.',
    );
  }
  mkdirSync(DATA, { recursive: true });
  const others = await endOrphans(DATA);
  await requirePort();
  await installNpmPackages();
  await build();
  const db = await startPostgres(join(DATA, 'postgres'));
  if (!db.wasRunning) say(`PostgreSQL started in ${db.data}.`);
  else if (others) say('PostgreSQL was running already.');
  else {
    say('PostgreSQL was left running by an earlier start; it is taken over.');
    db.wasRunning = false;
  }
  const app = new Application(db, { data: DATA, port: PORT, start });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void app.stop());
  try {
    await app.run();
  } finally {
    forget(DATA, PORT);
    if (!db.wasRunning) await db.stop();
    while (!db.wasRunning && db.runningPort() !== null) await sleep(50);
  }
  say('Stopped.');
  return 0;
});

/** Fails early, before anything is started, when the port cannot be had. */
async function requirePort() {
  const { createServer } = await import('node:net');
  await new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', (error) => {
      const taken = error.code === 'EADDRINUSE';
      reject(
        new Trouble(
          taken
            ? `Port ${PORT} is taken by another program.`
            : `Port ${PORT} cannot be used: ${error.message}.`,
          taken
            ? `If it is Oquel, open http://127.0.0.1:${PORT}; otherwise choose another port: PORT=${PORT + 1} npm start`
            : `Choose another port: PORT=4780 npm start`,
        ),
      );
    });
    probe.listen(PORT, '127.0.0.1', () => probe.close(resolve));
  });
}
