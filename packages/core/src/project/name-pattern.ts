import { RE2JS } from 're2js';

/**
 * A naming pattern, compiled for a search that takes linear time whatever the pattern says: a document may come from
 * anywhere, and no pattern in it may hold the audit up. Throws on a pattern that cannot be searched so (look-around and
 * back references), or that is none.
 */
export function compilePattern(source: string): (name: string) => boolean {
  const pattern = RE2JS.compile(source);
  return (name) => pattern.matcher(name).find();
}

/** Why a text is no naming pattern; null if it is one. */
export function patternFault(source: string): string | null {
  try {
    compilePattern(source);
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}
