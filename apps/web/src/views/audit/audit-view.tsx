import './audit.css';
import '../../parts/ui/rulehead.css';
import { useVirtualizer } from '@tanstack/react-virtual';
import { compareFindings, type Finding, mistakesOf, type Mistake } from '@oquel/core';
import {
  useEffect,
  useImperativeHandle,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
  type Ref,
} from 'react';
import { lookedAt } from '../../session/looked.js';
import { useSessionState } from '../../session/session-context.js';
import { Link, useNavigate } from 'react-router';
import { later } from '../../parts/later.js';
import { TabRow } from '../../parts/ui/tab-row.js';
import { placesOf } from '../../parts/places.js';
import { useContextMenu } from '../../parts/ui/context-menu.js';
import { queryNow, useQuery } from '../../parts/use-query.js';
import { gateNow } from '../../session/gate.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { findingChoices } from './finding-menu.js';
import { FindingView } from './finding-view.js';
import { Exports } from './exports.js';
import {
  filterFindings,
  groupFindings,
  GROUPINGS,
  type FindingFilter,
  type FindingGroup,
} from './grouping.js';
import { PolicyPanel } from './policy-panel.js';
import { Since, type Baseline } from './since.js';
import { WaiversPanel } from './waivers-panel.js';
import { countText } from '../../format.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';
import { showRow } from '../../parts/ui/show-row.js';

// Its charts are heavy and rarely looked at first.
const FiguresPanel = later(async () => (await import('./figures-panel.js')).FiguresPanel, {
  meanwhile: () => <p className="soft none">Counting ...</p>,
  isHeavy: true,
});

const TABS = ['findings', 'figures', 'policy', 'waivers'] as const;
type Row =
  | { kind: 'group'; group: FindingGroup }
  | { kind: 'finding'; finding: Finding }
  /** The same mistake in further places, shown or not. */
  | { kind: 'fold'; mistake: string; more: number; isOpen: boolean };
/** So many findings with the same mistake are folded to the first of them. */
const FOLDED = 3;

/** Whether it is fit to build: the gate, the findings by rule, and the one that is looked at. */
export function AuditView(): ReactNode {
  const { id: projectId, index, audit } = useSessionState();
  useEffect(() => lookedAt(projectId), [projectId]);
  const { params, go } = useQuery();
  const filter = {
    rule: params.get('rule') ?? '',
    severity: params.get('severity') ?? '',
    asset: params.get('asset') ?? '',
    text: params.get('text') ?? '',
  };
  const { rule, severity, asset, text } = filter;
  const by = GROUPINGS.find((g) => g === params.get('by')) ?? 'rule';
  const tab = TABS.find((t) => t === params.get('tab')) ?? 'findings';
  const [baseline, setBaseline] = useState<Baseline | null>(null);
  const since = useMemo(
    () => (baseline && audit ? compareFindings(baseline.findings, audit.findings) : null),
    [baseline, audit],
  );
  const shown = useMemo(
    () => filterFindings(since?.added ?? audit?.findings ?? [], { rule, severity, asset, text }),
    [audit, since, rule, severity, asset, text],
  );
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const wanted = params.get('finding');
  const rows = useMemo<Row[]>(
    () =>
      groupFindings(shown, by).flatMap((group) => [
        { kind: 'group', group },
        ...mistakesOf(index, group.findings).flatMap((m) => rowsOf(m, unfolded, wanted)),
      ]),
    [shown, by, index, unfolded, wanted],
  );
  const set = (part: Record<string, string>): void => go(part, 'finding' in part || 'text' in part);
  // Where the finding stood that is looked at: when it is fixed, the one that comes to stand there is shown.
  const seen = useRef<{ fingerprint: string; at: number } | null>(null);
  const panel = useSidePanel({
    name: 'audit',
    label: 'Width of the findings',
    side: 'left',
    share: 0.44,
    min: 360,
  });
  const list = useRef<HTMLDivElement>(null);
  if (!audit) return <div className="middle">Auditing ...</div>;
  const ordered = rows.flatMap((r) => (r.kind === 'finding' ? [r.finding] : []));
  const current = ordered.find((f) => f.fingerprint === wanted) ?? (wanted === null ? ordered[0] : undefined);
  const gone = wanted !== null && !audit.findings.some((f) => f.fingerprint === wanted);
  const next =
    gone && seen.current?.fingerprint === wanted
      ? ordered[Math.min(seen.current.at, ordered.length - 1)]
      : undefined;
  if (current) seen.current = { fingerprint: current.fingerprint, at: ordered.indexOf(current) };
  const tabs = <Tabs tab={tab} onChoose={(t) => set({ tab: t === 'findings' ? '' : t })} />;
  if (tab !== 'findings') {
    return (
      <div className="auditpanel">
        {tabs}
        {tab === 'figures' && <FiguresPanel onFilter={set} />}
        {tab === 'policy' && <PolicyPanel />}
        {tab === 'waivers' && (
          <WaiversPanel
            onShow={(fingerprint) =>
              set({ tab: '', rule: '', severity: '', asset: '', text: '', finding: fingerprint })
            }
          />
        )}
      </div>
    );
  }
  return (
    <div className="audit" style={panel.style}>
      {panel.divider}
      <div className="findings">
        {tabs}
        <Verdict
          filter={filter}
          shown={shown.length}
          by={by}
          tools={
            <>
              <Since
                baseline={baseline}
                since={since}
                build={params.get('since') ?? ''}
                onBuild={(since) => set({ since, finding: '' })}
                onChange={setBaseline}
              />
              <Exports since={since} />
            </>
          }
          onFilter={set}
        />
        <FindingList
          ref={list}
          rows={rows}
          ordered={ordered}
          current={current}
          onChoose={(f) => set({ finding: f.fingerprint })}
          onFold={(mistake) => {
            const next = new Set(unfolded);
            if (!next.delete(mistake)) next.add(mistake);
            setUnfolded(next);
          }}
        />
      </div>
      {next && (
        <GoOn
          key={next.fingerprint}
          onShow={() => {
            set({ finding: next.fingerprint });
            list.current?.focus();
          }}
        />
      )}
      {current ? (
        <FindingView key={current.fingerprint} finding={current} />
      ) : (
        <div className="middle">
          {gone ? (
            <p>This finding no longer exists.</p>
          ) : audit.findings.length === 0 ? (
            <p>No findings. The project is ready to build.</p>
          ) : (
            <p>Nothing matches. Clear the filter to see all findings.</p>
          )}
        </div>
      )}
    </div>
  );
}

/** The first of many with the same mistake, and the others where they are asked for or one of them is looked at. */
function rowsOf({ key, findings }: Mistake, unfolded: ReadonlySet<string>, wanted: string | null): Row[] {
  const all = findings.map((finding): Row => ({ kind: 'finding', finding }));
  if (findings.length < FOLDED) return all;
  const isOpen = unfolded.has(key) || findings.slice(1).some((f) => f.fingerprint === wanted);
  const fold: Row = { kind: 'fold', mistake: key, more: findings.length - 1, isOpen };
  return isOpen ? [all[0], fold, ...all.slice(1)] : [all[0], fold];
}

function Tabs({
  tab,
  onChoose,
}: {
  tab: (typeof TABS)[number];
  onChoose: (tab: (typeof TABS)[number]) => void;
}): ReactNode {
  return (
    <TabRow
      label="Audit"
      className="undertabs"
      tabs={TABS.map((t) => ({ value: t, text: t[0].toUpperCase() + t.slice(1) }))}
      value={tab}
      onChoose={onChoose}
    />
  );
}

function Verdict({
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

/** Leads on to the next finding once the one that was looked at is gone. */
function GoOn({ onShow }: { onShow: () => void }): ReactNode {
  const show = useRef(onShow);
  useEffect(() => show.current(), []);
  return null;
}

function FindingList({
  ref,
  rows,
  ordered,
  current,
  onChoose,
  onFold,
}: {
  ref: Ref<HTMLDivElement>;
  rows: readonly Row[];
  ordered: readonly Finding[];
  current: Finding | undefined;
  onChoose: (f: Finding) => void;
  onFold: (mistake: string) => void;
}): ReactNode {
  const box = useRef<HTMLDivElement>(null);
  useImperativeHandle(ref, () => box.current!);
  const { id, index } = useSessionState();
  const navigate = useNavigate();
  const { params, go } = useQuery();
  const { onContextMenu, menu } = useContextMenu(
    (target) => {
      const fingerprint = target.closest<HTMLElement>('[data-fingerprint]')?.dataset.fingerprint;
      const finding =
        ordered.find((f) => f.fingerprint === fingerprint) ?? (target === box.current ? current : undefined);
      if (finding) onChoose(finding);
      return finding ?? null;
    },
    (finding) =>
      findingChoices(finding, {
        places: placesOf(index, `/p/${id}`, finding, 3),
        to: (href) => void navigate(href),
        isFiltered: params.get('rule') === finding.rule,
        only: (rule) => go({ rule }),
      }),
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (rows[i].kind === 'group' ? 36 : 30),
    overscan: 12,
  });
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    e.preventDefault();
    const wanted = queryNow().get('finding') ?? current?.fingerprint;
    const at = ordered.findIndex((f) => f.fingerprint === wanted);
    const next = ordered[Math.max(0, Math.min(ordered.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))];
    if (!next) return;
    onChoose(next);
    showRow(
      virtual,
      rows.findIndex((r) => r.kind === 'finding' && r.finding === next),
    );
  };
  return (
    <div
      className="scroll"
      ref={box}
      tabIndex={0}
      role="group"
      aria-label="Findings, arrow keys move"
      onKeyDown={onKeyDown}
      onContextMenu={onContextMenu}
    >
      {menu}
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
          if (row.kind === 'fold') {
            return (
              <button
                key={item.key}
                type="button"
                className="foldrow"
                style={style}
                aria-expanded={row.isOpen}
                onClick={() => onFold(row.mistake)}
              >
                {row.isOpen ? 'Fold' : 'Show'} {row.more} more with the same mistake
              </button>
            );
          }
          return row.kind === 'group' ? (
            <div key={item.key} className="rulehead" style={style}>
              <span className="n">{row.group.findings.length}</span>
              <b>{row.group.name}</b>
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
              data-fingerprint={row.finding.fingerprint}
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
