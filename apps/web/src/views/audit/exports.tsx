import {
  auditCsv,
  auditJunit,
  auditSarif,
  stopsGate,
  type AuditResult,
  type FindingChange,
  type ProjectIndex,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { saveFile } from '../../parts/save-file.js';
import { useSessionState } from '../../session/session-context.js';

const WAYS = {
  JSON: ['audit.json', 'application/json'],
  SARIF: ['audit.sarif', 'application/sarif+json'],
  JUnit: ['audit.xml', 'application/xml'],
  CSV: ['audit.csv', 'text/csv'],
} as const;

/** The audit as files, made here by the same code as the command line's. */
export function Exports({ since }: { since: FindingChange | null }): ReactNode {
  const { audit, project, index } = useSessionState();
  if (!audit) return null;
  const level = project.policy?.gate ?? 'error';
  return (
    <span className="exports" role="group" aria-label="Save the audit as">
      {(Object.keys(WAYS) as (keyof typeof WAYS)[]).map((way) => (
        <button
          key={way}
          type="button"
          className="word"
          title={`Save as ${WAYS[way][0]}`}
          onClick={() => saveFile(WAYS[way][0], WAYS[way][1], textOf(way, index, audit, level, since))}
        >
          {way}
        </button>
      ))}
    </span>
  );
}

function textOf(
  way: keyof typeof WAYS,
  index: ProjectIndex,
  audit: AuditResult,
  level: 'error' | 'warning',
  since: FindingChange | null,
): string {
  switch (way) {
    case 'JSON':
      return `${JSON.stringify(audit, null, 2)}\n`;
    case 'SARIF': {
      const artifact = `${encodeURIComponent(audit.project)}.oquel.json`;
      const guide = new URL('/guide', window.location.href).href;
      const options = { artifact, index, guide, ...(since ? { since } : {}) };
      return `${JSON.stringify(auditSarif(audit, options), null, 2)}\n`;
    }
    case 'JUnit': {
      const isNew = since && new Set(since.added.map((f) => f.fingerprint));
      const stops = stopsGate(level);
      return auditJunit(audit, {
        stops: (f) => stops(f) && (!isNew || isNew.has(f.fingerprint)),
        waivers: index.project.waivers ?? [],
      });
    }
    case 'CSV':
      return auditCsv(audit);
  }
}
