import {
  applyChanges,
  audit,
  compareFindings,
  proposeFixes,
  type AuditResult,
  type Change,
  type Cure,
  type FindingChange,
  type Project,
} from '@oquel/core';
import { expose } from 'comlink';

export interface Audited {
  result: AuditResult;
  /** What the change did to the findings. */
  change: FindingChange;
}

/** Holds the open project beside the interface and audits it after every edit. */
const auditor = {
  project: null as Project | null,
  last: null as AuditResult | null,

  open(project: Project): AuditResult {
    auditor.project = project;
    auditor.last = audit(project, { today: today() });
    return auditor.last;
  },
  apply(changes: Change[]): Audited {
    const before = auditor.last;
    if (!auditor.project || !before) throw new Error('the auditor has no project');
    auditor.project = applyChanges(auditor.project, changes).project;
    auditor.last = audit(auditor.project, { today: today() });
    return { result: auditor.last, change: compareFindings(before.findings, auditor.last.findings) };
  },
  /** Cures for one of the findings as they are now, each tried; none if it is gone meanwhile. */
  cures(fingerprint: string): Cure[] {
    const finding = auditor.last?.findings.find((f) => f.fingerprint === fingerprint);
    return auditor.project && finding ? proposeFixes(auditor.project, finding, today()) : [];
  },
};
export type Auditor = typeof auditor;

function today(): string {
  return new Date().toISOString().slice(0, 10);
}

expose(auditor);
