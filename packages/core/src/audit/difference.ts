import { alignLists } from '../util/align-lists.js';
import type { AuditResult, Finding } from './finding.js';

/** What an edit did to the result of an audit, for whoever has the result before it. */
export interface AuditDifference extends Omit<AuditResult, 'findings'> {
  /** How many findings there were. */
  before: number;
  /** Positions of findings that are gone, or say something else now, in the list before; ascending. */
  gone: number[];
  /** Findings that are new or say something else, with their positions in the list after; ascending. */
  put: { at: number; finding: Finding }[];
}

/** Findings that stay are the very same objects in both results, as an incremental audit gives them. Linear. */
export function auditDifference(before: AuditResult, after: AuditResult): AuditDifference {
  const { findings, ...rest } = after;
  const { gone, fresh } = alignLists(before.findings, findings);
  return {
    ...rest,
    before: before.findings.length,
    gone,
    put: fresh.map((at) => ({ at, finding: findings[at] })),
  };
}

/** The result after an edit, from the one before it. What stays is the very same. Linear. @throws Error for another result */
export function withDifference(before: AuditResult, difference: AuditDifference): AuditResult {
  const { before: count, gone, put, ...rest } = difference;
  if (count !== before.findings.length) {
    throw new Error(`a difference to ${count} findings does not fit ${before.findings.length}`);
  }
  const findings: Finding[] = [];
  let [g, p] = [0, 0];
  const takePut = (): void => {
    for (; p < put.length && put[p].at === findings.length; p++) findings.push(put[p].finding);
  };
  before.findings.forEach((finding, i) => {
    if (gone[g] === i) {
      g++;
      return;
    }
    takePut();
    findings.push(finding);
  });
  takePut();
  return { ...rest, findings };
}
