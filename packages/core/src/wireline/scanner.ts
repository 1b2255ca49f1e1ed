import { OquelError } from '../util/oquel-error.js';

/** What could stand at a place of a wire line, so that it can be completed. */
export type Want =
  | { kind: 'word'; words: readonly string[] }
  | { kind: 'sender' }
  | { kind: 'event'; at: string }
  | { kind: 'channel' }
  | { kind: 'key' }
  | { kind: 'receiver' }
  | { kind: 'action'; at: string }
  | { kind: 'asset' }
  | { kind: 'selected-action'; asset: string }
  | { kind: 'property'; asset: string }
  | { kind: 'param' }
  | { kind: 'argument'; param: string }
  /** What a condition asks, how, and against which value. */
  | { kind: 'condition' }
  | { kind: 'test'; of: string }
  | { kind: 'asked'; of: string }
  | { kind: 'option' }
  | { kind: 'text' };

/** Where a wire line stops making sense. Positions count characters from 0. */
export class WireLineFault extends OquelError {
  override readonly name = 'WireLineFault';
  readonly code = 'broken-line';
  constructor(
    /** Where the character stands that cannot be there; the length of the line if it ends too early. */
    readonly at: number,
    readonly expected: string,
    readonly found: string,
    readonly want: Want,
  ) {
    super(`expected ${expected}, found ${found === '' ? 'the end of the line' : JSON.stringify(found)}`);
  }
}

/** Walks over one line. Blanks between the parts do not count. */
export class Scanner {
  private place = 0;
  /** What was wanted last, and where: if the line ends inside of it, it is what can be completed. */
  wanted: { want: Want; at: number } = { want: { kind: 'word', words: ['when'] }, at: 0 };

  constructor(readonly line: string) {}

  get at(): number {
    return this.place;
  }
  get ended(): boolean {
    this.skipBlanks();
    return this.place >= this.line.length;
  }
  skipBlanks(): void {
    while (this.place < this.line.length && /\s/.test(this.line[this.place])) this.place++;
  }
  /** Notes what is wanted here; but right behind a name it is still the name that may go on. */
  want(want: Want): void {
    if (this.place === this.line.length && /[\w"-]$/.test(this.line)) return;
    this.wanted = { want, at: this.place };
  }
  /** As if nothing from there on had been read. */
  backTo(place: number): void {
    this.place = place;
  }
  fail(expected: string, want: Want = this.wanted.want): never {
    const found = /^(?:[A-Za-z0-9_~:/.$@#-]+|\S)?/.exec(this.line.slice(this.place))![0];
    throw new WireLineFault(this.place, expected, found, want);
  }

  /** The match of a pattern right here (it begins with `^`), or null; blanks before it are passed over. */
  take(pattern: RegExp): string | null {
    this.skipBlanks();
    return this.takeHere(pattern);
  }
  /** The same without passing over blanks. */
  takeHere(pattern: RegExp): string | null {
    const found = pattern.exec(this.line.slice(this.place));
    if (!found) return null;
    this.place += found[0].length;
    return found[0];
  }
  /** Whether a pattern matches here, behind blanks. */
  sees(pattern: RegExp): boolean {
    this.skipBlanks();
    return pattern.test(this.line.slice(this.place));
  }
  /** A word that does not go on. */
  takeWord(word: string): boolean {
    return this.take(new RegExp(`^${word}(?![A-Za-z0-9_-])`)) !== null;
  }
  /** A text in quotes as JSON writes it; null if none begins here. */
  takeQuoted(): string | null {
    if (this.line[this.place] !== '"') return null;
    const found = /^"(?:[^"\\]|\\.)*"/.exec(this.line.slice(this.place));
    if (!found) {
      const at = this.line.length;
      throw new WireLineFault(at, 'a closing quote', '', { kind: 'text' });
    }
    let value: unknown;
    try {
      value = JSON.parse(found[0]);
    } catch {
      this.fail('text as written in JSON', { kind: 'text' });
    }
    this.place += found[0].length;
    return value as string;
  }
}
