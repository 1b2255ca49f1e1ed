import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from '../scripts/lib/build.mjs';
import { ROOT } from '../scripts/lib/root.mjs';
import { say } from '../scripts/lib/say.mjs';
import { generate } from './lib/generator.mjs';

const SIZE = 1_000_000;

/** Compiling beside auditing, and loading what was compiled beside `JSON.parse`: a process of its own. */
export default async function bench([size = SIZE]) {
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'oquel-bench-'));
  try {
    const file = join(folder, 'project.json');
    writeFileSync(file, JSON.stringify(generate(Number(size))));
    const command = [
      '--expose-gc',
      '--max-old-space-size=8192',
      join(ROOT, 'bench/lib/compile-once.mjs'),
      file,
    ];
    say(execFileSync(process.execPath, command, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] }));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return 0;
}
