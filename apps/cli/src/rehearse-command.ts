import {
  expand,
  indexProject,
  oneLine,
  recordLine,
  rehearse,
  rehearsalsJunit,
  RehearsalReports,
  rehearsalsText,
  traceText,
  type Project,
  type Rehearsal,
  type TraceLine,
} from '@oquel/core';
import { Command, Option } from 'commander';
import { addCoverageOptions, writeCoverage, type CoverageFlags } from './coverage-files.js';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { UsageError } from './paths.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

interface RehearseFlags extends CoverageFlags {
  name?: string;
  format: 'text' | 'json' | 'junit';
  trace?: boolean;
}

/** `oquel rehearse`: runs the rehearsals of a document or folder, and ends with 1 when one of them fails. */
export function rehearseCommand(streams: Streams, exit: (code: number) => void): Command {
  const command = new Command('rehearse')
    .description('run the rehearsals of a project; ends with 1 when one fails, 2 when it cannot be read')
    .argument('<file>', PROJECT_INPUT)
    .option('--name <name>', 'run this rehearsal alone')
    .addOption(
      new Option('--format <format>', 'how to print; json is one line for each thing')
        .choices(['text', 'json', 'junit'])
        .default('text'),
    )
    .option('--trace', 'print everything that happened, in order (text and json)');
  return addCoverageOptions(command).action((file: string, flags: RehearseFlags) => {
    const { project } = readProjectFrom(file, streams);
    const chosen = chosenOf(project, flags.name, file);
    const reports = new RehearsalReports();
    const print = printer(streams, flags);
    streams.doing('rehearsing');
    const { pass, byBinding } = orExplain(() => {
      const x = expand(indexProject(project));
      return rehearse(x, chosen, (line) => {
        reports.take(line);
        print(line);
      });
    }, file);
    if (flags.format === 'text') streams.out(rehearsalsText(reports.reports, reports.coverage));
    if (flags.format === 'junit') streams.out(rehearsalsJunit(project.name, reports.reports));
    writeCoverage(project, file, new Map(byBinding.map((b) => [`${b.asset}/${b.binding}`, b.served])), flags);
    exit(pass ? 0 : 1);
  });
}

/** Prints a line of the trace as it comes, where the flags ask for it. */
function printer(streams: Streams, { format, trace }: RehearseFlags): (line: TraceLine) => void {
  return (line) => {
    const isRecord = 'n' in line;
    if (format === 'json' && (!isRecord || trace)) streams.out(traceText(line));
    if (format !== 'text' || !trace) return;
    if (isRecord) streams.out(`${oneLine(recordLine(line))}\n`);
    else if (line.kind === 'rehearsal')
      streams.out(`${oneLine(`${line.name} (${line.scenes.join(', ')})`)}\n`);
  };
}

function chosenOf(
  { rehearsals = [] }: Project,
  name: string | undefined,
  file: string,
): readonly Rehearsal[] {
  if (name === undefined) return rehearsals;
  const chosen = rehearsals.filter((r) => r.name === name);
  if (chosen.length > 0) return chosen;
  const known = rehearsals.map((r) => `"${r.name}"`).join(', ') || 'none';
  throw new UsageError(`${file} has no rehearsal "${name}"; it has ${known}`);
}
