import { LIMITS } from '../limits.js';
import { BrokenDocument, toPointer, type Problem } from './problem.js';
import { own } from '../util/own.js';

/** A value with what its text says besides. */
export interface ParsedJson {
  value: unknown;
  /** JSON pointers of properties that stand more than once in one object; the last of each counts. */
  repeated: string[];
}

/**
 * Parses JSON within the bound on nesting. Linear in the length of the text, whatever is wrong with it.
 * @throws BrokenDocument with the line and column where the text stops being JSON
 */
export function parseJson(text: string): ParsedJson {
  const bare = text.startsWith('\uFEFF') ? text.slice(1) : text;
  const { tooDeep, properties } = survey(bare);
  if (tooDeep >= 0) throw new BrokenDocument([depthProblem(bare, tooDeep)]);
  let value: unknown;
  try {
    value = JSON.parse(bare) as unknown;
  } catch {
    throw new BrokenDocument([syntaxProblem(bare)]);
  }
  const repeated = countProperties(value) === properties ? [] : new Reader(bare).repeated();
  return { value, repeated };
}

/** Why a text is nested too deep, in words; null if it is not. One pass, without parsing. */
export function jsonDepthFault(text: string): string | null {
  const { tooDeep } = survey(text);
  if (tooDeep < 0) return null;
  const { expected, found } = depthProblem(text, tooDeep);
  return `expected ${expected}, found ${found}`;
}

/** Characters that JSON is made of. */
const C = {
  Tab: 9,
  Line: 10,
  Return: 13,
  Blank: 32,
  Quote: 34,
  Comma: 44,
  Colon: 58,
  OpenList: 91,
  Backslash: 92,
  CloseList: 93,
  Open: 123,
  Close: 125,
} as const;

/** Where nesting goes too deep (−1 for nowhere), and how many properties are written. */
function survey(text: string): { tooDeep: number; properties: number } {
  let depth = 0;
  let properties = 0;
  for (let i = 0; i < text.length; i++) {
    switch (text.charCodeAt(i)) {
      case C.Quote:
        i = endOfString(text, i);
        break;
      case C.Open:
      case C.OpenList:
        if (++depth > LIMITS.document.nesting) return { tooDeep: i, properties };
        break;
      case C.Close:
      case C.CloseList:
        depth--;
        break;
      case C.Colon:
        properties++;
    }
  }
  return { tooDeep: -1, properties };
}
/** Offset of the quote that ends a string; the end of the text where none does. */
export function endOfString(text: string, start: number): number {
  for (let from = start + 1; ;) {
    const quote = text.indexOf('"', from);
    if (quote < 0) return text.length;
    let slashes = 0;
    while (text.charCodeAt(quote - 1 - slashes) === C.Backslash) slashes++;
    if (slashes % 2 === 0) return quote;
    from = quote + 1;
  }
}

/** Properties in a value, at every depth. Explicit stack. */
function countProperties(root: unknown): number {
  let count = 0;
  const open: unknown[] = [root];
  for (let value = open.pop(); value !== undefined; value = open.pop()) {
    if (typeof value !== 'object' || value === null) continue;
    if (Array.isArray(value)) {
      for (const item of value) if (typeof item === 'object' && item !== null) open.push(item);
      continue;
    }
    for (const key of Object.keys(value)) {
      count++;
      const item = own(value as Record<string, unknown>, key);
      if (typeof item === 'object' && item !== null) open.push(item);
    }
  }
  return count;
}

/** A syntax error, with the offset where it is. */
class Fault extends Error {
  constructor(
    readonly offset: number,
    readonly expected: string,
  ) {
    super(expected);
  }
}

/** Reads JSON by its grammar, once more and slowly: to say where it is broken, or which properties stand twice. */
class Reader {
  private at = 0;
  private readonly open: { keys: Map<string, number> | null; step: string | number }[] = [];
  private readonly found: string[] = [];

  constructor(private readonly text: string) {}

  repeated(): string[] {
    this.read();
    return this.found;
  }

  /** @throws Fault */
  read(): void {
    this.value();
    while (this.open.length > 0) {
      const inner = this.open[this.open.length - 1];
      const isObject = inner.keys !== null;
      const c = this.next();
      if (c === (isObject ? C.Close : C.CloseList)) {
        this.at++;
        this.open.pop();
      } else if (c === C.Comma) {
        this.at++;
        if (isObject) this.key(inner, 'a property name in double quotes');
        else inner.step = (inner.step as number) + 1;
        this.value();
      } else throw new Fault(this.at, isObject ? 'a comma or a closing }' : 'a comma or a closing ]');
    }
    if (!Number.isNaN(this.next())) throw new Fault(this.at, 'nothing more after the document');
  }

  /** Reads a value; of a list or object, all up to its first value that is neither. */
  private value(): void {
    for (;;) {
      const c = this.next();
      if (c === C.Open) {
        this.at++;
        if (this.next() === C.Close) return void this.at++;
        const inner = { keys: new Map<string, number>(), step: '' };
        this.open.push(inner);
        this.key(inner, 'a property name in double quotes or a closing }');
      } else if (c === C.OpenList) {
        this.at++;
        if (this.next() === C.CloseList) return void this.at++;
        this.open.push({ keys: null, step: 0 });
      } else if (c === C.Quote) return void this.string();
      else return this.literal();
    }
  }
  private key(inner: (typeof this.open)[number], expected: string): void {
    if (this.next() !== C.Quote) throw new Fault(this.at, expected);
    const key = this.string();
    const before = inner.keys!.get(key) ?? 0;
    inner.keys!.set(key, before + 1);
    inner.step = key;
    if (before === 1 && this.found.length < LIMITS.document.problems) {
      this.found.push(toPointer(this.open.map((o) => o.step)));
    }
    if (this.next() !== C.Colon) throw new Fault(this.at, 'a colon');
    this.at++;
  }
  private string(): string {
    const start = this.at;
    const end = endOfString(this.text, start);
    const raw = this.text.slice(start, end + 1);
    if (end >= this.text.length) throw new Fault(this.text.length, 'a closing quote');
    this.at = end + 1;
    try {
      return JSON.parse(raw) as string;
    } catch {
      const control = firstControl(raw);
      if (control >= 0) throw new Fault(start + control, 'no control characters inside a text');
      throw new Fault(start + badEscape(raw), 'a known escape such as \\n or \\u0041');
    }
  }
  private literal(): void {
    LITERAL.lastIndex = this.at;
    const match = LITERAL.exec(this.text);
    if (!match) throw new Fault(this.at, this.text.startsWith('/', this.at) ? 'no comments' : 'a value');
    this.at = LITERAL.lastIndex;
  }
  /** The next character that is no blank; NaN at the end. */
  private next(): number {
    for (; ; this.at++) {
      const c = this.text.charCodeAt(this.at);
      if (c !== C.Blank && c !== C.Line && c !== C.Return && c !== C.Tab) return c;
    }
  }
}
const LITERAL = /(?:true|false|null|-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?)(?![\w.])/y;

function firstControl(raw: string): number {
  for (let i = 0; i < raw.length; i++) if (raw.charCodeAt(i) < 32) return i;
  return -1;
}
function badEscape(raw: string): number {
  const bad = /(?:[^\\]|\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4}))*?(?=\\(?!["\\/bfnrt]|u[0-9a-fA-F]{4}))/y;
  bad.lastIndex = 0;
  return bad.exec(raw)?.[0].length ?? 0;
}

function syntaxProblem(text: string): Problem {
  try {
    new Reader(text).read();
  } catch (error) {
    if (error instanceof Fault) return problemAt(text, error.offset, `JSON (${error.expected})`);
    throw error;
  }
  return problemAt(text, text.length, 'JSON');
}
function depthProblem(text: string, offset: number): Problem {
  return problemAt(text, offset, `JSON of at most ${LIMITS.document.nesting} levels of lists and objects`);
}
/** Says what stands there, in a window of some characters, and in which line and column. */
function problemAt(text: string, offset: number, expected: string): Problem {
  let line = 1;
  let start = 0;
  for (let end = text.indexOf('\n'); end >= 0 && end < offset; end = text.indexOf('\n', end + 1)) {
    line++;
    start = end + 1;
  }
  const snippet = text.slice(offset, offset + 20).split('\n')[0];
  const seen = snippet === '' ? 'the end of the text' : JSON.stringify(snippet);
  return { pointer: '', expected, found: `${seen} in line ${line}, column ${offset - start + 1}` };
}
