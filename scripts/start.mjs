import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { installNpmPackages } from './lib/packages.mjs';
import { build } from './lib/build.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { ROOT } from './lib/root.mjs';
import { sleep } from './lib/run.mjs';
import { runScript, say, since, Trouble } from './lib/say.mjs';

/** Port on which the application is served; PORT overrides it. */
const PORT = Number(process.env.PORT ?? 4780);

await runScript(async () => {
  const start = performance.now();
  if (!Number.isInteger(PORT) || PORT < 1 || PORT > 65535) {
    throw new Trouble(
      `PORT is "${process.env.PORT}".`,
      'Set it to a number from 1 to 65535, or leave it away.',
    );
  }
  await requirePort();
  await installNpmPackages();
  await build();
  const db = await startPostgres(join(process.env.OQUEL_DATA ?? join(ROOT, '.data'), 'postgres'));
  say(db.wasRunning ? 'PostgreSQL was running already.' : `PostgreSQL started in ${db.data}.`);
  let server = null;
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    say('\nStopping ...');
    server?.kill('SIGTERM');
    for (let i = 0; i < 50 && server && server.exitCode === null && server.signalCode === null; i++)
      await sleep(100);
    if (!db.wasRunning) await db.stop();
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
  const url = await db.database('oquel');
  const result = await new Promise((resolve) => {
    server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
      cwd: ROOT,
      // A group of its own: Ctrl+C in the terminal reaches only this script, which stops things in order.
      detached: true,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        PORT: String(PORT),
        DATABASE_URL: url,
        OQUEL_WEB: join(ROOT, 'apps/web/dist'),
        OQUEL_DEMO: join(ROOT, 'demo/storm-over-veyra.json'),
        LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      },
    });
    server.stdout.on('data', (chunk) => {
      const text = String(chunk);
      if (text.includes('oquel-ready')) {
        say(`\nOquel is at http://127.0.0.1:${PORT} (ready after ${since(start)}). Ctrl+C stops it.`);
      } else process.stdout.write(text);
    });
    server.on('exit', (code, signal) => resolve({ code, signal }));
  });
  if (stopping) {
    await stop();
    while (!db.wasRunning && db.runningPort() !== null) await sleep(50);
    say('Stopped.');
    return 0;
  }
  if (!db.wasRunning) await db.stop();
  throw new Trouble(
    `The server ended by itself (${result.signal ?? `exit code ${result.code}`}).`,
    'See its messages above. Running `npm start` again recovers what it had stored.',
  );
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
