import { join } from 'node:path';
import { Restarts } from './keep-running.mjs';
import { ROOT } from './root.mjs';
import { sleep } from './run.mjs';
import { say, since, Trouble } from './say.mjs';
import { startServer } from './server.mjs';

const LOOK_MS = 1000;

/** The server and its database; either is started again when it ends by itself. */
export class Application {
  /** `start`: when all began, as `performance.now()` has it. */
  constructor(db, { data, port, start }) {
    this.db = db;
    this.data = data;
    this.port = port;
    this.start = start;
    this.server = null;
    this.stopping = false;
  }

  async run() {
    const restarts = { server: new Restarts('The server'), database: new Restarts('PostgreSQL') };
    const { owner, server } = await this.db.served('oquel');
    const env = {
      PORT: String(this.port),
      DATABASE_URL: server,
      MIGRATION_URL: owner,
      OQUEL_WEB: join(ROOT, 'apps/web/dist'),
      OQUEL_DEMO: join(ROOT, 'demo/storm-over-veyra.json'),
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
    };
    const watching = this.watchDatabase(restarts.database);
    let failure = null;
    watching.catch((error) => {
      failure = error;
      void this.stop();
    });
    while (!this.stopping) {
      this.server = await startServer(this.data, this.port, env, (text) => this.said(text));
      const { code, signal } = await ended(this.server);
      if (this.stopping) break;
      const why = signal ?? `exit code ${code}`;
      if (await restarts.server.next(why)) continue;
      this.stopping = true;
      failure = new Trouble(
        `The server ended by itself again and again (${why}).`,
        'See its messages above. Running `npm start` again recovers what it had stored.',
      );
    }
    await watching.catch(() => undefined);
    if (failure) throw failure;
  }
  async stop() {
    if (this.stopping) return;
    this.stopping = true;
    say('\nStopping ...');
    this.server?.kill('SIGTERM');
    const { server } = this;
    for (let i = 0; i < 100 && server && server.exitCode === null && server.signalCode === null; i++)
      await sleep(100);
    if (server && server.exitCode === null && server.signalCode === null) server.kill('SIGKILL');
  }

  async watchDatabase(restarts) {
    for (;;) {
      await sleep(LOOK_MS);
      if (this.stopping) return;
      if (this.db.runningPort() !== null) continue;
      if (!(await restarts.next('see its log'))) {
        throw new Trouble(
          'PostgreSQL ended by itself again and again.',
          `See the logs in ${this.db.data}/log.`,
        );
      }
      if (!this.stopping) await this.db.startAgain().catch((error) => say(error.message));
    }
  }
  said(text) {
    if (!text.includes('oquel-ready')) return process.stdout.write(text);
    const again = this.ready ? 'again ' : '';
    this.ready = true;
    const at = /oquel-ready (\S+)/.exec(text)?.[1] ?? `http://127.0.0.1:${this.port}`;
    say(`\nOquel is ${again}at ${at} (ready after ${since(this.start)}). Ctrl+C stops it.`);
    // What else it had to say, such as the link of a team's first administrator.
    process.stdout.write(text.replace(/.*oquel-ready.*\n?/, ''));
  }
}
function ended(server) {
  return new Promise((resolve) => server.on('exit', (code, signal) => resolve({ code, signal })));
}
