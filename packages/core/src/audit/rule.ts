import type { AssetIndex } from '../project/index-project.js';
import type { Binding, EventDecl, Severity } from '../project/types.js';
import type { AnalysisInputs } from './inputs.js';
import type { Evidence, Subject } from './finding.js';
import { own } from '../util/own.js';
import type { UnitChanges, UnitKind, Units } from './units.js';

/** What a rule is and why it matters; the source of its page of documentation. */
export interface RuleMeta {
  readonly name: string;
  readonly severity: Exclude<Severity, 'off'>;
  /** Classes whose default severity differs are named with it. */
  readonly classes?: Readonly<Record<string, Exclude<Severity, 'off'>>>;
  readonly group: 'targets' | 'listeners' | 'shape' | 'correctness' | 'delivery' | 'waivers' | 'own';
  /** One sentence each, in a designer's words. */
  readonly what: string;
  readonly why: string;
  readonly fix: string;
}

/** One fault as a rule reports it. Reports of the same class and subject become one finding. */
export interface Report<M extends string = string> {
  class?: string;
  /** Only where it differs from the rule's or class's default; the same in all reports of a finding. */
  severity?: Exclude<Severity, 'off'>;
  subject: Subject;
  /** Instances where the fault is, or addresses where none stands. */
  occurrences: Iterable<number | string>;
  message: M;
  /** Asked of the first report of a finding, when somebody looks at it. */
  data: () => Readonly<Record<string, string | number>>;
  /** So is this. */
  evidence: (units: ReportingUnits) => Evidence;
}
/** The units of one part that report a finding, by their numbers. */
export interface ReportingUnits {
  readonly count: number;
  /** The first so many, ascending. */
  first: (most: number) => number[];
}
export type TakeReport<M extends string = string> = (report: Report<M>) => void;

/**
 * What a rule judges: units of one kind, each on its own. A unit is judged again when it comes, when what it says itself
 * changes, and after the changes that are named here; so nothing else may be looked at.
 */
export interface Part<U extends UnitKind, M extends string = string> {
  readonly unit: U;
  readonly after?: readonly UnitChanges[U][];
  /** Whether there is anything to judge in the project at all; by declarations, placements and policy. */
  readonly applies?: (inputs: AnalysisInputs) => boolean;
  /** Which units are judged, by what they say themselves. All if left out. */
  readonly concerns?: Concerns<U>;
  /** A test by the unit's number, before the unit is made: false where there is surely nothing to report. */
  readonly isCandidate?: (inputs: AnalysisInputs, number: number) => boolean;
  readonly check: (inputs: AnalysisInputs, unit: Units[U], report: TakeReport<M>) => void;
}
type Concerns<U extends UnitKind> = U extends 'event'
  ? (event: EventDecl, asset: AssetIndex) => boolean
  : U extends 'binding'
    ? (binding: Binding) => boolean
    : U extends 'instance'
      ? (asset: AssetIndex) => boolean
      : never;
export type AnyPart<M extends string = string> = { [U in UnitKind]: Part<U, M> }[UnitKind];

export interface Rule<M extends string = string> {
  readonly meta: RuleMeta;
  /** Texts with `{name}` for data. */
  readonly messages: Readonly<Record<M, string>>;
  readonly parts: readonly AnyPart<M>[];
}

/** Parts that a rule may have. */
export const MAX_PARTS = 8;

/** Ties the message ids of a rule to its table. */
export function defineRule<M extends string>(rule: Rule<M>): Rule<M> {
  return rule;
}

/**
 * Fills the placeholders of a message; "a" before one becomes "an" where what is filled in begins with a vowel. Throws on one
 * that has no data: that is an error in the rule.
 */
export function renderMessage(template: string, data: Readonly<Record<string, string | number>>): string {
  return template.replace(/(\ba )?\{(\w+)\}/g, (_, article: string | undefined, name: string) => {
    const value = own(data, name);
    if (value === undefined) throw new Error(`message "${template}" has no data for {${name}}`);
    const text = String(value);
    return article === undefined ? text : `${/^[aeiou]/i.test(text) ? 'an' : 'a'} ${text}`;
  });
}
