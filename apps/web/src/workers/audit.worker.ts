import {
  compareFindings,
  LiveAudit,
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
  live: null as LiveAudit | null,

  open(project: Project): AuditResult {
    auditor.live = new LiveAudit(project, today());
    return auditor.live.result;
  },
  apply(changes: Change[]): Audited {
    if (!auditor.live) throw new Error('the auditor has no project');
    const before = auditor.live.result;
    const result = auditor.live.apply(changes);
    return { result, change: compareFindings(before.findings, result.findings) };
  },
  /** Cures for one of the findings as they are now, each tried; none if it is gone meanwhile. */
  cures(fingerprint: string): Cure[] {
    const finding = auditor.live?.result.findings.find((f) => f.fingerprint === fingerprint);
    return auditor.live && finding ? proposeFixes(auditor.live.project, finding, today()) : [];
  },
};
export type Auditor = typeof auditor;

function today(): string {
  return new Date().toISOString().slice(0, 10);
}

expose(auditor);
