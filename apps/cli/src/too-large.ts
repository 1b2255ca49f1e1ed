import { ProjectTooLarge } from '@oquel/core';
import { UsageError } from './paths.js';
import { inputName } from './standard-input.js';

/** Runs what expands a project; one that is too large is wrong input. */
export function orExplain<T>(run: () => T, file: string): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof ProjectTooLarge) throw new UsageError(`${inputName(file)}: ${error.message}`);
    throw error;
  }
}
