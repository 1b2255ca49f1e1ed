import { OquelError } from '../util/oquel-error.js';
import { canonicalJson } from '../project/canonical.js';
import type { AnalysisInputs } from './inputs.js';
import { firstOf } from './facts/audiences.js';
import { partAndUnit, reportKey, type FindingState, type ReportStore } from './report-store.js';
import type { AnyPart, Part, Report, ReportingUnits, Rule } from './rule.js';
import type { EventUnit, UnitChanges, UnitKind, Units } from './units.js';
import { concernedEvents, UnitWalk } from './unit-walk.js';

/** A part of a rule that is in force: there is something in the project that it judges. */
interface ActivePart<U extends UnitKind = UnitKind> {
  rule: Rule;
  number: number;
  part: Part<U>;
  /** For events: by asset, the numbers of those that it concerns. */
  events: ReadonlySet<number>[] | null;
}

/** Units that an edit touched, by kind: they themselves, and after changes elsewhere. */
export type TouchedUnits = {
  [U in UnitKind]?: {
    own?: Iterable<number>;
    after?: Partial<Record<UnitChanges[U] & string, Iterable<number>>>;
  };
};

const KINDS: readonly UnitKind[] = [
  'project',
  'asset',
  'copies',
  'channel',
  'binding',
  'event',
  'action',
  'instance',
  'cycle',
  'tie',
  'audience',
  'gap',
];
/** Steps of judging everything: one for each kind of unit. */
export const JUDGE_STEPS = KINDS.length;
/** Units that are judged at one go. */
const AT_ONCE = 20_000;

/** Runs rules over the units of a project, and again over those that an edit touches. */
export class Judge {
  private readonly walk: UnitWalk;
  private readonly active: ReadonlyMap<UnitKind, ActivePart[]>;

  constructor(
    private readonly inputs: AnalysisInputs,
    rules: readonly Rule[],
    private readonly store: ReportStore,
  ) {
    this.walk = new UnitWalk(inputs);
    const { assets } = inputs.index;
    const parts = rules.flatMap((rule) =>
      rule.parts.flatMap((part: AnyPart, number): ActivePart[] => {
        if (part.applies && !part.applies(inputs)) return [];
        const events = part.unit === 'event' ? concernedEvents(assets, part.concerns) : null;
        return [{ rule, number, part: part as unknown as Part<UnitKind>, events }];
      }),
    );
    this.active = new Map(KINDS.map((kind) => [kind, parts.filter((p) => p.part.unit === kind)]));
  }

  /** Judges everything. It yields how far it is: kinds that are done, with the share of the one at hand. */
  *all(): Generator<{ kind: UnitKind; done: number }, void> {
    for (const [at, kind] of KINDS.entries()) {
      yield { kind, done: at };
      for (const share of this.kind(kind, this.active.get(kind)!)) yield { kind, done: at + share };
    }
    this.store.settle();
  }
  /** Judges the units that an edit touched. */
  again(touched: TouchedUnits): void {
    for (const kind of KINDS) {
      const own = touched[kind];
      if (own) this.againOf(kind, own.own ?? [], own.after ?? {});
    }
    this.store.settle();
  }
  /** Looks anew at which events of some assets rules concern. The events are judged apart. */
  redeclared(assets: ReadonlySet<number>): void {
    const { index } = this.inputs;
    for (const { part, events } of this.active.get('event')!) {
      for (const at of assets) {
        [events![at]] = concernedEvents([index.assets[at]], (part as unknown as Part<'event'>).concerns);
      }
    }
  }
  /** Judges every unit again that depends on these parts of the policy. */
  afterPolicy(changes: ReadonlySet<string>): void {
    for (const [kind, parts] of this.active) {
      const these = parts.filter(({ part }) =>
        ((part.after ?? []) as readonly string[]).some((change) => changes.has(change)),
      );
      for (const { rule, number } of these) {
        for (const unit of this.store.reporting(rule, number))
          this.store.retract(rule, reportKey(number, unit));
      }
      for (const _ of this.kind(kind, these));
    }
    this.store.settle();
  }

  /** The report of a finding that comes first, and the units of its part that report it. Cost: one unit, and their number. */
  firstReport(state: FindingState): { report: Report; units: ReportingUnits } {
    let first = -1;
    for (const key of state.reports.keys())
      if (first < 0 || this.comesBefore(state.rule, key, first)) first = key;
    const { part: number, unit } = partAndUnit(first);
    const units = reportingUnits(state, number);
    if (state.latest?.key === first) return { report: state.latest.report, units };
    const part = state.rule.parts[number] as unknown as Part<UnitKind>;
    let found: Report | null = null;
    part.check(this.inputs, this.walk.unit(part.unit, unit), (report) => {
      if (found || report.class !== state.class || canonicalJson(report.subject) !== state.sortKey) return;
      found = report;
    });
    return { report: found!, units };
  }
  private comesBefore(rule: Rule, a: number, b: number): boolean {
    const [one, two] = [partAndUnit(a), partAndUnit(b)];
    const order = this.order(rule, one) - this.order(rule, two);
    return order < 0 || (order === 0 && one.part < two.part);
  }
  /** Where a unit stands among those of its rule. */
  private order(rule: Rule, { part, unit }: { part: number; unit: number }): number {
    const { facts } = this.inputs;
    const kind = rule.parts[part].unit;
    if (kind === 'audience') return firstOf(facts.audiences.get(unit)!);
    if (kind !== 'cycle') return unit;
    return this.walk.unit('cycle', unit)![0];
  }

  private *kind(kind: UnitKind, parts: readonly ActivePart[]): Iterable<number> {
    if (parts.length === 0) return;
    if (kind === 'event') yield* this.events(parts as unknown as ActivePart<'event'>[]);
    else if (kind === 'action') yield* this.actions(parts as unknown as ActivePart<'action'>[]);
    else if (kind === 'binding') yield* this.bindings(parts as unknown as ActivePart<'binding'>[]);
    else if (kind === 'instance') yield* this.instances(parts as unknown as ActivePart<'instance'>[]);
    else {
      const numbers = this.walk.all(kind);
      for (let i = 0; i < numbers.length; i++) {
        if (i % AT_ONCE === AT_ONCE - 1) yield i / numbers.length;
        let unit: Units[UnitKind] | null | undefined;
        for (const active of parts) {
          if (!this.isCandidate(active, numbers[i])) continue;
          unit ??= this.walk.unit(kind, numbers[i]);
          this.check(active, numbers[i], unit);
        }
      }
    }
  }
  private *events(parts: readonly ActivePart<'event'>[]): Iterable<number> {
    const { inputs } = this;
    const { x, facts, index } = inputs;
    const { hasBinding } = facts;
    let done = 0;
    for (const asset of index.assets) {
      const byEvent = asset.events.map((_, e) => parts.filter(({ events }) => events![asset.at].has(e)));
      for (const instance of inputs.instancesOf(asset.at)) {
        for (let e = 0; e < byEvent.length; e++) {
          const node = x.nodeBase[instance] + e;
          if (hasBinding[node] === 0) continue;
          let unit: EventUnit | null = null;
          for (const active of byEvent[e]) {
            if (!this.isCandidate(active, node)) continue;
            unit ??= { node, instance, asset, number: e, event: asset.events[e] };
            this.check(active, node, unit);
          }
        }
      }
      done += inputs.instancesOf(asset.at).length;
      yield done / x.count;
    }
  }
  private *actions(parts: readonly ActivePart<'action'>[]): Iterable<number> {
    const { inputs } = this;
    const { x, index } = inputs;
    let done = 0;
    for (const asset of index.assets) {
      const count = asset.actions.length;
      for (const instance of count > 0 ? inputs.instancesOf(asset.at) : NONE) {
        const base = x.nodeBase[instance] + asset.events.length;
        for (let a = 0; a < count; a++) {
          for (const active of parts) {
            if (!this.isCandidate(active, base + a)) continue;
            const unit = { node: base + a, instance, asset, number: a, action: asset.actions[a] };
            this.check(active, base + a, unit);
          }
        }
      }
      done += inputs.instancesOf(asset.at).length;
      yield done / x.count;
    }
  }
  private *instances(parts: readonly ActivePart<'instance'>[]): Iterable<number> {
    const { inputs } = this;
    const { x, index } = inputs;
    let done = 0;
    for (const asset of index.assets) {
      const own = parts.filter(({ part }) => !part.concerns || part.concerns(asset));
      const instances = inputs.instancesOf(asset.at);
      for (const active of own) {
        for (const i of instances) if (this.isCandidate(active, i)) this.check(active, i, i);
      }
      done += instances.length;
      yield done / x.count;
    }
  }
  private *bindings(parts: readonly ActivePart<'binding'>[]): Iterable<number> {
    const { assets } = this.inputs.index;
    const { slots } = this.inputs.x;
    for (const asset of assets) {
      const base = slots.base[asset.at];
      for (let position = 0; position < asset.bindings.length; position++) {
        const number = base + slots.slot(asset.at, position);
        const unit = this.walk.unit('binding', number);
        if (!unit) continue;
        for (const active of parts) if (this.isCandidate(active, number)) this.check(active, number, unit);
      }
      yield asset.at / assets.length;
    }
  }
  private isCandidate<U extends UnitKind>({ part }: ActivePart<U>, number: number): boolean {
    return part.isCandidate === undefined || part.isCandidate(this.inputs, number);
  }

  private againOf(
    kind: UnitKind,
    own: Iterable<number>,
    after: Readonly<Record<string, Iterable<number> | undefined>>,
  ): void {
    const units = new Map<number, Units[UnitKind] | null>();
    const unitOf = (number: number): Units[UnitKind] | null => {
      // An instance is its own unit.
      if (kind === 'instance') return this.walk.unit(kind, number);
      let unit = units.get(number);
      if (unit === undefined) units.set(number, (unit = this.walk.unit(kind, number)));
      return unit;
    };
    const judge = (active: ActivePart, number: number): void => {
      this.store.retract(active.rule, reportKey(active.number, number));
      if (!this.isConcerned(kind, active, number)) return;
      const unit = this.isCandidate(active, number) ? unitOf(number) : null;
      if (unit !== null || kind === 'project') this.check(active, number, unit);
    };
    const changes = new Map(Object.entries(after));
    for (const active of this.active.get(kind)!) {
      const named = (active.part.after ?? []) as readonly string[];
      const lists = [own, ...named.map((change) => changes.get(change) ?? [])];
      for (const number of onceEach(lists)) judge(active, number);
    }
  }
  /** A binding is asked once it is a unit. */
  private isConcerned(kind: UnitKind, { events, part }: ActivePart, node: number): boolean {
    const { g, x } = this.inputs;
    if (kind === 'instance') {
      const concerns = part.concerns as Part<'instance'>['concerns'];
      return !concerns || x.isFree(node) || concerns(x.assetOf(node));
    }
    if (kind !== 'event') return true;
    if (g.instanceOf[node] < 0 || g.action[node] !== 0) return false;
    const instance = g.instanceOf[node];
    return events![x.asset[instance]].has(node - x.nodeBase[instance]);
  }

  private check<U extends UnitKind>({ rule, number, part }: ActivePart<U>, unit: number, of: Units[U]): void {
    if (part.unit === 'binding') {
      const { binding } = of as Units['binding'];
      if (part.concerns && !(part as unknown as Part<'binding'>).concerns!(binding)) return;
    }
    // Millions of units are judged: nothing is made for each.
    this.reportingRule = rule;
    this.reportingKey = reportKey(number, unit);
    if (rule.meta.group === 'own') failingAs(rule, () => part.check(this.inputs, of, this.take));
    else part.check(this.inputs, of, this.take);
  }
  private reportingRule!: Rule;
  private reportingKey = 0;
  /** Takes the reports of the unit that is being judged. */
  private readonly take = (report: Report): void => {
    this.store.take(this.reportingRule, this.reportingKey, report);
  };
}

/** A team's own rule that threw. */
export class RuleFailed extends OquelError {
  override readonly name = 'RuleFailed';
  readonly code = 'rule-failed';
  constructor(rule: string, cause: unknown) {
    super(`the rule ${rule} failed: ${cause instanceof Error ? cause.message : String(cause)}`, { cause });
  }
}

/** Runs some of a rule; what a team's own rule throws is reported with its name. */
export function failingAs<T>({ meta }: Rule, run: () => T): T {
  try {
    return run();
  } catch (error) {
    throw meta.group === 'own' ? new RuleFailed(meta.name, error) : error;
  }
}

const NONE = new Int32Array(0);
/** What is in some lists, once each; most often only one of them has anything. */
function onceEach(lists: readonly Iterable<number>[]): Iterable<number> {
  const filled = lists.filter((list) => !isEmpty(list));
  if (filled.length === 1) return filled[0];
  return new Set(filled.flatMap((list) => [...list]));
}
function isEmpty(list: Iterable<number>): boolean {
  for (const _ of list) return false;
  return true;
}

function reportingUnits({ reports }: FindingState, part: number): ReportingUnits {
  const numbers = (): number[] => {
    const units: number[] = [];
    for (const key of reports.keys()) {
      const of = partAndUnit(key);
      if (of.part === part) units.push(of.unit);
    }
    return units;
  };
  return {
    get count() {
      return numbers().length;
    },
    first: (most) => [...Float64Array.from(numbers()).sort().subarray(0, most)],
  };
}
