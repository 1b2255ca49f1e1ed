import { appendFileSync } from 'node:fs';
import process from 'node:process';

/**
 * In each test file while mutants are tried: `oquelMutant(n)` says whether mutant n is awake (`OQUEL_MUTANT`). If none is
 * and `OQUEL_REACHED` names a file, a line is added to it: the test file, and the mutants that it comes by.
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
