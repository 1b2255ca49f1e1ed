import { XMLBuilder } from 'fast-xml-parser';
import type { AuditResult, Finding } from '../audit/finding.js';
import { gateOf } from '../audit/audit-state.js';
import type { Rule } from '../audit/rule.js';
import { ALL_RULES } from '../audit/rules/registry.js';
import type { Waiver } from '../project/types.js';
import type { Places } from './located.js';
import { ruleName } from './rule-name.js';

/** Places of a finding that its case names. */
const MOST_PLACES = 20;

export interface JunitOptions {
  /** Whether a finding stops the gate. */
  stops: (f: Finding) => boolean;
  /** The document or folder that was audited, relative, as in `auditSarif`. */
  artifact?: string;
  places?: Places;
  /** With the reasons of waivers. */
  waivers?: readonly Waiver[];
  /** How long the audit took. */
  seconds?: number;
  /** Rules of the team's own that were run besides. */
  ownRules?: readonly Rule[];
}
type Case = Record<string, unknown>;

/**
 * The audit as JUnit XML: one suite, with a case for each finding, at the file and line where it is written, and one for each rule
 * that has found nothing. A finding that stops the gate fails, one that is waived is skipped, and any other says so in its
 * output. Cost: the findings and the places at which they occur.
 */
export function auditJunit(result: AuditResult, options: JunitOptions): string {
  const byRule = new Map<string, Finding[]>();
  for (const f of result.findings) {
    const same = byRule.get(f.rule);
    if (same) same.push(f);
    else byRule.set(f.rule, [f]);
  }
  const waivers = new Map((options.waivers ?? []).filter((w) => !w.proposed).map((w) => [w.fingerprint, w]));
  const cases = [...ALL_RULES, ...(options.ownRules ?? [])].flatMap(({ meta }): Case[] => {
    const found = byRule.get(meta.name);
    if (!found) return [{ '@_classname': 'oquel.audit', '@_name': meta.name, '@_time': 0 }];
    return found.map((f) => findingCase(f, options, waivers.get(f.fingerprint)));
  });
  if (result.rehearsals) cases.push(rehearsalsCase(result.rehearsals));
  const counts = {
    '@_tests': cases.length,
    '@_failures': cases.filter((c) => 'failure' in c).length,
    '@_errors': 0,
    '@_skipped': cases.filter((c) => 'skipped' in c).length,
    '@_time': options.seconds ?? 0,
  };
  const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true });
  const suite = { '@_name': xmlText(result.project), ...counts, testcase: cases };
  const document = {
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    testsuites: { ...counts, testsuite: suite },
  };
  return builder.build(document);
}

function findingCase(
  f: Finding,
  { stops, artifact, places }: JunitOptions,
  waiver: Waiver | undefined,
): Case {
  const at = places?.of(f.subject);
  const file = at && at.file !== '' && artifact !== undefined ? `${artifact}/${at.file}` : artifact;
  return {
    '@_classname': `oquel.${f.rule}`,
    '@_name': xmlText(`${f.message} [${f.fingerprint}]`),
    '@_time': 0,
    ...(file === undefined ? {} : { '@_file': xmlText(file) }),
    ...(at ? { '@_line': at.region.line } : {}),
    ...caseWords(f, stops, waiver),
  };
}
function caseWords(f: Finding, stops: (f: Finding) => boolean, waiver: Waiver | undefined): Case {
  const places = f.occurrences.slice(0, MOST_PLACES).map((at) => `\n    ${at}`);
  const text = xmlText(`${f.severity} ${ruleName(f)}: ${f.message}${places.join('')}`);
  if (f.waived) {
    return {
      skipped: { '@_message': xmlText(waiver ? `waived by ${waiver.by}: ${waiver.reason}` : 'waived') },
    };
  }
  if (!stops(f)) return { 'system-out': text };
  return { failure: { '@_message': xmlText(f.message), '@_type': f.rule, '#text': text } };
}
function rehearsalsCase({ run, failed }: NonNullable<AuditResult['rehearsals']>): Case {
  return {
    '@_classname': 'oquel.audit',
    '@_name': 'rehearsals',
    '@_time': 0,
    ...(failed.length > 0
      ? {
          failure: {
            '@_message': xmlText(`${failed.length} of ${run} failed`),
            '@_type': 'rehearsals',
            '#text': xmlText(failed.join('\n')),
          },
        }
      : {}),
  };
}

/** Whether a finding stops a gate of that level. */
export function stopsGate(level: 'error' | 'warning' | 'none'): (f: Finding) => boolean {
  return (f) => gateOf([f], level) === 'stop';
}

const NOT_XML = // eslint-disable-next-line no-control-regex
  /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/** XML 1.0 has no way to write most control characters, nor halves of surrogate pairs. */
export function xmlText(text: string): string {
  return text.replace(NOT_XML, '\uFFFD');
}
