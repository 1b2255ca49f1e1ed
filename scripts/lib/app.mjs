import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from './build.mjs';
import { SERVER } from './bundle-server.mjs';
import { chromiumPath } from './chromium.mjs';
import { freePort, startPostgres } from './postgres.mjs';
import { ROOT } from './root.mjs';

/** Builds and runs the server on a database of its own, with settings besides; all ends with `use`. */
export async function withServer(use, settings = {}) {
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'oquel-bench-'));
  const db = await startPostgres(join(folder, 'postgres'));
  const port = await freePort();
  const databaseUrl = await db.database('bench');
  const server = spawn(process.execPath, [join(ROOT, SERVER)], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: databaseUrl,
      OQUEL_WEB: join(ROOT, 'apps/web/dist'),
      OQUEL_DEMO: join(ROOT, 'demo/storm-over-veyra.json'),
      LOG_LEVEL: 'fatal',
      ...settings,
    },
  });
  let printed = '';
  server.stdout.on('data', (chunk) => (printed += chunk));
  await new Promise((resolve) => server.stdout.once('data', resolve));
  try {
    return await use({
      base: `http://127.0.0.1:${port}`,
      databaseUrl,
      pid: server.pid,
      printed: () => printed,
    });
  } finally {
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
    await db.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The same with a browser before it. */
export function withApp(use, settings = {}) {
  return withServer(async (app) => {
    const browser = await chromium.launch({ executablePath: chromiumPath(), args: ['--no-sandbox'] });
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      return await use({ ...app, page });
    } finally {
      await browser.close();
    }
  }, settings);
}
