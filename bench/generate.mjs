import { writeFileSync } from 'node:fs';
import { say, Trouble } from '../scripts/lib/say.mjs';
import { generate } from './lib/generator.mjs';

/** Writes a large project: `npm run bench -- generate SIZE FILE [SEED]`. */
export default function bench([size, file, seed = '1']) {
  const count = Number(size);
  if (!Number.isInteger(count) || count < 1 || !file) {
    throw new Trouble('A size and a file are wanted.', 'npm run bench -- generate 100000 large.json');
  }
  writeFileSync(file, JSON.stringify(generate(count, Number(seed))));
  say(`${file} is written.`);
  return 0;
}
