import { existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { PROJECT_FILE, toFolder } from '@oquel/core';
import { Command } from 'commander';
import { isFolder, readProjectFrom, UsageError } from './input.js';
import type { Streams } from './streams.js';

/** `oquel convert FROM TO`: a document becomes a folder, a folder a document. */
export function convertCommand(streams: Streams): Command {
  return new Command('convert')
    .description('write a document as a folder with a file for each asset, or a folder as a document')
    .argument('<from>', 'a project document or folder')
    .argument('<to>', 'the folder or document to write')
    .action((from: string, to: string) => {
      const { project } = readProjectFrom(from);
      if (isFolder(from)) {
        if (isFolder(to)) throw new UsageError(`${to} is a folder; give the name of the document to write`);
        write(to, `${JSON.stringify(project, null, 2)}\n`);
        streams.err(`${to} is written.\n`);
        return;
      }
      const files = toFolder(project);
      requireProjectFolder(to);
      removeStale(to, files);
      for (const [path, text] of files) write(join(to, path), text);
      streams.err(`${to} is written: ${files.size} files.\n`);
    });
}

/** Nothing of somebody else's is written over. */
function requireProjectFolder(to: string): void {
  if (!existsSync(to)) return;
  if (!isFolder(to)) throw new UsageError(`${to} is a file; give the name of the folder to write`);
  if (readdirSync(to).length > 0 && !existsSync(join(to, PROJECT_FILE))) {
    throw new UsageError(
      `${to} holds other things and no ${PROJECT_FILE}; give an empty folder or a project folder`,
    );
  }
}
/** Files of assets that the project no longer has. */
function removeStale(to: string, files: ReadonlyMap<string, string>): void {
  for (const kind of ['scenes', 'prefabs', 'widgets']) {
    if (!isFolder(join(to, kind))) continue;
    for (const name of readdirSync(join(to, kind))) {
      if (name.endsWith('.json') && !files.has(`${kind}/${name}`)) rmSync(join(to, kind, name));
    }
  }
}
function write(path: string, text: string): void {
  try {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  } catch (error) {
    throw new UsageError(
      `${path} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
}
