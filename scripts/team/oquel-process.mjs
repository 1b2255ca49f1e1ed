import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { SERVER } from '../lib/bundle-server.mjs';
import { ROOT } from '../lib/root.mjs';
import { sleep } from '../lib/run.mjs';
import { Trouble } from '../lib/say.mjs';

/** One process of a team's server. */
export class OquelProcess {
  said = '';
  process = null;

  constructor(port, { server, owner, url }) {
    this.port = port;
    this.env = {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: server,
      MIGRATION_URL: owner,
      OQUEL_TEAM: '1',
      OQUEL_URL: url,
      OQUEL_PROXIES: '127.0.0.1',
      OQUEL_WEB: join(ROOT, 'apps/web/dist'),
      LOG_LEVEL: 'fatal',
    };
  }
  async start() {
    const child = spawn(process.execPath, [join(ROOT, SERVER)], {
      env: this.env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.process = child;
    child.stdout.on('data', (chunk) => (this.said += chunk));
    for (let i = 0; i < 600; i++) {
      if (child.exitCode !== null) break;
      const ready = await fetch(`http://127.0.0.1:${this.port}/api/health/ready`).catch(() => null);
      if (ready?.ok) return;
      await sleep(50);
    }
    throw new Trouble(`The server on ${this.port} did not start: ${this.said}`, 'See its messages above.');
  }
  /** Its exit code. */
  async stop() {
    const child = this.process;
    if (!child || child.exitCode !== null) return child?.exitCode ?? null;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    return ended;
  }
  async restart() {
    const begun = performance.now();
    const code = await this.stop();
    await this.start();
    return { code, took: performance.now() - begun };
  }
  /** The secret of the link that it has printed. */
  invitation() {
    return /\/join#(\S+)/.exec(this.said)?.[1] ?? '';
  }
}
