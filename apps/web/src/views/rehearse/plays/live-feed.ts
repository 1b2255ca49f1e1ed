import { readPlayLine, StateTally, type PlayRecord, type StateChange, type TraceRecord } from '@oquel/core';

/** So many records are kept to be shown. */
const KEPT = 400;
/** Milliseconds after the last line for which a game counts as sending. */
const SENDING = 10_000;

/** What a game sends at this moment, ready to be drawn. The game's time goes on between its lines. */
export class LiveFeed {
  session = '';
  records: TraceRecord[] = [];
  changes: readonly StateChange[] = [];
  private tally = new StateTally();
  private readonly byNumber = new Map<number, TraceRecord>();
  /** When the last record came, by the clock of the page. */
  private came = -Infinity;
  private count = 0;

  take({ session, lines }: { session: string; lines: readonly string[] }, now: number): void {
    if (session !== this.session) this.begin(session);
    for (const line of lines) {
      const read = readPlayLine(line);
      if (read === null || typeof read === 'string' || read.record.kind === 'session') continue;
      this.add(read.record);
    }
    this.came = now;
    this.changes = this.tally.changes();
  }
  isSending(now: number): boolean {
    return now - this.came < SENDING;
  }
  /** The game's time, in microseconds. */
  timeAt(now: number): number {
    return (this.records.at(-1)?.t ?? 0) + Math.max(0, now - this.came) * 1000;
  }
  readonly of = (n: number): TraceRecord | undefined => this.byNumber.get(n);

  private begin(session: string): void {
    this.session = session;
    this.records = [];
    this.byNumber.clear();
    this.tally = new StateTally();
    this.count = 0;
  }
  private add(record: PlayRecord): void {
    const n = record.n ?? ++this.count;
    const shown = {
      cause: 0,
      payload: {},
      args: {},
      times: 1,
      ...record,
      n,
      t: record.t ?? this.records.at(-1)?.t ?? 0,
    } as TraceRecord;
    this.records.push(shown);
    this.byNumber.set(n, shown);
    this.tally.take(shown);
    if (this.records.length > KEPT) this.byNumber.delete(this.records.shift()!.n);
  }
}
