import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  BrokenDocument,
  fromFolder,
  placeProblems,
  problemText,
  PROJECT_FILE,
  readProjectText,
  type Problem,
  type ProjectTexts,
  type ReadResult,
} from '@oquel/core';
import { isFolder, requireFile, requirePath, UsageError } from './paths.js';
import { readFromFolder, strayFiles } from './project-folder.js';
import type { Streams } from './streams.js';
import { inputName, isStandardInput, readStandardInput } from './standard-input.js';

/** Longer texts do not fit into one JavaScript string. */
const MAX_BYTES = 512 * 1024 * 1024;

/** What a command says of the project that it reads. */
export const PROJECT_INPUT = 'the project document or folder, or - for a document on standard input';

export interface ProjectRead extends ReadResult {
  /** Files of a folder that look like assets of the project and are none. */
  stray: string[];
}

/** Reads a project from a document, a folder, or standard input. @throws UsageError that names the file and each broken place */
export function readProjectFrom(path: string, { doing }: Streams): ProjectRead {
  requirePath(path, 'the project');
  doing(`reading ${inputName(path)}`);
  try {
    if (isStandardInput(path) || !isFolder(path)) return { ...readProjectText(readText(path)), stray: [] };
    if (readFromFolder(path, PROJECT_FILE, readText) === null) {
      throw new UsageError(`${path} is a folder without ${PROJECT_FILE}, so it is no project folder`);
    }
    const read = fromFolder((file) => readFromFolder(path, file, readText));
    return { ...read, stray: strayFiles(path, listedIn(path)) };
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    throw new UsageError(`${inputName(path)} is not a valid project:\n${problemLines(path, error.problems)}`);
  }
}

/** Each problem with file, line and column, as editors and build servers know them. */
export function problemLines(path: string, problems: readonly Problem[]): string {
  const textOf = (file: string): string | null => {
    try {
      return file === '' ? readText(path) : readFromFolder(path, file, readText);
    } catch {
      return null;
    }
  };
  return placeProblems(problems, textOf)
    .map(({ file, place, ...problem }) => {
      const name = file === '' ? inputName(path) : join(path, file);
      const at = place ? `:${place.line}:${place.column}` : '';
      return `${name}${at}: ${problemText(problem)}`;
    })
    .join('\n');
}

/** The texts of a project that has been read, to find places in them. @throws UsageError */
export function textsOf(path: string): ProjectTexts {
  if (isStandardInput(path) || !isFolder(path)) return { document: readText(path) };
  const file = (name: string): string | null => readFromFolder(path, name, readText);
  return { assets: listedIn(path), file };
}
/** The files of the assets of a folder that has been read, in their order. */
function listedIn(folder: string): string[] {
  const text = readFromFolder(folder, PROJECT_FILE, readText)!;
  return (JSON.parse(text) as { assets: string[] }).assets;
}

/** The text of an ordinary file, or of standard input. @throws UsageError */
export function readText(file: string): string {
  const bytes = isStandardInput(file) ? readStandardInput(MAX_BYTES) : bytesOf(file);
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new UsageError(`${inputName(file)} is not UTF-8`);
  }
}
function bytesOf(file: string): Buffer {
  const { size } = requireFile(file);
  if (size > MAX_BYTES) throw new UsageError(`${file} has ${size} bytes; at most ${MAX_BYTES} can be read`);
  try {
    return readFileSync(file);
  } catch (error) {
    throw new UsageError(`${file} cannot be read: ${(error as Error).message}`);
  }
}
