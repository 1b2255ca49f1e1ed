import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from '../scripts/lib/build.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';
import { generate } from './lib/generator.mjs';

const SIZES = [10_000, 100_000, 1_000_000];

/** Reading, expansion, graph and all rules at three sizes, beside two yardsticks; each size in processes of its own. */
export default async function bench(args) {
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'oquel-bench-'));
  try {
    for (const size of args.length > 0 ? args.map(Number) : SIZES) {
      const file = join(folder, `${size}.json`);
      writeFileSync(file, JSON.stringify(generate(size)));
      for (const program of ['audit-once', 'audit-memory']) {
        const command = ['--expose-gc', join(ROOT, `bench/lib/${program}.mjs`), file];
        const options = { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] };
        say(execFileSync(process.execPath, command, options).trimEnd());
      }
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return 0;
}
