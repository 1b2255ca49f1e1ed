import type { AuditResult, Project, WorkStep } from '@oquel/core';
import { proxy } from 'comlink';
import type { Report } from '../workers/in-slices.js';
import { today, type AuditorPort } from './auditor-questions.js';
import type { Watched } from './watched.js';

/** An audit from the beginning that runs, or is done. */
export interface BegunAudit {
  result: Promise<AuditResult>;
  /** The date by which it judges waivers. */
  today: string;
  /** How far it is. */
  step: Watched<WorkStep | null>;
}

/** Has a project audited, or the text of what the server has opened; it is given up once nobody wants it any more. */
export function beginAudit(
  auditor: Pick<AuditorPort, 'open'>,
  project: Project | string,
  step: Watched<WorkStep | null>,
  isWanted: () => boolean,
): BegunAudit {
  const report: Report = (now) => {
    if (isWanted()) step.set(now);
    return isWanted();
  };
  const date = today();
  const result = auditor.open(project, date, proxy(report));
  // Whoever waits for it hears of an error; until then it is not unheard.
  result.catch(() => undefined);
  return { result, today: date, step };
}
