import { OquelError } from '../util/oquel-error.js';
import { compareFindings } from './compare.js';
import type { AuditResult, Finding } from './finding.js';
import { gateOf } from './audit-state.js';

/** Why a text is no baseline. */
export class BrokenBaseline extends OquelError {
  override readonly name = 'BrokenBaseline';
  readonly code = 'broken-baseline';
}

/** Reads an earlier audit in its JSON form. @throws BrokenBaseline */
export function readBaseline(text: string): AuditResult {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new BrokenBaseline(`it is not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  const { format, findings } = (value ?? {}) as { format?: unknown; findings?: unknown };
  if (format !== 'oquel.audit/1') {
    throw new BrokenBaseline(
      `expected "oquel.audit/1" at /format, found ${JSON.stringify(format) ?? 'nothing'}`,
    );
  }
  if (!Array.isArray(findings)) throw new BrokenBaseline('expected a list at /findings');
  findings.forEach((f: unknown, i) => {
    const { fingerprint, occurrences } = (f ?? {}) as Partial<Finding>;
    if (typeof fingerprint !== 'string')
      throw new BrokenBaseline(`expected a text at /findings/${i}/fingerprint`);
    if (!Array.isArray(occurrences))
      throw new BrokenBaseline(`expected a list at /findings/${i}/occurrences`);
  });
  return value as AuditResult;
}

/**
 * The audit with its gate judged on what is new since the baseline: an unknown fingerprint, a new occurrence, or a
 * rehearsal that did not fail then.
 */
export function againstBaseline(
  result: AuditResult,
  baseline: AuditResult,
  gate: 'error' | 'warning' | 'none',
): { result: AuditResult; since: ReturnType<typeof compareFindings> } {
  const since = compareFindings(baseline.findings, result.findings);
  const before = new Set(baseline.rehearsals?.failed);
  const fails = gate !== 'none' && result.rehearsals?.failed.some((name) => !before.has(name)) === true;
  return { result: { ...result, gate: fails ? 'stop' : gateOf(since.added, gate) }, since };
}
