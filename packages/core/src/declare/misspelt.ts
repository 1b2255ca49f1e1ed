import { distance } from 'fastest-levenshtein';
import { LIMITS } from '../limits.js';

/**
 * Whether a name looks like a slip of the pen for one that is known: a letter too many, too few, another one or two that
 * changed places. Names that differ in their numbers alone are meant to differ. Cost: the product of the lengths.
 */
export function isMisspelt(name: string, known: string): boolean {
  const [a, b] = [plain(name), plain(known)];
  if (a === b || withoutDigits(a) === withoutDigits(b)) return false;
  if (Math.min(a.length, b.length) < 3) return false;
  const far = distance(a, b);
  return far <= (Math.max(a.length, b.length) > 5 ? 2 : 1) || (far === 2 && isSwapped(a, b));
}
function plain(name: string): string {
  return name
    .replace(/^on(?=[A-Z])/, '')
    .replace(/[_-]/g, '')
    .toLowerCase();
}
function withoutDigits(name: string): string {
  return name.replace(/\d+/g, '#');
}
function isSwapped(a: string, b: string): boolean {
  if (a.length !== b.length) return false;
  const at = [...a].findIndex((c, i) => c !== b[i]);
  return a[at] === b[at + 1] && a[at + 1] === b[at] && a.slice(at + 2) === b.slice(at + 2);
}

/** Looks for what names could be misspelt of. All that one of these looks at has one bound, after which it finds nothing. */
export class Spelling {
  private left: number = LIMITS.audit.near;

  /** The first few known names that one could be misspelt of. */
  of(name: string, known: Iterable<string>, most = 3): string[] {
    const found: string[] = [];
    for (const k of known) {
      if (this.left-- <= 0 || found.length === most) break;
      if (isMisspelt(name, k)) found.push(k);
    }
    return found;
  }
}
