import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { DUMP, inventory, LIST } from './lib/backup.mjs';
import { build } from './lib/build.mjs';
import { withDatabase } from './lib/database-address.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { newestPrograms } from './lib/postgres-programs.mjs';
import { capture } from './lib/run.mjs';
import { runScript, say, Trouble } from './lib/say.mjs';

/**
 * Writes everything that a server has into a new folder: the database by pg_dump, and a list of its projects with what their audits
 * find, by which a restore is checked. Both are of one moment, whoever works meanwhile.
 */
await runScript(async () => {
  const [name] = process.argv.slice(2);
  if (name === undefined)
    throw new Trouble('Usage: npm run backup -- FOLDER', 'Name a folder that is not there yet.');
  const folder = resolve(name);
  if (existsSync(folder)) throw new Trouble(`${folder} is there already.`, 'Name another folder.');
  await installNpmPackages();
  await build();
  await withDatabase(async (url) => {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const list = await inventory(url, async (snapshot) => {
      const file = join(folder, DUMP);
      const args = ['--format=custom', `--snapshot=${snapshot}`, '--no-owner', `--file=${file}`, url];
      const { code, output } = await capture(join(newestPrograms() ?? '', 'pg_dump'), args, {
        env: process.env,
      });
      if (code !== 0) throw new Trouble(`pg_dump failed: ${output.trim()}`, 'See its message.');
    });
    writeFileSync(join(folder, LIST), `${JSON.stringify(list, null, 2)}\n`);
    say(`${list.projects.length} projects, ${list.edits} edits and ${list.builds} builds are in ${folder}.`);
  });
  return 0;
});
