import { oneLine } from '@oquel/core';
import { Command, CommanderError } from 'commander';
import { auditCommand } from './audit-command.js';
import { compileCommand } from './compile-command.js';
import { compareCommand } from './compare-command.js';
import { conformanceCommand } from './conformance-command.js';
import { convertCommand } from './convert-command.js';
import { graphCommand } from './graph-command.js';
import { mergeCommand } from './merge-command.js';
import { observeCommand } from './observe-command.js';
import { UsageError } from './paths.js';
import { namesCommand } from './names-command.js';
import { rehearseCommand } from './rehearse-command.js';
import type { Streams } from './streams.js';
import { schemaCommand } from './schema-command.js';

/** Exit code of an error that nobody foresaw, as in sysexits.h. */
const UNFORESEEN = 70;
const CONSOLE: Streams = {
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
};

/** Runs one command line and returns its exit code. Needs no server and no database. */
export async function main(args: readonly string[], streams: Streams = CONSOLE): Promise<number> {
  let code = 0;
  const program = new Command('oquel')
    .description('Audit and rehearse the event bindings of a game project')
    .option('--debug', 'show where an unforeseen error came from')
    .exitOverride()
    .configureOutput({ writeOut: streams.out, writeErr: streams.err });
  program
    .addCommand(auditCommand(streams, (exit) => (code = exit)))
    .addCommand(compareCommand(streams, (exit) => (code = exit)))
    .addCommand(compileCommand(streams, (exit) => (code = exit)))
    .addCommand(conformanceCommand(streams, (exit) => (code = exit)))
    .addCommand(convertCommand(streams))
    .addCommand(graphCommand(streams))
    .addCommand(mergeCommand(streams, (exit) => (code = exit)))
    .addCommand(namesCommand(streams))
    .addCommand(observeCommand(streams, (exit) => (code = exit)))
    .addCommand(rehearseCommand(streams, (exit) => (code = exit)))
    .addCommand(schemaCommand(streams));
  for (const command of program.commands) command.exitOverride().copyInheritedSettings(program);
  try {
    await program.parseAsync(args, { from: 'user' });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (error instanceof UsageError) {
      streams.err(`${error.message.split('\n').map(oneLine).join('\n')}\n`);
      return 2;
    }
    // Nobody foresaw it: not the gate's 1, nor wrong use.
    const debug = program.opts<{ debug?: boolean }>().debug === true;
    const message = error instanceof Error ? error.message : String(error);
    streams.err(
      debug && error instanceof Error
        ? `${error.stack}\n`
        : `oquel failed: ${oneLine(message)} (this is a fault of oquel; --debug shows where)\n`,
    );
    return UNFORESEEN;
  }
}
