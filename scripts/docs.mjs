import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/root.mjs';
import { build } from './lib/build.mjs';
import { runScript, say } from './lib/say.mjs';

/** Writes docs/rules.md from the rules' own metadata. */
await runScript(async () => {
  await build();
  const { rulesPage } = await import(join(ROOT, 'packages/core/dist/index.js'));
  writeFileSync(join(ROOT, 'docs/rules.md'), rulesPage());
  say('docs/rules.md is written.');
});
