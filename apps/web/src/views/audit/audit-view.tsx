import './audit.css';
import './audit-panels.css';
import '../../parts/ui/rulehead.css';
import { compareFindings, mistakesOf } from '@oquel/core';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { lookedAt } from '../../session/looked.js';
import { useSessionState } from '../../session/session-context.js';
import { later } from '../../parts/later.js';
import { TabRow } from '../../parts/ui/tab-row.js';
import { useQuery } from '../../parts/use-query.js';
import { FindingList } from './finding-list.js';
import { rowsOf, type Row } from './finding-rows.js';
import { FindingView } from './finding-view.js';
import { Exports } from './exports.js';
import { filterFindings, groupFindings, GROUPINGS } from './grouping.js';
import { GateVerdict } from './gate-verdict.js';
import { PolicyPanel } from './policy-panel.js';
import { Since, type Baseline } from './since.js';
import { WaiversPanel } from './waivers-panel.js';
import { useSidePanel } from '../../parts/ui/side-panel.js';

// Its charts are heavy and rarely looked at first.
const FiguresPanel = later(async () => (await import('./figures-panel.js')).FiguresPanel, {
  meanwhile: () => <p className="soft none">Counting ...</p>,
  isHeavy: true,
});

const TABS = ['findings', 'figures', 'policy', 'waivers'] as const;
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
        <GateVerdict
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

/** Leads on to the next finding once the one that was looked at is gone. */
function GoOn({ onShow }: { onShow: () => void }): ReactNode {
  const show = useRef(onShow);
  useEffect(() => show.current(), []);
  return null;
}
