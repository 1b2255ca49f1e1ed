import { canonicalJson } from '../project/canonical.js';
import type { Severity } from '../project/types.js';
import { own } from '../util/own.js';
import type { Finding, Subject } from './finding.js';
import { Occurrences, type Place } from './occurrences.js';
import { fingerprint } from './fingerprint.js';
import { MAX_PARTS, type Report, type Rule } from './rule.js';

/** A finding as it is kept: which units report it, and where. What it says is rendered when somebody looks. */
export interface FindingState {
  readonly rule: Rule;
  readonly class: string | undefined;
  readonly subject: Subject;
  /** The subject's canonical text. */
  readonly sortKey: string;
  /** Before the policy. */
  severity: Exclude<Severity, 'off'>;
  /** By number of part and unit, the instances or addresses that are reported there. */
  readonly reports: ReadonlyMap<number, unknown>;
  readonly occurrences: Occurrences;
  /** As it was last rendered; null if that holds no more. */
  rendered: Finding | null;
  /** 16 hex digits; made when first asked for. */
  readonly fingerprint: string;
  /** The report of the first unit that has reported it since the last listing; so that unit need not be judged for it again. */
  latest: { key: number; report: Report } | null;
}

/** A part of a rule and a unit as one number, and back. */
export function reportKey(part: number, unit: number): number {
  return unit * MAX_PARTS + part;
}
export function partAndUnit(key: number): { part: number; unit: number } {
  const part = key % MAX_PARTS;
  return { part, unit: (key - part) / MAX_PARTS };
}

/** Which findings differ from those of the last time that somebody asked. */
export interface FindingChanges {
  /** New, or said or occurring otherwise. */
  changed: Set<FindingState>;
  gone: Set<FindingState>;
}

/**
 * What rules report, by unit; reports with the same rule, class and subject are one finding. A unit's reports can be taken
 * out at their own cost.
 */
export class ReportStore {
  private readonly byId = new Map<string, State>();
  private readonly byUnit = new Map<Rule, Map<number, State[]>>();
  private doubted: { state: State; key: number }[] = [];
  private changes: FindingChanges = { changed: new Set(), gone: new Set() };

  take(rule: Rule, key: number, report: Report): void {
    const state = this.stateOf(rule, report);
    state.severity = report.severity ?? defaultSeverity(rule, report.class);
    this.changes.changed.add(state);
    state.rendered = null;
    if (!state.latest || key < state.latest.key) state.latest = { key, report };
    if (!state.report(key, report.occurrences)) return;
    const units = this.unitsOf(rule);
    const own = units.get(key);
    if (own) own.push(state);
    else units.set(key, [state]);
  }
  private last: State | null = null;
  private stateOf(rule: Rule, report: Report): State {
    // Copies of one thing report the same finding one after the other.
    const { last } = this;
    if (last?.rule === rule && last.class === report.class && sameFields(last.subject, report.subject))
      return last;
    const sortKey = canonicalJson(report.subject);
    const id = `${rule.meta.name}\n${report.class ?? ''}\n${sortKey}`;
    let state = this.byId.get(id);
    if (!state) this.byId.set(id, (state = new State(rule, report, sortKey)));
    return (this.last = state);
  }

  /** Takes out what a unit reported, unless it reports it again before {@link settle}. */
  retract(rule: Rule, key: number): void {
    const units = this.byUnit.get(rule);
    const states = units?.get(key);
    if (!states) return;
    units!.delete(key);
    for (const state of states) {
      state.doubt(key);
      state.rendered = null;
      if (state.latest?.key === key) state.latest = null;
      this.changes.changed.add(state);
      this.doubted.push({ state, key });
    }
  }

  /** Units of a part that report something. */
  reporting(rule: Rule, part: number): number[] {
    const units: number[] = [];
    for (const key of this.byUnit.get(rule)?.keys() ?? []) {
      const of = partAndUnit(key);
      if (of.part === part) units.push(of.unit);
    }
    return units;
  }
  /** Lets go of what units do not report any more. To be called once those that changed have reported again. */
  settle(): void {
    const emptied = new Set<State>();
    for (const { state, key } of this.doubted) {
      state.drop(key);
      if (state.reports.size === 0) emptied.add(state);
    }
    this.doubted = [];
    this.last = null;
    for (const state of emptied) {
      this.byId.delete(idOf(state));
      this.changes.changed.delete(state);
      this.changes.gone.add(state);
    }
  }
  /** All findings, in no order. */
  states(): Iterable<FindingState> {
    return this.byId.values();
  }
  get size(): number {
    return this.byId.size;
  }
  takeChanges(): FindingChanges {
    const { changes } = this;
    this.changes = { changed: new Set(), gone: new Set() };
    return changes;
  }
  private unitsOf(rule: Rule): Map<number, State[]> {
    let units = this.byUnit.get(rule);
    if (!units) this.byUnit.set(rule, (units = new Map<number, State[]>()));
    return units;
  }
}

/** Whether two subjects have the very same texts in the very same places; others are compared by their canonical texts. */
function sameFields(a: Subject, b: Subject): boolean {
  const [one, two] = [Object.entries(a), Object.entries(b)];
  return (
    one.length === two.length && one.every(([key, value], i) => two[i][0] === key && two[i][1] === value)
  );
}

function idOf({ rule, class: cls, sortKey }: FindingState): string {
  return `${rule.meta.name}\n${cls ?? ''}\n${sortKey}`;
}

/** What one unit reports of a finding. */
interface Reported {
  readonly places: Place[];
  /** What the places were read from: the very same again is not read again. Null where there were several. */
  source: Iterable<Place> | null;
  /** Taken out, and not reported again so far. */
  isDoubted: boolean;
}

class State implements FindingState {
  readonly class: string | undefined;
  readonly subject: Subject;
  severity: FindingState['severity'];
  readonly reports = new Map<number, Reported>();
  readonly occurrences = new Occurrences();
  rendered: Finding | null = null;
  latest: FindingState['latest'] = null;
  private print: string | null = null;

  constructor(
    readonly rule: Rule,
    report: Report,
    readonly sortKey: string,
  ) {
    this.class = report.class;
    this.subject = report.subject;
    this.severity = report.severity ?? defaultSeverity(rule, report.class);
  }
  /** Takes what a unit reports; false if it has reported the finding already. */
  report(key: number, source: Iterable<Place>): boolean {
    const known = this.reports.get(key);
    const isAgain = known?.isDoubted === true;
    if (known && isAgain && known.source === source) {
      known.isDoubted = false;
      return true;
    }
    if (isAgain) this.drop(key);
    const places = known && !isAgain ? known.places : [];
    for (const place of source) {
      places.push(place);
      this.occurrences.add(place);
    }
    if (known && !isAgain) {
      known.source = null;
      return false;
    }
    this.reports.set(key, { places, source, isDoubted: false });
    return true;
  }
  doubt(key: number): void {
    this.reports.get(key)!.isDoubted = true;
  }
  /** Takes out what a unit reported and did not report again. */
  drop(key: number): void {
    const known = this.reports.get(key);
    if (!known?.isDoubted) return;
    for (const place of known.places) this.occurrences.remove(place);
    this.reports.delete(key);
  }
  get fingerprint(): string {
    return (this.print ??= fingerprint(this.rule.meta.name, this.class, this.subject));
  }
}

export function defaultSeverity(rule: Rule, cls: string | undefined): 'error' | 'warning' | 'info' {
  return (cls === undefined ? undefined : own(rule.meta.classes, cls)) ?? rule.meta.severity;
}
