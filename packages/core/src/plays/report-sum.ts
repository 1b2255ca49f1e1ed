import { LIMITS } from '../limits.js';
import type { PlayReport, Raised, Served, Tally } from './play-report.js';
import { mostFirst, raisedKey, servedKey, REPORTED, REPORTED_KINDS, type Reported } from './reported.js';

type Counted = Pick<Tally, 'count' | 'sessions'>;

/**
 * Several reports taken together, as if all their sessions had come in one: what is reported of the same thing is added up,
 * with where it was seen first by the report that was given first. All must be judged by the same wiring. What a report
 * has left out cannot be added, so that counts are at least what is said where anything was. Memory is bounded like that
 * of one report; cost: linear in the reports.
 */
export class ReportSum {
  private sum: PlayReport | null = null;
  private readonly served = new Map<string, Served>();
  private readonly raised = new Map<string, Raised>();
  private readonly others = new Map<string, number>();
  private readonly reported = Object.fromEntries(REPORTED_KINDS.map((kind) => [kind, new Map()])) as {
    [K in keyof Reported]: Map<string, Reported[K]>;
  };
  /** How many reports have been added. */
  count = 0;

  /** Adds a report; false, and nothing is added, where it is judged by other wiring than those before. */
  add(report: PlayReport): boolean {
    if (this.sum && this.sum.wiring !== report.wiring) return false;
    this.count++;
    const sum = (this.sum ??= { ...report, ...NOTHING, broken: { count: 0, lines: [] }, rehearsals: [] });
    sum.sessions += report.sessions;
    sum.records += report.records;
    sum.seconds += report.seconds;
    sum.left += report.left;
    sum.broken.count += report.broken.count;
    for (const line of report.broken.lines)
      if (sum.broken.lines.length < LIMITS.plays.brokenLines) sum.broken.lines.push(line);
    for (const rehearsal of report.rehearsals)
      if (sum.rehearsals.length < LIMITS.plays.rehearsals) sum.rehearsals.push(rehearsal);
    for (const { wiring, sessions } of report.others)
      this.others.set(wiring, (this.others.get(wiring) ?? 0) + sessions);
    for (const entry of report.coverage.bindings) addUp(this.served, servedKey(entry), entry);
    for (const entry of report.raised) addUp(this.raised, raisedKey(entry), entry);
    for (const kind of REPORTED_KINDS) this.addReported(kind, report);
    return true;
  }
  private addReported<K extends keyof Reported>(kind: K, report: PlayReport): void {
    const map = this.reported[kind];
    for (const entry of report[kind] as Reported[K][]) {
      const key = REPORTED[kind](entry);
      if (map.has(key) || map.size < LIMITS.plays.reported) addUp(map, key, entry);
      else this.sum!.left++;
    }
  }
  /** Null where nothing was added. */
  report(): PlayReport | null {
    const { sum, reported } = this;
    if (!sum) return null;
    const { reported: most, bindings } = LIMITS.plays;
    const [served, raised] = [mostFirst(this.served.values()), mostFirst(this.raised.values())];
    return {
      ...sum,
      others: [...this.others].slice(0, most).map(([wiring, sessions]) => ({ wiring, sessions })),
      coverage: { served: served.length, of: sum.coverage.of, bindings: served.slice(0, bindings) },
      unknown: mostFirst(reported.unknown.values()),
      unexplained: mostFirst(reported.unexplained.values()),
      missing: mostFirst(reported.missing.values()),
      doubled: mostFirst(reported.doubled.values()),
      order: mostFirst(reported.order.values()),
      despite: mostFirst(reported.despite.values()),
      raised: raised.slice(0, most),
      left: sum.left + Math.max(0, served.length - bindings) + Math.max(0, raised.length - most),
    };
  }
}
const NOTHING = { sessions: 0, records: 0, seconds: 0, left: 0 };

function addUp<T extends Counted>(map: Map<string, T>, key: string, entry: T): void {
  const before = map.get(key);
  if (!before) map.set(key, { ...entry });
  else {
    before.count += entry.count;
    before.sessions += entry.sessions;
  }
}
