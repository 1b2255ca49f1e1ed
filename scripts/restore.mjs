import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { DUMP, inventory, LIST } from './lib/backup.mjs';
import { build } from './lib/build.mjs';
import { withDatabase } from './lib/database-address.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { newestPrograms } from './lib/postgres-programs.mjs';
import { capture } from './lib/run.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

/**
 * Puts a backup into a database that has nothing in it yet, and checks that it has every project, edit and build, and that each
 * project audits as it did. What is in use is never written over.
 */
await runScript(async () => {
  const [name] = process.argv.slice(2);
  const folder = resolve(name ?? '');
  if (name === undefined || !existsSync(join(folder, DUMP))) {
    throw new Trouble('Usage: npm run restore -- FOLDER', 'Name a folder that npm run backup has written.');
  }
  await installNpmPackages();
  await build();
  return withDatabase(async (url) => {
    await requireEmpty(url);
    const args = [
      '--no-owner',
      '--exit-on-error',
      '--single-transaction',
      `--dbname=${url}`,
      join(folder, DUMP),
    ];
    const { code, output } = await capture(join(newestPrograms() ?? '', 'pg_restore'), args, {
      env: process.env,
    });
    if (code !== 0)
      throw new Trouble(`pg_restore failed: ${output.trim()}`, 'Nothing was restored; see its message.');
    const before = JSON.parse(readFileSync(join(folder, LIST), 'utf8'));
    const after = await inventory(url);
    const faults = before.projects.filter(
      (p) => JSON.stringify(p) !== JSON.stringify(after.projects.find((q) => q.id === p.id)),
    );
    for (const { name: which } of faults) say(`"${which}" is not as it was.`);
    if (faults.length > 0 || before.edits !== after.edits || before.builds !== after.builds) return 1;
    say(
      `${after.projects.length} projects, ${after.edits} edits and ${after.builds} builds are restored; all audit as they did.`,
    );
    return 0;
  });
});

async function requireEmpty(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query("select 1 from pg_tables where schemaname = 'public' limit 1");
    if (rows.length === 0) return;
    throw new Trouble(
      'The database is not empty.',
      'Make a new one (createdb), set MIGRATION_URL to it, and try again; then let the server use that.',
    );
  } finally {
    await client.end();
  }
}
