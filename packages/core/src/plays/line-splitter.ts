import { LIMITS } from '../limits.js';

/** Cuts what comes in pieces into lines, numbered from 1. Of a line that is too long only so much is kept as tells that it is. */
export class LineSplitter {
  private kept = '';
  private number = 0;

  constructor(private readonly take: (line: string, number: number) => void) {}

  push(piece: string): void {
    let from = 0;
    for (let end = piece.indexOf('\n'); end >= 0; end = piece.indexOf('\n', from)) {
      this.add(piece, from, end);
      this.line();
      from = end + 1;
    }
    this.add(piece, from, piece.length);
  }
  /** The last line need not have an end. */
  end(): void {
    if (this.kept !== '') this.line();
  }
  private add(piece: string, from: number, to: number): void {
    const room = LIMITS.plays.line + 1 - this.kept.length;
    if (room > 0 && to > from) this.kept += piece.slice(from, Math.min(to, from + room));
  }
  private line(): void {
    const line = this.kept;
    this.kept = '';
    this.take(line, ++this.number);
  }
}
