import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from './lib/root.mjs';
import { build } from './lib/build.mjs';
import { thirdPartyPage } from './lib/third-party.mjs';
import { runScript, say } from './lib/say.mjs';

/** Writes what is made of the code: docs/rules from the rules' own metadata, docs/problems.md from the types of problem, docs/settings.md from the settings, docs/command-line.md from the commands, docs/third-party.md from the lock, packages/core/api.txt from its declarations, demo/wiring (its folder form) from the demo's document. */
await runScript(async () => {
  await build();
  const { readProjectText, rulesPages, toFolder } = await import(join(ROOT, 'packages/core/dist/index.js'));
  const { project } = readProjectText(readFileSync(join(ROOT, 'demo/storm-over-veyra.json'), 'utf8'));
  rmSync(join(ROOT, 'demo/wiring'), { recursive: true, force: true });
  for (const [name, text] of toFolder(project)) {
    mkdirSync(dirname(join(ROOT, 'demo/wiring', name)), { recursive: true });
    writeFileSync(join(ROOT, 'demo/wiring', name), text);
  }
  const folder = join(ROOT, 'docs/rules');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of rulesPages()) writeFileSync(join(folder, name), text);
  const { problemsPage } = await import(join(ROOT, 'apps/server/dist/http/problems-page.js'));
  writeFileSync(join(ROOT, 'docs/problems.md'), problemsPage());
  const { settingsPage } = await import(join(ROOT, 'apps/server/dist/settings-page.js'));
  writeFileSync(join(ROOT, 'docs/settings.md'), settingsPage());
  const { commandLinePage } = await import(join(ROOT, 'apps/cli/dist/command-line-page.js'));
  writeFileSync(join(ROOT, 'docs/command-line.md'), commandLinePage());
  writeFileSync(join(ROOT, 'docs/third-party.md'), thirdPartyPage());
  // It needs packages that the build has installed.
  const { API_REPORT, apiReport } = await import('./lib/api-report.mjs');
  writeFileSync(API_REPORT, apiReport());
  say(
    'docs/rules, and in docs problems.md, settings.md, command-line.md and third-party.md are written; so is packages/core/api.txt.',
  );
});
