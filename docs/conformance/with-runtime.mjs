/** Runs @oquel/runtime on a case of the conformance kit: `node with-runtime.mjs WIRING STEPS`. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { canonicalJson } from '../../packages/runtime/dist/index.js';
import { rehearse } from '../../packages/runtime/dist/rehearsals.js';

const [folder, steps] = process.argv.slice(2);
const read = (path) => JSON.parse(readFileSync(path, 'utf8'));
const wiring = read(join(folder, 'wiring.json'));
const scenes = wiring.scenes.map(({ file }) => read(join(folder, file)));
const lines = [];
for (const rehearsal of read(steps)) {
  rehearse(wiring, scenes, rehearsal, (line) => lines.push(`${canonicalJson(line)}\n`));
}
process.stdout.write(lines.join(''));
