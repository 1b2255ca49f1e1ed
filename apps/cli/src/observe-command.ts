import { createReadStream, writeFileSync } from 'node:fs';
import {
  compileWiring,
  expand,
  indexProject,
  LineSplitter,
  PlayObserver,
  servedInPlays,
  playText,
  scenesLoadedWith,
  type PlayReport,
  type Project,
} from '@oquel/core';
import { Command } from 'commander';
import { addCoverageOptions, writeCoverage, type CoverageFlags } from './coverage-files.js';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { requireFile, requirePath, UsageError } from './paths.js';
import { sha256 } from './sha256.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

interface Flags extends CoverageFlags {
  json?: boolean;
  loadSet?: string;
  tolerance: string;
  rehearsals?: string;
  gate?: boolean;
}
/** Milliseconds between two words of how far it is. */
const PROGRESS_MS = 2000;

/** `oquel observe`: judges what running games have written by the wiring. */
export function observeCommand(streams: Streams, exit: (code: number) => void): Command {
  const command = new Command('observe')
    .description(
      'say what traces of real play show: what was served, what did not follow, what other code does',
    )
    .argument('<file>', PROJECT_INPUT)
    .argument('<traces...>', 'traces as JSON Lines, bare or as CloudEvents; - is standard input')
    .option('--json', 'the whole report (oquel.plays/1)')
    .option('--load-set <name>', 'the scenes that the game had loaded; all without it')
    .option('--tolerance <seconds>', 'how early or late a game may be', '0.25')
    .option('--rehearsals <file>', 'write the first sessions as rehearsals')
    .option('--gate', 'end with 1 if something did not follow, or followed twice or in another order');
  return addCoverageOptions(command).action(async (file: string, traces: string[], flags: Flags) => {
    const { project } = readProjectFrom(file, streams);
    for (const trace of traces) if (trace !== '-') requireFile(trace);
    for (const out of [flags.lcov, flags.cobertura, flags.rehearsals])
      if (out !== undefined) requirePath(out, 'the file to write');
    const tolerance = Number(flags.tolerance);
    if (!(tolerance >= 0)) throw new UsageError(`--tolerance ${flags.tolerance}: give seconds, 0 or more`);
    const observer = orExplain(() => observerOf(project, flags.loadSet, tolerance), file);
    const said = { records: 0, at: performance.now() };
    for (const trace of traces) {
      await readLines(trace, (line, number) => {
        observer.take(line, trace, number, trace);
        said.records++;
        if (said.records % 10_000 !== 0 || performance.now() - said.at < PROGRESS_MS) return;
        said.at = performance.now();
        streams.err(`${said.records} lines are read ...\n`);
      });
    }
    observer.end();
    const report = observer.report();
    writeCoverage(project, file, servedInPlays(indexProject(project), report), flags);
    if (flags.rehearsals !== undefined)
      writeFileSync(flags.rehearsals, `${JSON.stringify(report.rehearsals, null, 2)}\n`);
    streams.out(flags.json ? `${JSON.stringify(report, null, 2)}\n` : playText(report));
    exit(flags.gate && stops(report) ? 1 : 0);
  });
}

/** @throws UsageError */
function observerOf(project: Project, loadSet: string | undefined, tolerance: number): PlayObserver {
  const scenes = loadSet === undefined ? undefined : scenesLoadedWith(project, loadSet);
  if (scenes === null) {
    const names = (project.loadSets ?? []).map((s) => s.name).join(', ');
    throw new UsageError(`there is no load set "${loadSet}"; the project has ${names || 'none'}`);
  }
  const compiled = compileWiring(expand(indexProject(project)), {
    sha256,
    ...(scenes ? { scenes } : {}),
  });
  return new PlayObserver(compiled, {
    tolerance: Math.round(tolerance * 1e6),
    ...(loadSet === undefined ? {} : { loadSet }),
  });
}
function stops({ missing, doubled, order, despite }: PlayReport): boolean {
  return missing.length + doubled.length + order.length + despite.length > 0;
}
/** Lines of a file, or of standard input for `-`, in bounded memory. */
async function readLines(trace: string, take: (line: string, number: number) => void): Promise<void> {
  const split = new LineSplitter(take);
  const stream = trace === '-' ? process.stdin : createReadStream(trace);
  stream.setEncoding('utf8');
  try {
    for await (const piece of stream) split.push(piece as string);
  } catch (error) {
    throw new UsageError(`${trace} cannot be read: ${(error as Error).message}`);
  }
  split.end();
}
