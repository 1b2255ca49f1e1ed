import { toFolder } from '@oquel/core';
import { Command } from 'commander';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { isFolder, kindOf, requirePath, UsageError } from './paths.js';
import { writeFile, writeFolder } from './project-folder.js';
import type { Streams } from './streams.js';

/** `oquel convert FROM TO`: writes a project as a document or as a folder, by the name of what is to be written. */
export function convertCommand(streams: Streams): Command {
  return new Command('convert')
    .description('write a project as a document (TO ends in .json) or as a folder with a file for each asset')
    .argument('<from>', PROJECT_INPUT)
    .argument('<to>', 'the document (.json) or folder (no ending) to write')
    .action((from: string, to: string) => {
      requirePath(to, 'what is to be written');
      const kind = kindOf(to);
      const { project } = readProjectFrom(from, streams);
      if (kind === 'document') {
        if (isFolder(to)) throw new UsageError(`${to} is a folder; give the name of the document to write`);
        writeFile(to, `${JSON.stringify(project, null, 2)}\n`);
        streams.err(`${to} is written.\n`);
        return;
      }
      const files = toFolder(project);
      writeFolder(to, files);
      streams.err(`${to} is written: ${files.size} files.\n`);
    });
}
