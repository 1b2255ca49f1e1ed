import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../scripts/lib/postgres.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { capture } from '../scripts/lib/run.mjs';
import { say } from '../scripts/lib/say.mjs';

/** Seconds from `npm start` to the printed address: in a fresh clone with nothing there, then again, then once more. */
export default async function start() {
  const folder = mkdtempSync(join(tmpdir(), 'oquel-start-'));
  // As root the database belongs to an unprivileged user, who must be able to reach it here.
  chmodSync(folder, 0o755);
  try {
    await capture('git', ['clone', '--quiet', ROOT, join(folder, 'oquel')]);
    for (const name of ['cold (install, build, database, demo)', 'warm', 'warm again']) {
      say(`${name}: ${(await once(join(folder, 'oquel'))).toFixed(1)} s`);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return 0;
}

async function once(cwd) {
  const env = { ...process.env, PORT: String(await freePort()) };
  const begun = performance.now();
  const child = spawn('npm', ['start'], { cwd, env, detached: true, stdio: ['ignore', 'pipe', 'inherit'] });
  let seconds = NaN;
  child.stdout.on('data', (chunk) => {
    if (!String(chunk).includes('Oquel is at')) return;
    seconds = (performance.now() - begun) / 1000;
    process.kill(-child.pid, 'SIGINT');
  });
  await new Promise((resolve) => child.on('close', resolve));
  return seconds;
}
