import { RE2JS } from 're2js';
import { LIMITS } from '../limits.js';

/**
 * A naming pattern, compiled for a search that takes linear time whatever the pattern says: a document may come from
 * anywhere, and no pattern in it may hold the audit up. Throws on a pattern that {@link patternFault} refuses.
 */
export function compilePattern(source: string): (name: string) => boolean {
  const { pattern, patternProgram } = LIMITS.document;
  if (source.length > pattern) throw new Error(`a pattern of at most ${pattern} characters`);
  const compiled = RE2JS.compile(source);
  if (compiled.programSize() > patternProgram) throw new Error('a pattern that repeats less');
  return (name) => compiled.matcher(name).find();
}

/** What a naming pattern would have to be, where a text is none; null if it is one. */
export function patternFault(source: string): string | null {
  try {
    compilePattern(source);
    return null;
  } catch (error) {
    const message = error instanceof Error ? error.message : '';
    return message.startsWith('a pattern')
      ? message
      : 'a regular expression (without look-around or back references)';
  }
}
