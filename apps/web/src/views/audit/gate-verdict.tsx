import type { Finding } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { countText } from '../../format.js';
import { SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { gateNow } from '../../session/gate.js';
import { useSessionState } from '../../session/session-context.js';
import { GROUPINGS, type FindingFilter } from './grouping.js';

/** What the gate says, and what of the findings is shown. */
export function GateVerdict({
  filter,
  shown,
  by,
  tools,
  onFilter,
}: {
  filter: FindingFilter;
  shown: number;
  by: string;
  tools: ReactNode;
  onFilter: (part: Record<string, string>) => void;
}): ReactNode {
  const state = useSessionState();
  const { id, audit, project } = state;
  const { findings, summary } = audit!;
  const { gate, failing } = gateNow(state);
  const level = project.policy?.gate ?? 'error';
  const stopping = findings.filter(
    (f) => !f.waived && (f.severity === 'error' || (level === 'warning' && f.severity === 'warning')),
  );
  const filtered = Object.values(filter).some((v: string) => v !== '');
  return (
    <div className="verdict">
      <h1 className={`fault ${gate === 'stop' ? 'error' : ''}`}>
        {gate === 'stop'
          ? `The gate stops this build: ${stopping.length > 0 || failing.length === 0 ? stopWords(stopping) : ''}`
          : 'The gate lets this build pass'}
        {failing.length > 0 && (
          <>
            {stopping.length > 0 && ' and '}
            <Link to={`/p/${id}/rehearse?shows=all`}>{countText(failing.length, 'failing rehearsal')}</Link>
          </>
        )}
      </h1>
      <div className="row" role="group" aria-label="Severity">
        {(['error', 'warning', 'info'] as const).map((s) => (
          <button
            key={s}
            type="button"
            className="tick"
            aria-pressed={filter.severity === s}
            onClick={() => onFilter({ severity: filter.severity === s ? '' : s, finding: '' })}
          >
            {countText(summary[s], SEVERITY_WORD[s])}
          </button>
        ))}
        <input
          className="line"
          style={{ flex: 1 }}
          aria-label="Search findings"
          placeholder="search rule, words or address"
          value={filter.text}
          onChange={(e) => onFilter({ text: e.target.value, finding: '' })}
        />
        {filtered && (
          <button
            type="button"
            className="word"
            onClick={() => onFilter({ rule: '', severity: '', asset: '', text: '', finding: '' })}
          >
            All {findings.length}
          </button>
        )}
      </div>
      <div className="row tools">
        <label>
          by{' '}
          <select
            className="line"
            aria-label="Grouped by"
            value={by}
            onChange={(e) => onFilter({ by: e.target.value === 'rule' ? '' : e.target.value })}
          >
            {GROUPINGS.map((g) => (
              <option key={g}>{g}</option>
            ))}
          </select>
        </label>
        {tools}
      </div>
      {filtered && (
        <div className="soft" role="status">
          {shown} of {findings.length} shown{filter.rule !== '' ? `, rule ${filter.rule}` : ''}
          {filter.asset !== '' ? `, ${filter.asset}` : ''}
        </div>
      )}
    </div>
  );
}
function stopWords(stopping: readonly Finding[]): string {
  const errors = stopping.filter((f) => f.severity === 'error').length;
  const warnings = stopping.length - errors;
  return [errors > 0 ? countText(errors, 'error') : '', warnings > 0 ? countText(warnings, 'warning') : '']
    .filter(Boolean)
    .join(' and ');
}
