import { basename, isAbsolute, relative, resolve, sep } from 'node:path';
import { isStandardInput } from './standard-input.js';

/** How reports name the project. Relative to where the command runs, as a repository's pages look for it; by its name alone from elsewhere. */
export function artifactOf(file: string): string {
  if (isStandardInput(file)) return 'standard-input.json';
  const path = relative(process.cwd(), file);
  return path === '' || path.startsWith('..') || isAbsolute(path)
    ? basename(resolve(file))
    : path.split(sep).join('/');
}
