import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/root.mjs';
import { build } from './lib/build.mjs';
import { runScript, say } from './lib/say.mjs';

/** Writes docs/rules from the rules' own metadata. */
await runScript(async () => {
  await build();
  const { rulesPages } = await import(join(ROOT, 'packages/core/dist/index.js'));
  const folder = join(ROOT, 'docs/rules');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of rulesPages()) writeFileSync(join(folder, name), text);
  say('docs/rules is written.');
});
