import type { Severity } from '../project/types.js';
import type { AuditContext } from './context.js';
import type { Evidence, Subject } from './finding.js';
import { own } from '../util/own.js';
import type { Besides } from './touched.js';

/** What a rule is and why it matters; the source of its page of documentation. */
export interface RuleMeta {
  readonly name: string;
  readonly severity: Exclude<Severity, 'off'>;
  /** Classes whose default severity differs are named with it. */
  readonly classes?: Readonly<Record<string, Exclude<Severity, 'off'>>>;
  readonly group: 'targets' | 'listeners' | 'shape' | 'correctness' | 'delivery' | 'waivers';
  /** It looks at declarations and placements alone, so an edit of bindings does not change what it finds. */
  readonly ignoresBindings?: true;
  /** What it looks at besides. */
  readonly besides?: Besides;
  /** One sentence each, in a designer's words. */
  readonly what: string;
  readonly why: string;
  readonly cure: string;
}

/** One fault as a rule reports it. Reports of the same class and subject become one finding. */
export interface Report<M extends string> {
  class?: string;
  /** Only where it differs from the rule's or class's default. */
  severity?: Exclude<Severity, 'off'>;
  subject: Subject;
  /** Instances where the fault is, or addresses where none stands. */
  occurrences: Iterable<number | string>;
  /** Made only for the first report of a finding. */
  evidence: () => Evidence;
  message: M;
  data: Readonly<Record<string, string | number>>;
}

export interface Rule<M extends string = string> {
  readonly meta: RuleMeta;
  /** Texts with `{name}` for data. */
  readonly messages: Readonly<Record<M, string>>;
  readonly check: (ctx: AuditContext, report: (r: Report<M>) => void) => void;
}

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
