import { audit } from '../audit/audit.js';
import { compareFindings, type FindingChange } from '../audit/compare.js';
import type { Finding } from '../audit/finding.js';
import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import type { Project } from '../project/types.js';
import { proposeFixes } from './propose.js';
import { append } from '../util/append.js';

/** One edit that cures several findings of a kind. */
export interface CureOfMany extends FindingChange {
  changes: Change[];
  /** What is done for each, in order. */
  steps: { finding: Finding; label: string }[];
  /** Findings of the kind that have no cure without new errors, or were not tried for their number. */
  left: number;
}
/** Findings that are tried at the most: each costs some audits. */
export const MOST_ALIKE = 40;

/**
 * Cures all findings of the same rule and class one after the other, each with the first cure that brings no new error.
 * Waived ones stay. Cost: an audit for each proposal of each finding.
 */
export function cureAlike(project: Project, like: Finding, today: string): CureOfMany {
  const before = audit(project, { today }).findings;
  const alike = (f: Finding): boolean => f.rule === like.rule && f.class === like.class && f.waived !== true;
  const steps: CureOfMany['steps'] = [];
  const changes: Change[] = [];
  let now = project;
  let findings: readonly Finding[] = before;
  const wanted = before.filter(alike);
  for (const finding of wanted.slice(0, MOST_ALIKE)) {
    // An earlier cure may have taken it away, or changed what it says.
    const still = findings.find((f) => f.fingerprint === finding.fingerprint);
    if (!still) continue;
    const cure = proposeFixes(now, still, today).find((c) => c.added.every((f) => f.severity !== 'error'));
    if (!cure) continue;
    now = applyChanges(now, cure.changes).project;
    findings = audit(now, { today }).findings;
    append(changes, cure.changes);
    steps.push({ finding: still, label: cure.label });
  }
  const gone = new Set(compareFindings(before, findings).gone.map((f) => f.fingerprint));
  const left = wanted.filter((f) => !gone.has(f.fingerprint)).length;
  return { changes, steps, left, ...compareFindings(before, findings) };
}
