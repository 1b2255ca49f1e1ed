import { OquelError } from '../util/oquel-error.js';

/** One place where a document is broken. `pointer` is a JSON pointer (RFC 6901). */
export interface Problem {
  pointer: string;
  expected: string;
  found: string;
}

/** Thrown when a document cannot be read. Holds the first problems found, a bounded number. */
export class BrokenDocument extends OquelError {
  override readonly name = 'BrokenDocument';
  readonly code = 'broken-document';
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(problemText).join('\n'));
  }
}

/** `expected a string, found 3 at /assets/4/id` */
export function problemText(p: Problem): string {
  return `expected ${p.expected}, found ${p.found} at ${p.pointer === '' ? 'the top of the document' : p.pointer}`;
}

/** Says what a JSON value is, briefly enough for one line. */
export function describeValue(value: unknown): string {
  switch (typeof value) {
    case 'undefined':
      return 'nothing';
    case 'string':
      return value.length > 40 ? `the text ${JSON.stringify(value.slice(0, 37))}…` : JSON.stringify(value);
    case 'number':
    case 'boolean':
      return String(value);
    default:
      if (value === null) return 'null';
      if (Array.isArray(value)) return value.length === 0 ? 'an empty list' : `a list of ${value.length}`;
      return 'an object';
  }
}

/** Joins pointer segments, escaping `~` and `/`. */
export function toPointer(path: readonly (string | number)[]): string {
  return path.map((s) => '/' + String(s).replaceAll('~', '~0').replaceAll('/', '~1')).join('');
}
