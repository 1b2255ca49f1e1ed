import './audit.css';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Finding } from '@oquel/core';
import { useEffect, useMemo, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { useSessionState } from '../../session/session-context.js';
import { countText, SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { FindingView } from './finding-view.js';
import { filterFindings, groupByRule, type RuleGroup } from './grouping.js';

type Row = { kind: 'rule'; group: RuleGroup } | { kind: 'finding'; finding: Finding };

/** Whether it is fit to build: the gate, the findings by rule, and the one that is looked at. */
export function AuditView(): ReactNode {
  const { audit } = useSessionState();
  const [params, setParams] = useSearchParams();
  const filter = {
    rule: params.get('rule') ?? '',
    severity: params.get('severity') ?? '',
    text: params.get('text') ?? '',
  };
  const { rule, severity, text } = filter;
  const shown = useMemo(
    () => filterFindings(audit?.findings ?? [], { rule, severity, text }),
    [audit, rule, severity, text],
  );
  const rows = useMemo<Row[]>(
    () =>
      groupByRule(shown).flatMap((group) => [
        { kind: 'rule', group },
        ...group.findings.map((finding): Row => ({ kind: 'finding', finding })),
      ]),
    [shown],
  );
  const set = (part: Record<string, string>): void =>
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        for (const [k, v] of Object.entries(part)) {
          if (v === '') next.delete(k);
          else next.set(k, v);
        }
        return next;
      },
      { replace: 'finding' in part || 'text' in part },
    );
  if (!audit) return <div className="middle">Auditing ...</div>;
  const ordered = rows.flatMap((r) => (r.kind === 'finding' ? [r.finding] : []));
  const wanted = params.get('finding');
  const current = ordered.find((f) => f.fingerprint === wanted) ?? (wanted === null ? ordered[0] : undefined);
  const gone = wanted !== null && !audit.findings.some((f) => f.fingerprint === wanted);
  return (
    <div className="audit">
      <div className="findings">
        <Verdict filter={filter} shown={shown.length} onFilter={set} />
        <FindingList
          rows={rows}
          ordered={ordered}
          current={current}
          onChoose={(f) => set({ finding: f.fingerprint })}
        />
      </div>
      {current ? (
        <FindingView key={current.fingerprint} finding={current} />
      ) : (
        <div className="middle">
          {gone ? (
            <p>This finding is gone.</p>
          ) : audit.findings.length === 0 ? (
            <p>No findings at all. The project is fit to build.</p>
          ) : (
            <p>Nothing matches. Clear the filter to see all findings.</p>
          )}
        </div>
      )}
    </div>
  );
}

function Verdict({
  filter,
  shown,
  onFilter,
}: {
  filter: { rule: string; severity: string; text: string };
  shown: number;
  onFilter: (part: Record<string, string>) => void;
}): ReactNode {
  const { audit, project } = useSessionState();
  const { gate, findings, summary } = audit!;
  const level = project.policy?.gate ?? 'error';
  const stopping = findings.filter(
    (f) => !f.waived && (f.severity === 'error' || (level === 'warning' && f.severity === 'warning')),
  );
  const filtered = filter.rule !== '' || filter.severity !== '' || filter.text !== '';
  return (
    <div className="verdict">
      <h1 className={`fault ${gate === 'stop' ? 'error' : ''}`}>
        {gate === 'stop'
          ? `The gate stops this build: ${stopWords(stopping)}`
          : 'The gate lets this build pass'}
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
            onClick={() => onFilter({ rule: '', severity: '', text: '', finding: '' })}
          >
            All {findings.length}
          </button>
        )}
      </div>
      {filtered && (
        <div className="soft" role="status">
          {shown} of {findings.length} shown{filter.rule !== '' ? `, rule ${filter.rule}` : ''}
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

function FindingList({
  rows,
  ordered,
  current,
  onChoose,
}: {
  rows: readonly Row[];
  ordered: readonly Finding[];
  current: Finding | undefined;
  onChoose: (f: Finding) => void;
}): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (rows[i].kind === 'rule' ? 36 : 30),
    overscan: 12,
  });
  // The address changes a little later than the keys are pressed.
  const latest = useRef(current);
  useEffect(() => {
    latest.current = current;
  }, [current]);
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    e.preventDefault();
    const at = latest.current ? ordered.indexOf(latest.current) : -1;
    const next = ordered[Math.max(0, Math.min(ordered.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))];
    if (!next) return;
    latest.current = next;
    onChoose(next);
    virtual.scrollToIndex(rows.findIndex((r) => r.kind === 'finding' && r.finding === next));
  };
  return (
    <div
      className="scroll"
      ref={box}
      tabIndex={0}
      role="group"
      aria-label="Findings, arrow keys move"
      onKeyDown={onKeyDown}
    >
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          const style = {
            position: 'absolute',
            top: item.start,
            left: 0,
            right: 0,
            height: item.size,
          } as const;
          return row.kind === 'rule' ? (
            <div key={item.key} className="rulehead" style={style}>
              <span className="n">{row.group.findings.length}</span>
              <b>{row.group.rule}</b>
            </div>
          ) : (
            <button
              key={item.key}
              type="button"
              className="findingrow"
              style={style}
              tabIndex={-1}
              aria-current={row.finding === current}
              data-rule={row.finding.rule}
              onClick={() => onChoose(row.finding)}
            >
              <SeverityMark severity={row.finding.severity} label={SEVERITY_WORD[row.finding.severity]} />
              <span className="text" title={row.finding.message}>
                {row.finding.message}
              </span>
              <span className="soft">
                {row.finding.waived ? 'waived ' : ''}
                {row.finding.occurrences.length > 1 ? `× ${row.finding.occurrences.length}` : ''}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
