import { Command } from 'commander';
import { auditCommand } from './audit-command.js';
import { catalogueCommand } from './catalogue-command.js';
import { compareCommand } from './compare-command.js';
import { compileCommand } from './compile-command.js';
import { completionCommand } from './completion-command.js';
import { conformanceCommand } from './conformance-command.js';
import { convertCommand } from './convert-command.js';
import { explainCommand } from './explain-command.js';
import { addExamples } from './examples.js';
import { fixCommand } from './fix-command.js';
import { graphCommand } from './graph-command.js';
import { initCommand } from './init-command.js';
import { mergeCommand } from './merge-command.js';
import { namesCommand } from './names-command.js';
import { observeCommand } from './observe-command.js';
import { rehearseCommand } from './rehearse-command.js';
import { rippleCommand } from './ripple-command.js';
import { schemaCommand } from './schema-command.js';
import { redirected, type Console } from './streams.js';
import { VERSION } from './version.js';

/** All commands, and what is to be called when one has failed. `exit` is called with how a command ended that may end other than well. */
export function program(
  console: Console,
  exit: (code: number) => void,
): { commands: Command; still: () => void } {
  const { streams, begin, end, still } = redirected(console);
  const root: Command = new Command('oquel')
    .description('Audit and rehearse the event bindings of a game project')
    .version(VERSION, '--version', 'print the version')
    .option('--debug', 'show where an unforeseen error came from')
    .exitOverride()
    .configureOutput({ writeOut: console.out, writeErr: console.err })
    .addCommand(auditCommand(streams, exit))
    .addCommand(catalogueCommand(streams))
    .addCommand(compareCommand(streams, exit))
    .addCommand(compileCommand(streams, exit))
    .addCommand(completionCommand(streams, () => root))
    .addCommand(conformanceCommand(streams, exit))
    .addCommand(convertCommand(streams))
    .addCommand(explainCommand(streams))
    .addCommand(fixCommand(streams))
    .addCommand(graphCommand(streams))
    .addCommand(initCommand(streams))
    .addCommand(mergeCommand(streams, exit))
    .addCommand(namesCommand(streams))
    .addCommand(observeCommand(streams, exit))
    .addCommand(rehearseCommand(streams, exit))
    .addCommand(rippleCommand(streams))
    .addCommand(schemaCommand(streams));
  for (const command of root.commands) {
    addExamples(command);
    command
      .exitOverride()
      .copyInheritedSettings(root)
      .option('--output <file>', 'write what is printed into a file, once it is whole')
      .option('--quiet', 'leave out notes and progress')
      .option('--verbose', 'say what is done, and how long it took')
      .hook('preAction', () => begin(command.opts()))
      .hook('postAction', end);
  }
  return { commands: root, still };
}
