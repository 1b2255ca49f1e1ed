import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from '../../scripts/lib/build.mjs';
import { freePort, startPostgres } from '../../scripts/lib/postgres.mjs';
import { ROOT } from '../../scripts/lib/root.mjs';

/** Builds and runs the application on a database of its own, with a browser before it; all ends with `use`. */
export async function withApp(use) {
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'oquel-bench-'));
  const db = await startPostgres(join(folder, 'postgres'));
  const port = await freePort();
  const server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: await db.database('bench'),
      OQUEL_WEB: join(ROOT, 'apps/web/dist'),
      OQUEL_DEMO: join(ROOT, 'demo/storm-over-veyra.json'),
      LOG_LEVEL: 'fatal',
    },
  });
  await new Promise((resolve) => server.stdout.once('data', resolve));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    return await use({ base: `http://127.0.0.1:${port}`, page });
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
    await db.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}
