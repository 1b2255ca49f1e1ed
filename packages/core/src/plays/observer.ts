import { LIMITS } from '../limits.js';
import type { WalkWiring } from '../walk/live-walk.js';
import { PlaySession, type Findings } from './play-session.js';
import type { BindingName, PlayReport, Raised, SeenAt, Served, Tally } from './play-report.js';
import { readPlayLine } from './record-line.js';
import { mostFirst, raisedKey, servedKey, REPORTED, REPORTED_KINDS, type Reported } from './reported.js';

/** Microseconds by which a game may be early or late. */
export const TOLERANCE = 250_000;

export interface ObserverOptions {
  tolerance?: number;
  /** Under which sessions become rehearsals. */
  loadSet?: string;
}
interface Open {
  name: string;
  session: PlaySession;
  /** What has been counted for it already. */
  counted: Set<string>;
}
interface Counted {
  count: number;
  sessions: number;
}

/**
 * Judges what games have written, line by line, in any number of sessions side by side. Cost: linear in the lines; memory
 * for the sessions that are open, and for what is reported.
 */
export class PlayObserver {
  private readonly open = new Map<string, Open>();
  private readonly names = new Set<string>();
  private here: SeenAt = { source: '', line: 0, t: 0 };
  private current: Open | null = null;
  private sessions = 0;
  private records = 0;
  private micros = 0;
  private left = 0;
  private readonly broken: PlayReport['broken'] = { count: 0, lines: [] };
  private readonly servedBy = new Map<string, Served>();
  private readonly raisedBy = new Map<string, Raised>();
  private readonly reported = Object.fromEntries(REPORTED_KINDS.map((kind) => [kind, new Map()])) as {
    [K in keyof Reported]: Map<string, Reported[K]>;
  };
  private readonly others = new Map<string, number>();
  private readonly rehearsals: PlayReport['rehearsals'] = [];
  private readonly findings: Findings;

  constructor(
    private readonly wiring: WalkWiring,
    private readonly options: ObserverOptions = {},
  ) {
    this.findings = {
      served: (binding) => this.served(binding),
      raised: (at, event) => this.raised(at, event),
      unknown: (what, name) => this.add('unknown', { what, name }),
      unexplained: (at, action, after) =>
        this.add('unexplained', { at, action, ...(after ? { after } : {}) }),
      missing: (what) => this.add('missing', what),
      doubled: (what) => this.add('doubled', what),
      order: (late, early) => this.add('order', { late, early }),
      despite: (at, name, reason) => this.add('despite', { at, name, reason }),
    };
  }

  /** One line of a file or a body. `session`: of lines that do not name theirs. */
  take(line: string, source: string, number: number, session = source): void {
    const read = readPlayLine(line);
    if (read === null) return;
    this.here = { source, line: number, t: 0 };
    if (typeof read === 'string') {
      this.broken.count++;
      if (this.broken.lines.length < LIMITS.plays.brokenLines)
        this.broken.lines.push({ source, line: number, why: read });
      return;
    }
    this.records++;
    const of = this.sessionCalled(read.session === '' ? session : read.session);
    this.current = of;
    this.here.t = read.record.t ?? of.session.now;
    const { kind, wiring } = read.record;
    if (kind !== 'session') of.session.take(read.record);
    else if (wiring !== undefined && wiring !== this.wiring.project.hash) this.other(wiring);
  }
  private other(wiring: string): void {
    const n = this.others.get(wiring);
    if (n !== undefined || this.others.size < LIMITS.plays.reported) this.others.set(wiring, (n ?? 0) + 1);
  }
  /** Ends the sessions that are open. */
  end(): void {
    for (const name of [...this.open.keys()]) this.close(name);
  }
  report(): PlayReport {
    const { reported, broken, records, sessions } = this;
    const served = mostFirst(this.servedBy.values());
    const raised = mostFirst(this.raisedBy.values());
    const { reported: most, bindings } = LIMITS.plays;
    return {
      format: 'oquel.plays/1',
      wiring: this.wiring.project.hash,
      sessions,
      others: [...this.others].map(([wiring, n]) => ({ wiring, sessions: n })),
      records,
      seconds: Math.round(this.micros / 1e6),
      broken,
      coverage: {
        served: served.length,
        of: this.wiring.scenes.reduce((n, s) => n + s.bindings.owner.length, 0),
        bindings: served.slice(0, bindings),
      },
      unknown: mostFirst(reported.unknown.values()),
      unexplained: mostFirst(reported.unexplained.values()),
      missing: mostFirst(reported.missing.values()),
      doubled: mostFirst(reported.doubled.values()),
      order: mostFirst(reported.order.values()),
      despite: mostFirst(reported.despite.values()),
      raised: raised.slice(0, most),
      rehearsals: this.rehearsals,
      left: this.left + Math.max(0, served.length - bindings) + Math.max(0, raised.length - most),
    };
  }

  private sessionCalled(name: string): Open {
    let of = this.open.get(name);
    if (of) {
      // The one that was silent longest stands first.
      if (this.current !== of) {
        this.open.delete(name);
        this.open.set(name, of);
      }
      return of;
    }
    if (this.open.size >= LIMITS.plays.open) this.close(this.open.keys().next().value!);
    if (!this.names.has(name)) this.sessions++;
    if (this.names.size < LIMITS.plays.sessions) this.names.add(name);
    const keeps = this.sessions <= LIMITS.plays.rehearsals;
    const session = new PlaySession(
      this.wiring,
      this.options.tolerance ?? TOLERANCE,
      this.findings,
      keeps ? LIMITS.plays.steps : 0,
    );
    of = { name, session, counted: new Set() };
    this.open.set(name, of);
    return of;
  }
  private close(name: string): void {
    const of = this.open.get(name)!;
    this.current = of;
    of.session.end();
    this.micros += of.session.now;
    this.left += of.session.left;
    this.open.delete(name);
    const { steps } = of.session;
    if (steps.length > 0 && this.rehearsals.length < LIMITS.plays.rehearsals) {
      const { loadSet } = this.options;
      const called = `Play ${name}`.slice(0, LIMITS.document.name);
      this.rehearsals.push({ name: called, ...(loadSet === undefined ? {} : { loadSet }), steps });
    }
  }

  private served({ owner, binding }: BindingName): void {
    // Copies count with what they are copies of.
    const of = owner.includes('#') ? owner.replace(/#\d+/g, '') : owner;
    const key = servedKey({ owner: of, binding });
    let entry = this.servedBy.get(key);
    if (!entry) this.servedBy.set(key, (entry = { owner: of, binding, count: 0, sessions: 0 }));
    this.counted(entry, key);
  }
  private raised(at: string, event: string): void {
    const key = raisedKey({ at, event });
    let entry = this.raisedBy.get(key);
    if (!entry) this.raisedBy.set(key, (entry = { at, event, count: 0, sessions: 0 }));
    this.counted(entry, key);
  }
  private add<K extends keyof Reported>(kind: K, what: Parameters<(typeof REPORTED)[K]>[0]): void {
    const key = (REPORTED[kind] as (of: typeof what) => string)(what);
    const map = this.reported[kind] as Map<string, Tally>;
    let entry = map.get(key);
    if (!entry) {
      if (map.size >= LIMITS.plays.reported) {
        this.left++;
        return;
      }
      map.set(key, (entry = { ...what, count: 0, sessions: 0, first: { ...this.here } }));
    }
    this.counted(entry, `${kind} ${key}`);
  }
  private counted(entry: Counted, key: string): void {
    entry.count++;
    const { counted } = this.current!;
    if (counted.has(key)) return;
    counted.add(key);
    entry.sessions++;
  }
}
