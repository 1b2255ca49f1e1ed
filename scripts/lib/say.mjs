/** Messages of the scripts: what happens, and on failure what to do about it. */
export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** A failure that the person at the terminal can do something about. */
export class Trouble extends Error {
  name = 'Trouble';
  constructor(what, remedy) {
    super(`${what}\n  -> ${remedy}`);
  }
}

/** Runs a script's main function: trouble is printed without a stack, and ends the process with 1. */
export async function runScript(main) {
  try {
    process.exitCode = (await main()) ?? 0;
  } catch (error) {
    if (!(error instanceof Trouble)) throw error;
    process.stderr.write(`\n${error.message}\n`);
    process.exitCode = 1;
  }
}

/** Seconds since a time of `performance.now()`, for people. */
export function since(start) {
  return `${((performance.now() - start) / 1000).toFixed(1)} s`;
}
