import { appendFileSync } from 'node:fs';
import process from 'node:process';

/**
 * In each test file while mutants are tried: `oquelMutant(n)` says whether mutant n is awake (`OQUEL_MUTANT`). To the file
 * `OQUEL_REACHED` a line is added in the end: the test file, and the mutants that it has come by.
 */
const awake = Number(process.env.OQUEL_MUTANT ?? -1);
const reached = new Set();

globalThis.oquelMutant = (n) => {
  reached.add(n);
  return n === awake;
};

const { OQUEL_REACHED } = process.env;
if (OQUEL_REACHED)
  globalThis.afterAll(() => {
    const file = globalThis.expect.getState().testPath;
    appendFileSync(OQUEL_REACHED, `${JSON.stringify({ file, reached: [...reached] })}\n`);
  });
