import { project as projectShape } from './document.js';
import { parseJson } from './json-text.js';
import { BrokenDocument } from './problem.js';
import { Reading } from './shape.js';
import type { Project } from './types.js';

export interface ReadResult {
  project: Project;
  /** JSON pointers of properties that the format does not know. They are kept. */
  unknown: string[];
  /** JSON pointers of properties that stand more than once; the last of each counts. */
  repeated: string[];
}

/**
 * Reads a project document from its text.
 * @throws BrokenDocument with the line and column of a syntax error, or with every place (up to a bound) where the
 * document does not have the shape of `oquel.project/1`. Linear in the length of the text.
 */
export function readProjectText(text: string): ReadResult {
  const { value, repeated } = parseJson(text);
  return { ...readProject(value), repeated };
}

/**
 * Checks a parsed document. The value itself is returned, not a copy, so that what is unknown to the format is kept.
 * @throws BrokenDocument
 */
export function readProject(value: unknown): ReadResult {
  const reading = new Reading();
  projectShape.check(value, reading);
  if (reading.problems.length > 0) throw new BrokenDocument(reading.problems);
  return { project: value as Project, unknown: reading.unknown, repeated: [] };
}
