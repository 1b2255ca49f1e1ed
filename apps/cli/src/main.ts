import { oneLine } from '@oquel/core';
import { CommanderError } from 'commander';
import { EXIT } from './exit-codes.js';
import { UsageError } from './paths.js';
import { program } from './program.js';
import { wantsColour } from './colours.js';
import type { Console } from './streams.js';

const CONSOLE: Console = {
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
  isColoured: wantsColour(process.env, process.stdout.isTTY === true),
  isWatched: process.stderr.isTTY === true,
};

/** Runs one command line and returns its exit code. Needs no server and no database. */
export async function main(args: readonly string[], streams: Console = CONSOLE): Promise<number> {
  let code: number = EXIT.passed;
  const { commands, still } = program(streams, (exit) => (code = exit));
  try {
    await commands.parseAsync(args, { from: 'user' });
    return code;
  } catch (error) {
    still();
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.passed : EXIT.unusable;
    if (error instanceof UsageError) {
      streams.err(`${error.message.split('\n').map(oneLine).join('\n')}\n`);
      return EXIT.unusable;
    }
    // Nobody foresaw it: not the gate's 1, nor wrong use.
    const debug = commands.opts<{ debug?: boolean }>().debug === true;
    const message = error instanceof Error ? error.message : String(error);
    streams.err(
      debug && error instanceof Error
        ? `${error.stack}\n`
        : `oquel failed: ${oneLine(message)} (this is a fault of oquel; --debug shows where)\n`,
    );
    return EXIT.unforeseen;
  }
}
