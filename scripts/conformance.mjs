import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from './lib/root.mjs';
import { build } from './lib/build.mjs';
import { runScript, say } from './lib/say.mjs';

const CASES = join(ROOT, 'packages/core/test/rehearsals');
const KIT = join(ROOT, 'docs/conformance/cases');

/** Writes the conformance kit: each case of the core's rehearsals as compiled wiring, steps and the expected trace. */
await runScript(async () => {
  await build();
  const { conformanceCase, readProjectText } = await import(join(ROOT, 'packages/core/dist/index.js'));
  rmSync(KIT, { recursive: true, force: true });
  const names = readdirSync(CASES).filter((name) => name.endsWith('.json'));
  for (const name of names) {
    const { project } = readProjectText(readFileSync(join(CASES, name), 'utf8'));
    for (const [path, text] of conformanceCase(project)) {
      const file = join(KIT, name.replace('.json', ''), path);
      mkdirSync(dirname(file), { recursive: true });
      writeFileSync(file, text);
    }
  }
  say(`docs/conformance/cases is written: ${names.length} cases.`);
});
