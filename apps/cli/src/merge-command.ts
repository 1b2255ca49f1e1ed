import {
  audit,
  BrokenDocument,
  compareFindings,
  dangling,
  mergeManifest,
  MergeRefused,
  mergeText,
  readManifestText,
  toFolder,
  withLaterNames,
  type FindingChange,
  type Merged,
  type Project,
  type ReadManifest,
} from '@oquel/core';
import { Command, Option } from 'commander';
import { problemLines, readProjectFrom, readText } from './input.js';
import { isFolder, UsageError } from './paths.js';
import { writeFile, writeFolder } from './project-folder.js';
import { isStandardInput } from './standard-input.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

interface MergeFlags {
  origin?: string;
  check?: boolean;
  format: 'text' | 'json';
}

/**
 * `oquel merge PROJECT MANIFEST`: brings a project's declarations and placements to what the game's manifest says. With
 * `--check` nothing is written, and the exit code is 1 where something would dangle that does not now.
 */
export function mergeCommand(streams: Streams, exit: (code: number) => void): Command {
  return new Command('merge')
    .description("update a project's declarations and placements from a manifest of the game")
    .argument('<project>', 'the project document or folder; it is written anew')
    .argument('<manifest>', 'the manifest, oquel.declarations/1, or another project document')
    .option(
      '--origin <name>',
      'name of the source, to recognise what came from it; default: the one in the manifest',
    )
    .option('--check', 'write nothing; end with 1 where a binding would dangle')
    .addOption(new Option('--format <format>', 'how it is said').choices(['text', 'json']).default('text'))
    .action((path: string, file: string, { origin, check, format }: MergeFlags) => {
      if (isStandardInput(path) && !check)
        throw new UsageError(
          'the project is written anew, so it cannot come from standard input; use --check',
        );
      const { project } = readProjectFrom(path, streams);
      const merged = mergeOf(project, readManifest(file, origin), file);
      const change = orExplain(() => findingsOf(project, merged), path);
      const lost = dangling(change);
      if (format === 'json') {
        const { renames, kept } = merged;
        const said = { renames, kept, added: change.added, gone: change.gone, dangling: lost };
        streams.out(`${JSON.stringify(said, null, 2)}\n`);
      } else streams.out(mergeText(project, merged, change));
      if (check) return exit(lost.length > 0 ? 1 : 0);
      write(path, merged.project);
      streams.err(`${path} is written.\n`);
    });
}

function readManifest(file: string, origin: string | undefined): ReadManifest {
  try {
    return readManifestText(readText(file), origin);
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    throw new UsageError(`${file} is not a valid manifest:\n${problemLines(file, error.problems)}`);
  }
}
function mergeOf(project: Project, { manifest }: ReadManifest, file: string): Merged {
  try {
    return mergeManifest(project, manifest);
  } catch (error) {
    if (!(error instanceof MergeRefused)) throw error;
    const lines = error.reasons.map((r) => `  ${r}`);
    throw new UsageError(`${file} cannot be merged; nothing is written:\n${lines.join('\n')}`);
  }
}
function findingsOf(before: Project, { project }: Merged): FindingChange {
  const today = new Date().toISOString().slice(0, 10);
  // What only has another name is found under that before, too.
  const was = withLaterNames(before, project) ?? before;
  return compareFindings(audit(was, { today }).findings, audit(project, { today }).findings);
}
function write(path: string, project: Project): void {
  if (isFolder(path)) writeFolder(path, toFolder(project));
  else writeFile(path, `${JSON.stringify(project, null, 2)}\n`);
}
