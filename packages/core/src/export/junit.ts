import { XMLBuilder } from 'fast-xml-parser';
import type { AuditResult, Finding } from '../audit/finding.js';
import { gateOf } from '../audit/audit.js';
import { ALL_RULES } from '../audit/rules/registry.js';
import { ruleName } from './rule-name.js';

/**
 * The audit as JUnit XML: one suite, one case for each rule. A case fails with the findings that stop the gate; others
 * stand in its output, waived ones too.
 */
export function auditJunit(result: AuditResult, stops: (f: Finding) => boolean): string {
  const cases = ALL_RULES.map(({ meta }) => {
    const findings = result.findings.filter((f) => f.rule === meta.name);
    const failing = findings.filter(stops);
    const others = findings.filter((f) => !stops(f));
    return {
      '@_classname': 'oquel.audit',
      '@_name': meta.name,
      ...(failing.length > 0
        ? {
            failure: {
              '@_message': xmlText(failing[0].message),
              '@_type': meta.name,
              '#text': lines(failing),
            },
          }
        : {}),
      ...(others.length > 0 ? { 'system-out': lines(others) } : {}),
    };
  });
  const failed = result.rehearsals?.failed ?? [];
  const rehearsals = result.rehearsals && {
    '@_classname': 'oquel.audit',
    '@_name': 'rehearsals',
    ...(failed.length > 0
      ? {
          failure: {
            '@_message': xmlText(`${failed.length} of ${result.rehearsals.run} failed`),
            '@_type': 'rehearsals',
            '#text': xmlText(failed.join('\n')),
          },
        }
      : {}),
  };
  const all = rehearsals ? [...cases, rehearsals] : cases;
  const counts = {
    '@_tests': all.length,
    '@_failures': all.filter((c) => 'failure' in c).length,
    '@_errors': 0,
  };
  const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true });
  const suite = { '@_name': xmlText(result.project), ...counts, '@_skipped': 0, testcase: all };
  const document = {
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    testsuites: { ...counts, testsuite: suite },
  };
  return builder.build(document);
}

/** Whether a finding stops a gate of that level. */
export function stopsGate(level: 'error' | 'warning' | 'none'): (f: Finding) => boolean {
  return (f) => gateOf([f], level) === 'stop';
}

function lines(findings: readonly Finding[]): string {
  return xmlText(
    findings
      .map((f) => {
        const places = f.occurrences.length > 0 ? `\n    ${f.occurrences.slice(0, 20).join('\n    ')}` : '';
        return `${f.severity} ${ruleName(f)}${f.waived ? ' (waived)' : ''}: ${f.message} [${f.fingerprint}]${places}`;
      })
      .join('\n'),
  );
}

const NOT_XML = // eslint-disable-next-line no-control-regex
  /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/** XML 1.0 has no way to write most control characters, nor halves of surrogate pairs. */
export function xmlText(text: string): string {
  return text.replace(NOT_XML, '\uFFFD');
}
