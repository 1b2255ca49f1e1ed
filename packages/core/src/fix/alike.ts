import { IncrementalAudit } from '../audit/incremental-audit.js';
import { compareFindings, type FindingChange } from '../audit/compare.js';
import type { Finding } from '../audit/finding.js';
import type { Change } from '../edit/change.js';
import type { Project } from '../project/types.js';
import { fixesIn } from './propose.js';
import { append } from '../util/append.js';

/** One edit that fixes several findings of a kind. */
export interface FixOfMany extends FindingChange {
  changes: Change[];
  /** What is done for each, in order. */
  steps: { finding: Finding; label: string }[];
  /** Findings of the kind that have no fix without new errors, or were not tried for their number. */
  left: number;
}
/** Findings that are tried at the most: each costs some audits. */
export const MOST_ALIKE = 40;

/**
 * Fixes all findings of the same rule and class one after the other, each with the first fix that brings no new error.
 * Waived ones stay. Cost: an audit, and an edit and its taking back for each proposal of each finding.
 */
export function fixAlike(project: Project, like: Finding, today: string): FixOfMany {
  const audit = IncrementalAudit.open(project, today);
  const before = audit.result.findings;
  const alike = (f: Finding): boolean => f.rule === like.rule && f.class === like.class && f.waived !== true;
  const steps: FixOfMany['steps'] = [];
  const changes: Change[] = [];
  const wanted = before.filter(alike);
  for (const finding of wanted.slice(0, MOST_ALIKE)) {
    // An earlier fix may have taken it away, or changed what it says.
    const still = audit.result.findings.find((f) => f.fingerprint === finding.fingerprint);
    if (!still) continue;
    const fix = fixesIn(audit, still).find((f) => f.added.every((a) => a.severity !== 'error'));
    if (!fix) continue;
    audit.apply(fix.changes);
    append(changes, fix.changes);
    steps.push({ finding: still, label: fix.label });
  }
  const { findings } = audit.result;
  const change = compareFindings(before, findings);
  const gone = new Set(change.gone.map((f) => f.fingerprint));
  const left = wanted.filter((f) => !gone.has(f.fingerprint)).length;
  return { changes, steps, left, ...change };
}
